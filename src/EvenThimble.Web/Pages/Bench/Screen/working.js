// @ts-check
/** Work that takes longer than a moment is shown, and can be stopped; nothing is kept of it then. */
import { say } from "../../Shared/site.js";

const patienceMs = 500;

/** @param {import("./trial.js").Trial} trial @param {() => Promise<unknown>} bringState */
export function showWork(trial, bringState) {
  const working = /** @type {HTMLElement} */ (document.getElementById("working"));
  /** @type {Map<XMLHttpRequest, number>} requests under way, with the timers that show them; what sent them may be gone by the time they are answered */
  const underWay = new Map();
  document.addEventListener("htmx:beforeRequest", (event) => {
    const { xhr, requestConfig } = /** @type {CustomEvent} */ (event).detail;
    if (requestConfig?.verb?.toLowerCase() !== "post") return;
    underWay.set(xhr, window.setTimeout(() => (working.hidden = false), patienceMs));
    xhr.addEventListener("loadend", () => {
      clearTimeout(underWay.get(xhr));
      underWay.delete(xhr);
      if (underWay.size === 0) working.hidden = true;
    });
  });
  document.getElementById("stop-working")?.addEventListener("click", () => {
    for (const xhr of [...underWay.keys()]) xhr.abort();
    working.hidden = true;
    trial.end();
    // Should it have been kept at the last moment, the page says so.
    void bringState().then(() => say("Stopped."));
  });
}
