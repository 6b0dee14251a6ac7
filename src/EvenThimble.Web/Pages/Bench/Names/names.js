// @ts-check
/** The Names task: rules of the slot are tried on the cloth as they are typed; a field is put where the cursor stands. */

const waitMs = 60;

/** @param {import("../Screen/bench.js").Bench} bench */
export function mount({ state, trial }) {
  let due = 0;
  const formNow = () => /** @type {HTMLFormElement | null} */ (document.getElementById("slot-form"));

  document.addEventListener("input", (event) => {
    const form = formNow();
    if (!form || /** @type {Element} */ (event.target).closest("form") !== form) return;
    clearTimeout(due);
    const values = Object.fromEntries([...new FormData(form)].map(([name, value]) => [name, String(value)]));
    state.coming = form.dataset.colour ?? state.coming;
    due = window.setTimeout(() => void trial.show("slot", values), waitMs);
  });
  document.addEventListener("click", (event) => {
    const chip = /** @type {HTMLElement | null} */ (/** @type {Element} */ (event.target).closest("[data-insert-field]"));
    const pattern = /** @type {HTMLTextAreaElement | null} */ (document.getElementById("slot-pattern"));
    if (!chip || !pattern) return;
    pattern.setRangeText(chip.dataset.insertField ?? "", pattern.selectionStart, pattern.selectionEnd, "end");
    pattern.focus();
    pattern.dispatchEvent(new Event("input", { bubbles: true }));
  });
  state.addEventListener("card", () => clearTimeout(due));
  state.addEventListener("kept", () => clearTimeout(due));
}
