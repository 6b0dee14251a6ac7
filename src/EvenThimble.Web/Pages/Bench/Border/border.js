// @ts-check
/** The Border task: the border lies on the cloth as it would be while it is chosen. */

const waitMs = 40;

/** @param {import("../Screen/bench.js").Bench} bench */
export function mount({ state, trial }) {
  let due = 0;
  const form = () => /** @type {HTMLFormElement | null} */ (document.getElementById("border-form"));
  const values = () => Object.fromEntries([...new FormData(/** @type {HTMLFormElement} */ (form()))].map(([name, value]) => [name, String(value)]));
  document.addEventListener("input", (event) => {
    if (/** @type {Element} */ (event.target).closest("form")?.id !== "border-form") return;
    showFields();
    clearTimeout(due);
    state.coming = form()?.dataset.colour ?? state.coming;
    due = window.setTimeout(() => void trial.show("border", values()), waitMs);
  });
  state.addEventListener("card", () => {
    clearTimeout(due);
    showFields();
  });
  state.addEventListener("kept", () => clearTimeout(due));

  /** Along its sides a border has no form of its own; what it is made of is asked for where that is something drawn. */
  function showFields() {
    if (!form()) return;
    show("[data-all-round]", values().sides === "AllRound");
    show("[data-own]", values().frame === "own");
  }

  /** @param {string} which @param {boolean} shown */
  function show(which, shown) {
    for (const field of /** @type {NodeListOf<HTMLElement>} */ (document.querySelectorAll(`#border-form ${which}`))) field.hidden = !shown;
  }
}
