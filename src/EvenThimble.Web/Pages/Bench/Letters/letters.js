// @ts-check
/** The Letters task: what is typed lies on the cloth at once, and is kept when it is written. */

const waitMs = 90;

/** @param {import("../Screen/bench.js").Bench} bench */
export function mount({ state, trial }) {
  let due = 0;
  let laying = false;

  /** @param {HTMLFormElement} form */
  const lay = (form) => {
    clearTimeout(due);
    const values = Object.fromEntries([...new FormData(form)].map(([name, value]) => [name, String(value)]));
    if (values.text.trim() === "") return leave();
    state.coming = form.dataset.colour ?? state.coming;
    due = window.setTimeout(() => {
      laying = true;
      void trial.show("write", values);
    }, waitMs);
  };
  const leave = () => {
    clearTimeout(due);
    if (laying) trial.end();
    laying = false;
  };

  document.addEventListener("input", (event) => {
    const form = /** @type {Element} */ (event.target).closest("form");
    if (form?.id === "letters-form") lay(form);
  });
  // Another card, be it of another task or another lettering: what was only tried goes.
  state.addEventListener("card", leave);
  state.addEventListener("kept", () => {
    clearTimeout(due);
    laying = false;
  });
}
