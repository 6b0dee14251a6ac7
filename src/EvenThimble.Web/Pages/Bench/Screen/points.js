// @ts-check
/** A line that is set on the cloth point by point, with the pointer or the keys; or freely, with the button held. */

const nearPx = 9;
const freePx = 4;
const brass = "#c9962b";

export const stepOf = (/** @type {KeyboardEvent} */ event) => (event.shiftKey ? 5 : event.altKey ? 0.1 : 0.5);

/** @type {Record<string, [number, number]>} */
const directions = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

/** How far an arrow key moves something, mm; null for another key. @param {KeyboardEvent} event @returns {[number, number] | null} */
export function arrowOf(event) {
  const way = directions[event.key];
  return way ? [way[0] * stepOf(event), way[1] * stepOf(event)] : null;
}

/** A small square at a place. @param {CanvasRenderingContext2D} ctx @param {[number, number]} at in CSS pixels @param {boolean} marked */
export function square(ctx, [x, y], marked) {
  ctx.fillStyle = marked ? brass : "#faf7f1";
  ctx.strokeStyle = "#7a5a14";
  ctx.lineWidth = 1.5;
  ctx.fillRect(x - 4, y - 4, 8, 8);
  ctx.strokeRect(x - 4, y - 4, 8, 8);
}

/**
 * @param {import("./bench.js").Bench} bench
 * @param {string} name
 * @param {{ hint: string, most?: number, free?: boolean, done: (points: string, closed: boolean) => void }} how most: ends at so many points; free: may be drawn with the button held
 * @returns {import("./tools.js").Tool & { hint: string }}
 */
export function pointsTool({ cloth, tools }, name, how) {
  /** @type {[number, number][]} */
  let points = [];
  /** @type {[number, number]} */
  let cursor = [0, 0];
  let drawing = false;

  /** @param {boolean} closed */
  const send = (closed) => {
    const line = points.map(([x, y]) => `${x.toFixed(3)},${y.toFixed(3)}`).join(" ");
    tools.take("");
    how.done(line, closed);
  };
  const finish = () => (points.length >= 2 ? send(false) : tools.take(""));

  /** @param {number} x @param {number} y */
  const add = (x, y) => {
    const place = cloth.toCloth(x, y);
    if (points.length > 2 && !how.most) {
      const [fx, fy] = cloth.toScreen(...points[0]);
      if (Math.hypot(x - fx, y - fy) <= nearPx) return send(true);
    }
    const last = points[points.length - 1];
    if (last && Math.hypot(place[0] - last[0], place[1] - last[1]) * cloth.view.scale < 3) return;
    points.push(place);
    if (points.length === how.most) send(false);
    cloth.ask();
  };

  return {
    name,
    hint: how.hint,
    taken() {
      points = [];
      cursor = [cloth.view.x, cloth.view.y];
      cloth.root.focus({ preventScroll: true });
      cloth.ask();
    },
    laid: () => cloth.ask(),
    down(x, y) {
      drawing = how.free === true;
      add(x, y);
      return true;
    },
    drag(x, y) {
      cursor = cloth.toCloth(x, y);
      const last = points[points.length - 1] ?? cursor;
      if (drawing && Math.hypot(cursor[0] - last[0], cursor[1] - last[1]) * cloth.view.scale > freePx) points.push(cursor);
      cloth.ask();
    },
    up() {
      const free = drawing && points.length > 8;
      drawing = false;
      if (free) send(true);
    },
    hover(x, y) {
      cursor = cloth.toCloth(x, y);
      cloth.ask();
    },
    cursorAt: () => "crosshair",
    double() {
      finish();
      return true;
    },
    key(event) {
      if (event.ctrlKey || event.metaKey) return false;
      const by = arrowOf(event);
      if (event.key === "Escape") tools.take("");
      else if (by) cursor = [cursor[0] + by[0], cursor[1] + by[1]];
      else if (event.key === " ") add(...cloth.toScreen(...cursor));
      else if (event.key === "Enter") finish();
      else if (event.key === "Backspace") points.pop();
      else return false;
      cloth.ask();
      return true;
    },
    draw(ctx) {
      ctx.strokeStyle = brass;
      ctx.lineWidth = 2;
      ctx.beginPath();
      for (const [i, p] of [...points, cursor].entries()) ctx[i ? "lineTo" : "moveTo"](...cloth.toScreen(...p));
      ctx.stroke();
      for (const p of points) square(ctx, cloth.toScreen(...p), false);
      const [x, y] = cloth.toScreen(...cursor);
      ctx.beginPath();
      ctx.moveTo(x - 7, y);
      ctx.lineTo(x + 7, y);
      ctx.moveTo(x, y - 7);
      ctx.lineTo(x, y + 7);
      ctx.stroke();
    },
  };
}
