// @ts-check
/** The Threads task: a thread is seen on the selected parts before it is taken; threads are found by look. */

/** @param {import("../Screen/bench.js").Bench} bench */
export function mount({ state }) {
  for (const [on, off] of [["pointerover", "pointerout"], ["focusin", "focusout"]]) {
    document.addEventListener(on, (event) => {
      const button = /** @type {HTMLElement | null} */ (/** @type {Element} */ (event.target).closest?.("[data-preview]"));
      if (button && state.selected.size) state.setPreview(button.dataset.preview ?? null);
    });
    document.addEventListener(off, (event) => /** @type {Element} */ (event.target).closest?.("[data-preview]") && state.setPreview(null));
  }
  document.addEventListener("click", (event) => {
    const look = /** @type {HTMLElement | null} */ (/** @type {Element} */ (event.target).closest("[data-look]"))?.dataset.look;
    if (look) lookLike(look);
  });
  document.addEventListener("input", (event) => {
    const target = /** @type {HTMLInputElement} */ (event.target);
    if (target.id !== "look-like") return;
    event.stopPropagation();
    lookLike(target.value);
  });

  /** @param {string} colour */
  function lookLike(colour) {
    const find = /** @type {HTMLInputElement | null} */ (document.getElementById("find-thread"));
    if (!find) return;
    find.value = colour;
    find.dispatchEvent(new Event("input", { bubbles: true }));
  }
}
