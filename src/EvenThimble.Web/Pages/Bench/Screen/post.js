// @ts-check
/** Commands go to the server as ordinary posts and come back as everything that they change on the screen. */

import { postHeaders } from "../../Shared/site.js";

// Requests of one element drop each other while one is under way; commands have an element of their own, so that nothing can drop them.
const sender = /** @type {Element} */ (document.getElementById("line-track"));
const job = JSON.parse(document.getElementById("bench")?.dataset.state ?? "{}").job;

/** @type {Promise<unknown>} */
let last = Promise.resolve();

let selectedParts = () => "";

/** Tells where the ids of the selected parts are asked for. @param {() => string} ask ids with commas */
export function postsConcern(ask) {
  selectedParts = ask;
}

/** The address of a part of the bench, or of what a task answers. @param {string} name */
export const partOf = (name) => `/jobs/${job}/part/${name}`;

/** The address that tries a command. @param {string} command */
export const tryOf = (command) => `/jobs/${job}/try/${command}`;

/**
 * Does a command to what is selected now, even if another selection is made before it is sent; one after another, so that each names the version that the one before made.
 * @param {string} command
 * @param {Record<string, string | string[]>} [values]
 * @returns {Promise<void>}
 */
export function post(command, values = {}) {
  values = { parts: selectedParts(), ...values };
  const next = last.then(() => window.htmx.ajax("POST", `/jobs/${job}/do/${command}`, { values, swap: "none", target: "#said", source: sender }));
  // What fails or is stopped has been told by then; what waits for this one goes on.
  const done = next.catch(() => undefined);
  last = done;
  return done;
}

/**
 * Does a command as the page is left, when requests of the page itself are given up.
 * @param {string} command
 * @param {Record<string, string>} values with the version that was seen
 */
export function postLeaving(command, values) {
  void fetch(`/jobs/${job}/do/${command}`, { method: "POST", keepalive: true, headers: postHeaders, body: new URLSearchParams(values) });
}

/** @param {number} mm @param {string} unit */
export function formatMm(mm, unit) {
  return unit === "in" ? `${(mm / 25.4).toFixed(2)} in` : `${mm.toFixed(1)} mm`;
}
