// @ts-check
/** The Add task: lines drawn on the cloth, points of shapes, designs dragged in. */
import { pointsTool } from "../Screen/points.js";
import { nodesTool } from "./nodes.js";

/** @param {import("../Screen/bench.js").Bench} bench */
export function mount(bench) {
  const { cloth, state, tools, post } = bench;
  /** @param {string} kind */
  const drawn = (kind) => (/** @type {string} */ points, /** @type {boolean} */ closed) => void post("draw", { kind, points, closed: String(closed) });
  tools.offer(pointsTool(bench, "line", {
    hint: "Click the points. Enter or a double click ends the line, a click on its first point closes it, Backspace takes back, Escape leaves. Or move with the arrows and set a point with Space.",
    done: drawn("line"),
  }));
  tools.offer(pointsTool(bench, "curve", { hint: "Click the points that the curve runs through. Enter or a double click ends it, a click on the first closes it.", done: drawn("curve") }));
  tools.offer(pointsTool(bench, "arc", { hint: "Click its start, a place on it, and its end.", most: 3, done: drawn("arc") }));
  tools.offer(nodesTool(bench));
  dragDesigns();

  // Of the sizes of a shape only those are asked that it has.
  const showSizes = () => {
    const shape = /** @type {HTMLInputElement | null} */ (document.querySelector('#shape-form [name="shape"]:checked'))?.value ?? "";
    for (const label of document.querySelectorAll("#shape-form [data-for]")) /** @type {HTMLElement} */ (label).hidden = !(/** @type {HTMLElement} */ (label).dataset.for?.split(" ").includes(shape));
  };
  document.addEventListener("change", (event) => /** @type {HTMLInputElement} */ (event.target).name === "shape" && showSizes());
  state.addEventListener("card", showSizes);
  showSizes();

  function dragDesigns() {
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
      const design = [...new Set([id, ...form.getAll("design").map(String)])];
      void post("bring-designs", { design, same: form.getAll("same").map(String), x: x.toFixed(2), y: y.toFixed(2) });
    });
  }
}
