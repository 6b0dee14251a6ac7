// @ts-check
/** The Monogram task: what is typed or chosen lies on the cloth at once, and the pictures show it in the person's own letters. */

const waitMs = 40;
const picturesWaitMs = 500;

/** @param {import("../Screen/bench.js").Bench} bench */
export function mount({ state, trial }) {
  let due = 0;
  let picturesDue = 0;
  const formNow = () => /** @type {HTMLFormElement | null} */ (document.getElementById("monogram-form"));

  document.addEventListener("input", (event) => {
    const form = /** @type {Element} */ (event.target).closest("form");
    if (form?.id !== "monogram-form") return;
    const values = Object.fromEntries([...new FormData(/** @type {HTMLFormElement} */ (form))].map(([name, value]) => [name, String(value)]));
    showFields(values);
    clearTimeout(due);
    clearTimeout(picturesDue);
    if (values.letters.trim() === "") return trial.end();
    due = window.setTimeout(() => void trial.show("monogram", values), waitMs);
    picturesDue = window.setTimeout(() => showPictures(values), picturesWaitMs);
  });
  state.addEventListener("card", () => {
    clearTimeout(due);
    const form = formNow();
    if (form) showFields(Object.fromEntries([...new FormData(form)].map(([name, value]) => [name, String(value)])));
  });
  state.addEventListener("kept", () => clearTimeout(due));

  /** Of a name it is asked which initial goes in the middle; the distance only where there is something around. @param {Record<string, string>} values */
  function showFields(values) {
    const order = document.getElementById("monogram-order");
    if (order) order.hidden = !isName(values.letters);
    const around = document.getElementById("monogram-around");
    if (around) around.hidden = !values.frame;
  }

  /** @param {string} text */
  const isName = (text) => [...text.replace(/[ .]/g, "")].length > 3;

  /** @param {Record<string, string>} values */
  function showPictures(values) {
    const words = values.letters.split(/[\s.-]+/).filter(Boolean).map((word) => [...word][0]);
    const [given, second] = words;
    const last = words.at(-1) ?? "";
    const letters = isName(values.letters) ? (words.length < 3 ? words : values.order === "AsRead" ? [given, second, last] : [given, last, second]).join("").toUpperCase() : values.letters.replace(/[ .]/g, "");
    const picture = (/** @type {string} */ layout, /** @type {string} */ frame) => `/letters/monogram.png?${new URLSearchParams({ letters, layout, frame, font: values.font })}`;
    for (const img of /** @type {NodeListOf<HTMLImageElement>} */ (document.querySelectorAll("#monogram-layouts img"))) img.src = picture(img.dataset.layout ?? "", "");
    for (const img of /** @type {NodeListOf<HTMLImageElement>} */ (document.querySelectorAll("#monogram-frames img"))) img.src = picture(values.layout, img.dataset.frame ?? "");
  }
}
