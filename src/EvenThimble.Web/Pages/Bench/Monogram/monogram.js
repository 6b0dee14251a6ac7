// @ts-check
/** The Monogram task: what is typed or chosen lies on the cloth at once, and the pictures show it in the person's own letters. */

const waitMs = 40;
const picturesWaitMs = 700;

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
    state.coming = formNow()?.dataset.colour ?? state.coming;
    due = window.setTimeout(() => void trial.show("monogram", values), waitMs);
    picturesDue = window.setTimeout(() => showPictures(values), picturesWaitMs);
  });
  state.addEventListener("card", () => {
    clearTimeout(due);
    const form = formNow();
    seen.disconnect();
    if (!form) return;
    const values = Object.fromEntries([...new FormData(form)].map(([name, value]) => [name, String(value)]));
    showFields(values);
    showPictures(values);
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

  // Only pictures that are seen are asked for: each is sewn for it.
  const seen = new IntersectionObserver((entries) => {
    for (const { target, isIntersecting } of entries) {
      const img = /** @type {HTMLImageElement} */ (target);
      img.dataset.seen = isIntersecting ? "yes" : "";
      if (isIntersecting && img.dataset.wanted && img.getAttribute("src") !== img.dataset.wanted) img.src = img.dataset.wanted;
    }
  });

  /** @param {Record<string, string>} values */
  function showPictures(values) {
    const words = values.letters.split(/[\s.-]+/).filter(Boolean).map((word) => [...word][0]);
    const [given, second] = words;
    const last = words.at(-1) ?? "";
    const letters = isName(values.letters) ? (words.length < 3 ? words : values.order === "AsRead" ? [given, second, last] : [given, last, second]).join("").toUpperCase() : values.letters.replace(/[ .]/g, "");
    const shown = letters || (formNow()?.dataset.shown ?? "");
    for (const img of /** @type {NodeListOf<HTMLImageElement>} */ (document.querySelectorAll("#monogram-form .pictured img"))) {
      const [layout, frame] = [img.dataset.layout ?? values.layout, img.dataset.frame ?? ""];
      img.dataset.wanted = `/letters/monogram.png?${new URLSearchParams({ letters: shown, layout, frame, font: values.font })}`;
      if (img.dataset.seen) img.src = img.dataset.wanted;
      seen.observe(img);
    }
  }
}
