// @ts-check
/**
 * Stitches drawn once into a layer and then moved. A layer is drawn in slices of a few milliseconds so that hands never wait;
 * on the way it keeps copies of itself, from which the rehearsal goes on.
 */
import { drawRecords } from "./strands.js";

/** @typedef {{ scale: number, x: number, y: number, width: number, height: number }} View px per mm, the place in the middle (mm), size in css px */

// A hand on the cloth must not wait: a frame's share of drawing aims at the first. Nothing can be done before the first drawing is there,
// so that aims at the second.
const aimMs = 6;
const firstAimMs = 40;

// Browsers put drawing off until somebody looks at the result; looking at one pixel after each batch keeps what was put off small,
// so that the time of a batch can be told. The size of the next follows from it: computers, and views, differ greatly in speed.
const probe = /** @type {CanvasRenderingContext2D} */ (blank(1, 1).getContext("2d"));
const fewest = 80, most = 30000;
let strandsAtOnce = 400;

/**
 * Draws a batch of strands that takes about the time aimed at.
 * @param {HTMLCanvasElement} canvas @param {number} aim ms @param {(most: number) => number} draw draws at most so many and tells how many it drew
 */
function drawBatch(canvas, aim, draw) {
  const start = performance.now();
  const wanted = Math.round((strandsAtOnce * aim) / aimMs);
  const drawn = draw(wanted);
  probe.drawImage(canvas, 0, 0, 1, 1, 0, 0, 1, 1);
  const took = performance.now() - start;
  if (took > aim * 1.3) strandsAtOnce = Math.max(fewest, Math.round(strandsAtOnce * Math.max(0.4, aim / took)));
  else if (took < aim * 0.6 && drawn >= wanted) strandsAtOnce = Math.min(most, Math.round(strandsAtOnce * 1.6));
}

/** @param {View} view @param {number} ratio */
export function transformOf(view, ratio) {
  const k = view.scale * ratio;
  return /** @type {[number, number, number, number, number, number]} */ ([k, 0, 0, k, (view.width / 2 - view.x * view.scale) * ratio, (view.height / 2 - view.y * view.scale) * ratio]);
}

/** @param {number} width @param {number} height */
function blank(width, height) {
  const canvas = document.createElement("canvas");
  canvas.width = Math.max(1, width);
  canvas.height = Math.max(1, height);
  return canvas;
}

export class StitchLayer {
  /**
   * @param {import("./plan.js").Plan} plan
   * @param {Omit<import("./strands.js").Look, "pxPerMm" | "window">} look
   * @param {View} view
   * @param {number} ratio device pixels to a css pixel
   */
  constructor(plan, look, view, ratio) {
    this.plan = plan;
    this.view = { ...view };
    this.ratio = ratio;
    this.canvas = blank(Math.round(view.width * ratio), Math.round(view.height * ratio));
    this.ctx = /** @type {CanvasRenderingContext2D} */ (this.canvas.getContext("2d"));
    const halfWidth = view.width / 2 / view.scale, halfHeight = view.height / 2 / view.scale;
    this.look = { ...look, pxPerMm: view.scale * ratio, window: { minX: view.x - halfWidth, maxX: view.x + halfWidth, minY: view.y - halfHeight, maxY: view.y + halfHeight } };
    this.ctx.setTransform(...transformOf(view, ratio));
    this.drawn = 0;
    const copies = Math.max(4, Math.min(16, Math.round(plan.count / 2500)));
    this.copyEvery = Math.ceil(plan.count / (copies + 1)) || 1;
    /** @type {{ record: number, canvas: HTMLCanvasElement }[]} */
    this.copies = [];
  }

  get done() {
    return this.drawn >= this.plan.count;
  }

  /** Draws on for a frame's share of time. @param {boolean} first whether nothing is shown yet */
  step(first) {
    drawBatch(this.canvas, first ? firstAimMs : aimMs, (most) => {
      const nextCopy = (this.copies.length + 1) * this.copyEvery;
      const { at, drawn } = drawRecords(this.ctx, this.plan, this.drawn, Math.min(this.plan.count, nextCopy), this.look, most);
      this.drawn = at;
      if (at === nextCopy && !this.done) this.copies.push({ record: at, canvas: this._copy() });
      return drawn;
    });
  }

  _copy() {
    const copy = blank(this.canvas.width, this.canvas.height);
    copy.getContext("2d")?.drawImage(this.canvas, 0, 0);
    return copy;
  }
}

/** What is sewn up to the needle, drawn on from the nearest copy of a finished layer. */
export class SewnLayer {
  /** @param {StitchLayer} whole */
  constructor(whole) {
    this.whole = whole;
    this.view = whole.view;
    this.canvas = blank(whole.canvas.width, whole.canvas.height);
    this.ctx = /** @type {CanvasRenderingContext2D} */ (this.canvas.getContext("2d"));
    this.at = 0;
  }

  /** Draws toward a needle position for a slice of time; true when it is reached. @param {number} needle */
  step(needle) {
    if (needle < this.at) this._backTo(needle);
    const ahead = this.whole.copies.filter((c) => c.record <= needle && c.record > this.at + this.whole.copyEvery).pop();
    if (ahead) this._start(ahead.record, ahead.canvas);
    this.ctx.setTransform(...transformOf(this.view, this.whole.ratio));
    drawBatch(this.canvas, aimMs, (most) => {
      const { at, drawn } = drawRecords(this.ctx, this.whole.plan, this.at, needle, this.whole.look, most);
      this.at = at;
      return drawn;
    });
    return this.at >= needle;
  }

  /** @param {number} needle */
  _backTo(needle) {
    const copy = this.whole.copies.filter((c) => c.record <= needle).pop();
    this._start(copy?.record ?? 0, copy?.canvas ?? null);
  }

  /** @param {number} record @param {HTMLCanvasElement | null} canvas */
  _start(record, canvas) {
    this.ctx.setTransform(1, 0, 0, 1, 0, 0);
    this.ctx.clearRect(0, 0, this.canvas.width, this.canvas.height);
    if (canvas) this.ctx.drawImage(canvas, 0, 0);
    this.at = record;
  }
}
