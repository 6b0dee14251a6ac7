// @ts-check
/** Edits go to the server as ordinary posts and come back as everything that they change on the screen. */

/** @type {Promise<unknown>} */
let last = Promise.resolve();

/**
 * Posts an edit; one after another, so that each names the version that the one before made.
 * @param {string} handler
 * @param {Record<string, string>} [values]
 * @returns {Promise<void>}
 */
export function post(handler, values = {}) {
  const next = last.then(() => window.htmx.ajax("POST", `?handler=${handler}`, { values, swap: "none", target: "#said" }));
  last = next.catch(() => undefined);
  return next;
}

/** @param {number} mm @param {string} unit */
export function formatMm(mm, unit) {
  return unit === "in" ? `${(mm / 25.4).toFixed(2)} in` : `${mm.toFixed(1)} mm`;
}
