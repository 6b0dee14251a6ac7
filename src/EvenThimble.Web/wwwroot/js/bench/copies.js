// @ts-check
/** Copies from job to job, and designs that are dragged from the card onto the cloth. */
import { say } from "../site.js";
import { post } from "./post.js";

const place = "thimble.copied";

/** Remembers which parts of which job are to be copied; another tab of the shop can put them into another job. @param {import("./state.js").BenchState} state */
export function copySelected(state) {
  if (state.selected.size === 0) return say("Nothing is selected. Choose a part on the cloth or on the sewing line first.");
  localStorage.setItem(place, JSON.stringify({ from: state.job, copied: [...state.selected].join(), times: 0 }));
  say(state.selected.size === 1 ? "Copied. Ctrl+V puts it in, here or in another job." : `Copied ${state.selected.size} parts. Ctrl+V puts them in, here or in another job.`);
}

export function pasteCopied() {
  const copied = JSON.parse(localStorage.getItem(place) ?? "null");
  if (!copied) return say("Nothing is copied yet. Select parts and press Ctrl+C.");
  copied.times++;
  localStorage.setItem(place, JSON.stringify(copied));
  void post("Paste", { from: String(copied.from), copied: String(copied.copied), times: String(copied.times) });
}

/** @param {import("./cloth.js").Cloth} cloth */
export function dropDesigns(cloth) {
  const kind = "application/x-thimble-design";
  document.addEventListener("dragstart", (event) => {
    const id = /** @type {HTMLElement | null} */ (/** @type {Element} */ (event.target).closest?.("[data-bring]"))?.dataset.bring;
    if (id) event.dataTransfer?.setData(kind, id);
  });
  cloth.root.addEventListener("dragover", (event) => {
    if (event.dataTransfer?.types.includes(kind)) event.preventDefault();
  });
  cloth.root.addEventListener("drop", (event) => {
    const id = event.dataTransfer?.getData(kind);
    if (!id) return;
    event.preventDefault();
    const box = cloth.root.getBoundingClientRect();
    const [x, y] = cloth.toCloth(event.clientX - box.left, event.clientY - box.top);

    // Others that are ticked come along, and what was agreed about threads holds for them.
    const form = new FormData(/** @type {HTMLFormElement | undefined} */ (document.getElementById("bringing")));
    const designs = [...new Set([id, ...form.getAll("design").map(String)])];
    void post("BringDesigns", /** @type {any} */ ({ design: designs, same: form.getAll("same").map(String), x: x.toFixed(2), y: y.toFixed(2) }));
  });
}
