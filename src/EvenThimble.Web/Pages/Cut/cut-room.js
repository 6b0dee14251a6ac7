// @ts-check
/** Pieces on the mat: dragged by hand or moved with the arrow keys, turned with R; each move is a line of the job's history. */

const room = /** @type {HTMLElement} */ (document.getElementById("cut-room"));
const nudgeMm = 1;
const farMm = 10;
let pending = 0;

document.getElementById("print-cut")?.addEventListener("click", () => window.print());
document.getElementById("lay-form")?.addEventListener("change", (event) => /** @type {HTMLInputElement} */ (event.target).form?.requestSubmit());

/** @param {SVGGElement} piece @param {number} x @param {number} y @param {number} turn */
function send(piece, x, y, turn) {
  const sheet = /** @type {HTMLElement} */ (piece.closest("[data-sheet]"));
  const form = document.createElement("form");
  form.method = "post";
  form.action = "?handler=Move";
  const token = /** @type {HTMLInputElement} */ (document.querySelector("#lay-form input[name=__RequestVerificationToken]"));
  const { part, line, copy } = piece.dataset;
  for (const [name, value] of Object.entries({ part, line, copy, sheet: sheet.dataset.sheet, x: x.toFixed(2), y: y.toFixed(2), turn: String(((turn % 360) + 360) % 360), __RequestVerificationToken: token.value })) {
    const field = document.createElement("input");
    field.type = "hidden";
    field.name = name;
    field.value = value ?? "";
    form.append(field);
  }
  sessionStorage.setItem("cut-focus", [part, line, copy].join(":"));
  document.body.append(form);
  form.submit();
}

/** The place of a pointer on the mat, mm. @param {SVGSVGElement} mat @param {PointerEvent} event */
function onMat(mat, event) {
  const box = mat.getScreenCTM()?.inverse();
  return new DOMPoint(event.clientX, event.clientY).matrixTransform(box);
}

for (const piece of /** @type {NodeListOf<SVGGElement>} */ (room.querySelectorAll(".cut-piece"))) {
  const mat = /** @type {SVGSVGElement} */ (piece.ownerSVGElement);
  const at = { x: Number(piece.dataset.x), y: Number(piece.dataset.y), turn: Number(piece.dataset.turn) };
  let moved = { x: 0, y: 0 };
  /** @type {DOMPoint | null} */
  let from = null;
  const show = () => piece.setAttribute("transform", `translate(${moved.x} ${moved.y})`);

  piece.addEventListener("pointerdown", (event) => {
    from = onMat(mat, event);
    piece.setPointerCapture(event.pointerId);
    piece.focus();
  });
  piece.addEventListener("pointermove", (event) => {
    if (!from) return;
    const to = onMat(mat, event);
    moved = { x: to.x - from.x, y: to.y - from.y };
    show();
  });
  piece.addEventListener("pointerup", () => {
    if (from && Math.hypot(moved.x, moved.y) > 0.3) send(piece, at.x + moved.x, at.y + moved.y, at.turn);
    from = null;
  });
  piece.addEventListener("pointercancel", () => {
    from = null;
    moved = { x: 0, y: 0 };
    show();
  });
  piece.addEventListener("keydown", (event) => {
    const step = event.shiftKey ? farMm : nudgeMm;
    const by = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, -step], ArrowDown: [0, step] }[event.key];
    if (event.key.toLowerCase() === "r") return send(piece, at.x + moved.x, at.y + moved.y, at.turn + 90);
    if (!by) return;
    event.preventDefault();
    moved = { x: moved.x + by[0], y: moved.y + by[1] };
    show();
    // Several presses in a row are one move.
    clearTimeout(pending);
    pending = window.setTimeout(() => send(piece, at.x + moved.x, at.y + moved.y, at.turn), 600);
  });
  const { part, line, copy } = piece.dataset;
  if (sessionStorage.getItem("cut-focus") === [part, line, copy].join(":")) piece.focus({ preventScroll: true });
}
sessionStorage.removeItem("cut-focus");
