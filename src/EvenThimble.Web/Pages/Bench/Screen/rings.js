// @ts-check
/** The brass rings of the selection: one above it that turns, eight at its corners and sides that make it larger and smaller. */

const brass = "#c9962b", hole = "#faf7f1";
const roomPx = 3;
const turnAbovePx = 26;
const turnReachPx = 14;
const sizeReachPx = 8;

/** Which side of the selection a ring is at, across and down. @typedef {readonly [number, number]} Side */

/** @type {readonly Side[]} */
const sides = [[-1, -1], [0, -1], [1, -1], [1, 0], [1, 1], [0, 1], [-1, 1], [-1, 0]];

/** @param {import("./plan.js").Box} box @param {number} px mm @returns {[number, number]} mm */
const turnAt = (box, px) => [(box.minX + box.maxX) / 2, box.minY - (roomPx + turnAbovePx) * px];

/** @param {import("./plan.js").Box} box @param {Side} side @param {number} px mm @returns {[number, number]} mm */
const sizeAt = (box, [across, down], px) => [
  (box.minX + box.maxX) / 2 + across * ((box.maxX - box.minX) / 2 + roomPx * px),
  (box.minY + box.maxY) / 2 + down * ((box.maxY - box.minY) / 2 + roomPx * px),
];

/**
 * The frame about the selection and its rings, in mm; while a hand carries it only the one that turns.
 * @param {CanvasRenderingContext2D} ctx @param {import("./plan.js").Box} box @param {number} px mm @param {string} ink @param {boolean} carried
 */
export function drawRings(ctx, box, px, ink, carried) {
  const room = roomPx * px;
  ctx.strokeStyle = ink;
  ctx.lineWidth = 1.5 * px;
  ctx.setLineDash([6 * px, 3 * px]);
  ctx.strokeRect(box.minX - room, box.minY - room, box.maxX - box.minX + 2 * room, box.maxY - box.minY + 2 * room);
  ctx.setLineDash([]);
  // The ring that turns hangs on a short thread.
  const [x, y] = turnAt(box, px);
  ctx.beginPath();
  ctx.moveTo(x, box.minY - room);
  ctx.lineTo(x, y + 6 * px);
  ctx.stroke();
  if (!carried) for (const side of sides) drawRing(ctx, sizeAt(box, side, px), 4 * px, 2 * px);
  drawRing(ctx, [x, y], 6 * px, 3.5 * px);
}

/** @param {CanvasRenderingContext2D} ctx @param {[number, number]} at @param {number} radius @param {number} width mm */
function drawRing(ctx, [x, y], radius, width) {
  ctx.beginPath();
  ctx.arc(x, y, radius, 0, 2 * Math.PI);
  ctx.fillStyle = hole;
  ctx.fill();
  ctx.strokeStyle = brass;
  ctx.lineWidth = width;
  ctx.stroke();
}

/**
 * What lies under a place: the ring that turns, or the side of one that makes larger; null for neither.
 * @param {import("./plan.js").Box} box @param {[number, number]} place mm @param {number} px mm @returns {"turn" | Side | null}
 */
export function ringUnder(box, place, px) {
  const far = (/** @type {[number, number]} */ [x, y]) => Math.hypot(x - place[0], y - place[1]) / px;
  if (far(turnAt(box, px)) <= turnReachPx) return "turn";
  return sides.find((side) => far(sizeAt(box, side, px)) <= sizeReachPx) ?? null;
}
