// @ts-check
/** Draws records of a plan, as plain lines or as thread: each stitch a round strand that shines by its direction to the light. */
import { JUMP, STITCH, TRIM } from "./plan.js";

export const threadMm = 0.4;

/** Soft edges of neighbouring strands let the cloth through; a little more width closes that, from afar more. */
const swell = 1.12, farSwell = 1.35;
const lightRadians = (-55 * Math.PI) / 180;
const levels = 12;

/** @typedef {{ edge: string[], body: string[], light: string[] }} Shades */

/** @type {Map<string, Shades>} */
const shadesOf = new Map();

/** @param {number} channel @param {number} k */
const shaded = (channel, k) => Math.round(Math.max(0, Math.min(255, k <= 1 ? channel * k : channel + (255 - channel) * (k - 1) * 1.4)));

/** The colours of a thread at every level of sheen. @param {string} hex @returns {Shades} */
export function shades(hex) {
  const known = shadesOf.get(hex);
  if (known) return known;
  const value = parseInt(hex.slice(1), 16);
  const rgb = [value >> 16, (value >> 8) & 255, value & 255];
  /** @param {number} k */
  const colour = (k) => `rgb(${rgb.map((c) => shaded(c, k)).join(" ")})`;
  const made = { edge: /** @type {string[]} */ ([]), body: /** @type {string[]} */ ([]), light: /** @type {string[]} */ ([]) };
  for (let l = 0; l < levels; l++) {
    const sheen = 0.7 + (0.42 * l) / (levels - 1);
    made.edge.push(colour(sheen * 0.72));
    made.body.push(colour(sheen));
    made.light.push(colour(sheen * 1.22));
  }
  shadesOf.set(hex, made);
  return made;
}

/** @param {number} dx @param {number} dy */
function level(dx, dy) {
  const length = dx * dx + dy * dy;
  if (length === 0) return 0;
  const across = dx * Math.sin(lightRadians) - dy * Math.cos(lightRadians);
  return Math.round(((across * across) / length) * (levels - 1));
}

/**
 * @typedef {object} Look
 * @property {"plain" | "thread"} view
 * @property {string[]} colours of each part
 * @property {boolean[]} hidden of each part
 * @property {number} pxPerMm device pixels
 * @property {import("./plan.js").Box} window what can be seen, mm
 */

/**
 * Draws the records from `from` up to `to`, or until so many strands are drawn, onto a context whose unit is a millimetre.
 * @param {CanvasRenderingContext2D} ctx
 * @param {import("./plan.js").Plan} plan
 * @param {number} from
 * @param {number} to
 * @param {Look} look
 * @param {number} most strands; what lies outside the window costs nothing and does not count
 * @returns {{ at: number, drawn: number }} the record reached, the strands drawn
 */
export function drawRecords(ctx, plan, from, to, look, most) {
  ctx.lineCap = "round";
  ctx.lineJoin = "round";
  let at = from, drawn = 0;
  while (at < to && drawn < most) {
    const number = plan.partAt(at);
    const end = Math.min(to, plan.parts[number].end);
    if (look.hidden[number]) at = end;
    else if (look.view === "plain") {
      const stop = Math.min(end, at + most - drawn);
      drawPlain(ctx, plan, at, stop, look.colours[number], look);
      drawn += stop - at;
      at = stop;
    } else {
      const reached = drawStrands(ctx, plan, at, end, shades(look.colours[number]), look, most - drawn);
      drawn += reached.drawn;
      at = reached.at;
    }
  }
  return { at, drawn };
}

/**
 * @param {CanvasRenderingContext2D} ctx @param {import("./plan.js").Plan} plan
 * @param {number} from @param {number} to @param {string} colour @param {Look} look
 */
function drawPlain(ctx, plan, from, to, colour, look) {
  const { xy, kinds } = plan;
  const px = 1 / look.pxPerMm;
  ctx.strokeStyle = colour;
  ctx.lineWidth = Math.max(px, Math.min(1.4 * px, 0.16));
  ctx.beginPath();
  for (let i = Math.max(from, 1); i < to; i++) {
    if (kinds[i] !== STITCH || kinds[i - 1] === TRIM) continue;
    ctx.moveTo(xy[2 * i - 2], xy[2 * i - 1]);
    ctx.lineTo(xy[2 * i], xy[2 * i + 1]);
  }
  ctx.stroke();
  // Where the needle leaps, a fine broken line: that is what parts are cut at.
  ctx.beginPath();
  for (let i = Math.max(from, 1); i < to; i++) {
    if (kinds[i] !== JUMP) continue;
    ctx.moveTo(xy[2 * i - 2], xy[2 * i - 1]);
    ctx.lineTo(xy[2 * i], xy[2 * i + 1]);
  }
  ctx.setLineDash([4 * px, 4 * px]);
  ctx.lineWidth = px;
  ctx.globalAlpha *= 0.5;
  ctx.stroke();
  ctx.globalAlpha /= 0.5;
  ctx.setLineDash([]);
}

/**
 * @param {CanvasRenderingContext2D} ctx @param {import("./plan.js").Plan} plan
 * @param {number} from @param {number} to @param {Shades} tones @param {Look} look @param {number} most
 * @returns {{ at: number, drawn: number }}
 */
function drawStrands(ctx, plan, from, to, tones, look, most) {
  const { xy, kinds } = plan;
  const { minX, minY, maxX, maxY } = look.window;
  const widthPx = threadMm * look.pxPerMm;
  const full = widthPx >= 1.8;
  let last = -1;
  ctx.lineWidth = full ? threadMm * swell : Math.max(threadMm * farSwell, 0.9 / look.pxPerMm);
  // Round ends cannot be seen from afar, and cost.
  ctx.lineCap = full ? "round" : "butt";
  if (!full) ctx.beginPath();
  let i = Math.max(from, 1), drawn = 0;
  for (; i < to && drawn < most; i++) {
    if (kinds[i] !== STITCH || kinds[i - 1] === TRIM) continue;
    const ax = xy[2 * i - 2], ay = xy[2 * i - 1], bx = xy[2 * i], by = xy[2 * i + 1];
    if ((ax < minX && bx < minX) || (ax > maxX && bx > maxX) || (ay < minY && by < minY) || (ay > maxY && by > maxY)) continue;
    drawn++;
    const l = level(bx - ax, by - ay);
    if (!full) {
      // From afar neighbours of one sheen go in one stroke.
      if (l !== last && last >= 0) {
        ctx.strokeStyle = tones.body[last];
        ctx.stroke();
        ctx.beginPath();
      }
      last = l;
      ctx.moveTo(ax, ay);
      ctx.lineTo(bx, by);
      continue;
    }
    ctx.lineWidth = threadMm * swell;
    ctx.strokeStyle = tones.edge[l];
    ctx.beginPath();
    ctx.moveTo(ax, ay);
    ctx.lineTo(bx, by);
    ctx.stroke();
    ctx.lineWidth = threadMm * 0.66;
    ctx.strokeStyle = tones.body[l];
    ctx.stroke();
    ctx.lineWidth = threadMm * 0.24;
    ctx.strokeStyle = tones.light[l];
    ctx.beginPath();
    ctx.moveTo(ax + (bx - ax) * 0.2, ay + (by - ay) * 0.2);
    ctx.lineTo(ax + (bx - ax) * 0.8, ay + (by - ay) * 0.8);
    ctx.stroke();
  }
  if (!full && last >= 0) {
    ctx.strokeStyle = tones.body[last];
    ctx.stroke();
  }
  return { at: i, drawn };
}
