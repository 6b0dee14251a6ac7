// @ts-check
/** The Cloth task: a cloth is looked at beside the one that lies there now, before it is laid. */

/** @param {import("../Screen/bench.js").Bench} bench */
export function mount({ state, trial }) {
  document.addEventListener("change", (event) => {
    const select = /** @type {HTMLSelectElement} */ (event.target);
    if (select.id !== "cloth-kind") return;
    event.stopPropagation();
    const now = select.dataset.now ?? "", other = select.value !== now;
    for (const id of ["before-after", "lay-on"]) /** @type {HTMLElement} */ (document.getElementById(id)).hidden = !other;
    if (!other) return trial.end();
    /** @type {HTMLImageElement} */ (document.getElementById("cloth-before")).src = `/jobs/${state.job}/on/${now}.png?v=${state.version}`;
    /** @type {HTMLImageElement} */ (document.getElementById("cloth-after")).src = `/jobs/${state.job}/on/${select.value}.png?v=${state.version}`;
    void trial.show("cloth", { kind: select.value });
  });
  state.addEventListener("trial", () => {
    const count = document.getElementById("cloth-after-count");
    if (count && state.plan) count.textContent = state.plan.stitchesBefore(state.plan.count).toLocaleString("en");
  });
}
