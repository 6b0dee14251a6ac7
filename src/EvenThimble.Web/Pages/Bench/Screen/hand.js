// @ts-check
/** The hand on the cloth, with mouse, pen or fingers: it slides and zooms the cloth itself, and leaves everything else to the stack of tools. */

/** @param {import("./cloth.js").Cloth} cloth @param {import("./tools.js").Tools} tools */
export function takeInHand(cloth, tools) {
  const { root } = cloth;
  /** @type {Map<number, { x: number, y: number }>} */
  const fingers = new Map();
  let sliding = false;
  let slideByDrag = false;

  /** @param {PointerEvent | WheelEvent | MouseEvent} event @returns {[number, number]} */
  const at = (event) => {
    const box = root.getBoundingClientRect();
    return [event.clientX - box.left, event.clientY - box.top];
  };

  root.addEventListener("pointerdown", (event) => {
    if (/** @type {Element} */ (event.target).closest("button, .readout, .density-scale")) return;
    root.focus({ preventScroll: true });
    root.setPointerCapture(event.pointerId);
    const [x, y] = at(event);
    fingers.set(event.pointerId, { x, y });
    if (fingers.size === 2) {
      tools.cancel();
      sliding = true;
    } else if (event.button !== 0 || slideByDrag) sliding = true;
    else tools.down(x, y, event);
  });

  root.addEventListener("pointermove", (event) => {
    const [x, y] = at(event);
    const finger = fingers.get(event.pointerId);
    if (!finger) {
      const cursor = tools.hover(x, y);
      root.style.cursor = slideByDrag ? "grab" : cursor;
      return;
    }
    if (fingers.size === 2) return pinch(event.pointerId, x, y);
    if (sliding) cloth.slide(x - finger.x, y - finger.y);
    else tools.drag(x, y, event);
    finger.x = x;
    finger.y = y;
  });

  /** @param {number} id @param {number} x @param {number} y */
  function pinch(id, x, y) {
    const other = [...fingers].find(([key]) => key !== id)?.[1];
    const finger = fingers.get(id);
    if (!other || !finger) return;
    const before = Math.hypot(finger.x - other.x, finger.y - other.y), after = Math.hypot(x - other.x, y - other.y);
    cloth.slide((x - finger.x) / 2, (y - finger.y) / 2);
    if (before > 10 && after > 10) cloth.zoom(after / before, (x + other.x) / 2, (y + other.y) / 2);
    finger.x = x;
    finger.y = y;
  }

  /** @param {PointerEvent} event */
  function release(event) {
    if (!fingers.delete(event.pointerId) || fingers.size > 0) return;
    if (sliding) sliding = false;
    else tools.up(...at(event), event);
  }
  root.addEventListener("pointerup", release);
  root.addEventListener("pointercancel", release);
  root.addEventListener("dblclick", (event) => void tools.double(event, ...at(event)));
  root.addEventListener("wheel", (event) => {
    event.preventDefault();
    if (event.shiftKey) cloth.slide(-event.deltaY - event.deltaX, 0);
    else cloth.zoom(Math.exp(-event.deltaY * (event.deltaMode ? 0.05 : 0.0016)), ...at(event));
  }, { passive: false });
  root.addEventListener("contextmenu", (event) => event.preventDefault());

  document.querySelector("[data-slide]")?.addEventListener("click", (event) => {
    slideByDrag = !slideByDrag;
    /** @type {Element} */ (event.currentTarget).setAttribute("aria-pressed", String(slideByDrag));
  });
}
