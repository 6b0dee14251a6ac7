// @ts-check
/** Edits go to the server as ordinary posts and come back as everything that they change on the screen. */

// Requests of one element drop each other while one is under way; edits have an element of their own, so that nothing can drop them.
const sender = /** @type {Element} */ (document.getElementById("line-track"));

/** @type {Promise<unknown>} */
let last = Promise.resolve();

let selectedParts = () => "";

/** Tells where the ids of the selected parts are asked for. @param {() => string} ask ids with commas */
export function postsConcern(ask) {
  selectedParts = ask;
}

/**
 * Posts an edit of what is selected now, even if another selection is made before it is sent; one after another, so that each names the version that the one before made.
 * @param {string} handler
 * @param {Record<string, string>} [values]
 * @returns {Promise<void>}
 */
export function post(handler, values = {}) {
  values = { parts: selectedParts(), ...values };
  const next = last.then(() => window.htmx.ajax("POST", `?handler=${handler}`, { values, swap: "none", target: "#said", source: sender }));
  // What fails or is stopped has been told by then; what waits for this one goes on.
  const done = next.catch(() => undefined);
  last = done;
  return done;
}

/** @param {number} mm @param {string} unit */
export function formatMm(mm, unit) {
  return unit === "in" ? `${(mm / 25.4).toFixed(2)} in` : `${mm.toFixed(1)} mm`;
}
