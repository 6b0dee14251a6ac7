// @ts-check
/** The drawing area: fabric, hoop field, stitches in layers, and the marks of selection and needle over them. */
import { drawGround, drawRulers, lightness } from "./ground.js";
import { SewnLayer, StitchLayer, transformOf } from "./layers.js";
import { drawRings, ringUnder } from "./rings.js";

const restMs = 140;
const faint = 0.16;
const rulerPx = 20;

export class Cloth {
  /** @param {import("./state.js").BenchState} state */
  constructor(state) {
    this.state = state;
    this.root = /** @type {HTMLElement} */ (document.getElementById("cloth"));
    this.canvas = /** @type {HTMLCanvasElement} */ (document.getElementById("cloth-ground"));
    this.marks = /** @type {HTMLCanvasElement} */ (document.getElementById("cloth-marks"));
    this.ctx = /** @type {CanvasRenderingContext2D} */ (this.canvas.getContext("2d", { alpha: false }));
    this.marksCtx = /** @type {CanvasRenderingContext2D} */ (this.marks.getContext("2d"));
    this.ratio = Math.min(window.devicePixelRatio || 1, 2);
    /** @type {import("./layers.js").View} */
    this.view = { scale: 3, x: 0, y: 0, width: 1, height: 1 };
    /** @type {"plain" | "thread" | "density"} */
    this.kind = /** @type {any} */ (localStorage.getItem("view")) ?? "thread";
    /** @type {StitchLayer | null} */
    this.layer = null;
    /** @type {StitchLayer | null} */
    this.coming = null;
    /** @type {SewnLayer | null} */
    this.sewn = null;
    /** @type {HTMLImageElement | ImageBitmap | null} */
    this.density = null;
    /** The density of stitches that are only tried, when some are. @type {() => Promise<ImageBitmap | null>} */
    this.triedDensity = async () => null;
    /** What a hand is doing right now, drawn over everything. @type {{ dx: number, dy: number, turn: number, about: [number, number], frame: import("./plan.js").Box | null, across: number, down: number, lean: number }} */
    this.hand = { dx: 0, dy: 0, turn: 0, about: [0, 0], frame: null, across: 1, down: 1, lean: 0 };
    this._ghostKey = "";
    /** @type {import("./plan.js").Plan | null} */
    this._ghostPlan = null;
    /** @type {Path2D | null} */
    this._ghostPath = null;
    /** What else is drawn over the cloth, in CSS pixels. @type {((ctx: CanvasRenderingContext2D) => void)[]} */
    this.overlays = [];
    this.fitted = false;
    this.asked = false;
    this.moving = false;
    this.resting = 0;
    new ResizeObserver(() => this._resize()).observe(this.root);
    state.addEventListener("plan", () => this._newPlan());
    state.addEventListener("look", () => this.redraw());
    state.addEventListener("page", () => this.redraw());
    for (const what of ["selection", "needle"]) state.addEventListener(what, () => this.ask());
    document.addEventListener("thimble:theme", () => this.ask());
    this._resize();
  }

  _resize() {
    const { clientWidth, clientHeight } = this.root;
    if (clientWidth === 0) return;
    this.view.width = clientWidth;
    this.view.height = clientHeight;
    for (const canvas of [this.canvas, this.marks]) {
      canvas.width = Math.round(clientWidth * this.ratio);
      canvas.height = Math.round(clientHeight * this.ratio);
    }
    if (!this.fitted) this.showHoop();
    this.redraw();
  }

  _newPlan() {
    this.redraw();
    if (this.kind === "density") void this._loadDensity();
  }

  /** @param {"plain" | "thread" | "density"} kind */
  show(kind) {
    this.kind = kind;
    localStorage.setItem("view", kind);
    if (kind === "density") void this._loadDensity();
    this.redraw();
  }

  async _loadDensity() {
    const { plan } = this.state;
    const tried = await this.triedDensity();
    if (plan !== this.state.plan) return;
    if (tried) {
      this.density = tried;
      return this.ask();
    }
    const image = new Image();
    image.addEventListener("load", () => {
      if (plan !== this.state.plan) return;
      this.density = image;
      this.ask();
    });
    image.src = `/jobs/${this.state.job}/density.png?v=${this.state.version}`;
  }

  /** Draws the stitches anew where the hand rests; meanwhile the old layer is shown moved. */
  redraw() {
    clearTimeout(this.resting);
    this.moving = false;
    this.coming = null;
    const { plan } = this.state;
    if (plan) {
      const look = { view: this.kind === "density" ? /** @type {const} */ ("plain") : this.kind, colours: this.state.colours(), hidden: this.state.planned().map((p) => p.hidden) };
      this.coming = new StitchLayer(plan, look, this.view, this.ratio);
    }
    this.ask();
  }

  _viewMoved() {
    clearTimeout(this.resting);
    this.coming = null;
    this.fitted = true;
    this.moving = true;
    this.resting = window.setTimeout(() => this.redraw(), restMs);
    this.ask();
  }

  /** Asks for a frame; several askings make one. */
  ask() {
    if (this.asked) return;
    this.asked = true;
    requestAnimationFrame(() => {
      this.asked = false;
      const start = performance.now();
      const more = this._frame();
      performance.measure("cloth-frame", { start, end: performance.now() });
      if (more) this.ask();
    });
  }

  /** Draws one frame; true when there is more to draw. */
  _frame() {
    let more = false;
    if (this.coming) {
      this.coming.step(this.layer === null);
      if (this.coming.done) {
        this.layer = this.coming;
        this.sewn = null;
        this.coming = null;
        if (!this.root.dataset.drawn) performance.mark("stitches-drawn");
        this.root.dataset.drawn = this.state.planTag;
      }
      more = true;
    }
    if (this.state.rehearsing && this.layer && !this.coming && this.kind !== "density") {
      this.sewn ??= new SewnLayer(this.layer);
      more = !this.sewn.step(this.state.needle) || more;
    }
    this._compose();
    this._drawMarks();
    return more;
  }

  _compose() {
    const { ctx, view, ratio, state } = this;
    drawGround(ctx, view, ratio, state.ground);
    if (this.kind === "density") this._drawDensity();
    else if (state.rehearsing) {
      // What is not sewn yet is faint.
      if (this.layer) this._place(this.layer, this.layer.canvas, faint);
      if (this.sewn) this._place(this.sewn, this.sewn.canvas, 1);
    } else if (this.layer) {
      this._place(this.layer, this.layer.canvas, 1);

      // A layer of another view may not reach to the edges; what comes in its place is shown over it as it grows.
      if (this.coming && JSON.stringify(this.coming.view) !== JSON.stringify(this.layer.view)) this._place(this.coming, this.coming.canvas, 1);
    } else if (this.coming) {
      this._place(this.coming, this.coming.canvas, 1);
    }
    drawRulers(ctx, view, ratio, state.unit, document.documentElement.dataset.bsTheme === "dark");
  }

  /** Shows a layer that was drawn in another view where its places lie now. @param {{ view: import("./layers.js").View }} layer @param {HTMLCanvasElement} canvas @param {number} alpha */
  _place(layer, canvas, alpha) {
    const { ctx, view, ratio } = this;
    const k = view.scale / layer.view.scale;
    const left = (layer.view.x - layer.view.width / 2 / layer.view.scale - view.x) * view.scale + view.width / 2;
    const top = (layer.view.y - layer.view.height / 2 / layer.view.scale - view.y) * view.scale + view.height / 2;
    ctx.setTransform(k, 0, 0, k, left * ratio, top * ratio);
    ctx.globalAlpha = alpha;
    ctx.imageSmoothingEnabled = k !== 1;
    ctx.drawImage(canvas, 0, 0);
    ctx.globalAlpha = 1;
  }

  _drawDensity() {
    const { plan } = this.state;
    if (!this.density || !plan) return;
    this.ctx.setTransform(...transformOf(this.view, this.ratio));
    this.ctx.imageSmoothingEnabled = false;
    this.ctx.drawImage(this.density, Math.floor(plan.box.minX), Math.floor(plan.box.minY));
  }

  /** The rectangle about what is selected, mm; null when nothing is. */
  selectedBox() {
    const ranges = this.state.selectedRanges();
    return ranges.length && this.state.plan ? this.state.plan.boxOf(ranges) : null;
  }

  _drawMarks() {
    const { marksCtx: ctx, ratio, state } = this;
    ctx.setTransform(1, 0, 0, 1, 0, 0);
    ctx.clearRect(0, 0, this.marks.width, this.marks.height);
    if (!state.plan) return;
    ctx.save();
    ctx.beginPath();
    ctx.rect(rulerPx * ratio, rulerPx * ratio, this.marks.width, this.marks.height);
    ctx.clip();
    this._drawMarksInside(ctx);
    ctx.restore();
  }

  /** @param {CanvasRenderingContext2D} ctx kept off the rulers */
  _drawMarksInside(ctx) {
    const { ratio, state } = this;
    const onDark = lightness(state.ground.colour) < 120;
    const ink = onDark ? "#f3e6c4" : "#2f4b7c";
    const box = this.selectedBox();
    if (box) this._drawSelection(ctx, box, ink);
    ctx.setTransform(ratio, 0, 0, ratio, 0, 0);
    if (this.hand.frame) {
      const { frame } = this.hand;
      const [x0, y0] = this.toScreen(frame.minX, frame.minY), [x1, y1] = this.toScreen(frame.maxX, frame.maxY);
      ctx.setLineDash([5, 4]);
      ctx.strokeStyle = ink;
      ctx.strokeRect(x0, y0, x1 - x0, y1 - y0);
      ctx.setLineDash([]);
    }
    for (const draw of this.overlays) draw(ctx);
    if (state.rehearsing) this._drawNeedle(ctx);
  }

  /** @param {CanvasRenderingContext2D} ctx @param {import("./plan.js").Box} box @param {string} ink */
  _drawSelection(ctx, box, ink) {
    const { ratio, hand, view } = this;
    const [ax, ay] = hand.about;
    ctx.setTransform(...transformOf(view, ratio));
    ctx.translate(ax + hand.dx, ay + hand.dy);
    ctx.rotate((hand.turn * Math.PI) / 180);
    ctx.transform(hand.across, 0, -hand.lean, hand.down, 0, 0);
    ctx.translate(-ax, -ay);
    const px = 1 / view.scale;
    // Its stitches shimmer in the colour of the marks, stronger while a hand carries them; not while threads are judged, nor while the view
    // moves, which must not wait.
    const carried = hand.dx !== 0 || hand.dy !== 0 || hand.turn !== 0 || hand.across !== 1 || hand.down !== 1 || hand.lean !== 0;
    if (carried || (!this.moving && !this.state.rehearsing && this.state.task !== "threads")) {
      ctx.strokeStyle = ink;
      ctx.lineWidth = px;
      ctx.globalAlpha = carried ? 0.8 : 0.2;
      ctx.stroke(this._ghost());
      ctx.globalAlpha = 1;
    }
    drawRings(ctx, box, px, ink, carried);
  }

  /** The ring of the selection under a place on the screen: the one that turns, or which side one that makes larger is at; null for neither. @param {number} sx @param {number} sy css px */
  ringUnder(sx, sy) {
    const box = this.selectedBox();
    return box && !this.state.rehearsing ? ringUnder(box, this.toCloth(sx, sy), 1 / this.view.scale) : null;
  }

  /** The selected stitches as a path thin enough to follow a hand. */
  _ghost() {
    const plan = /** @type {import("./plan.js").Plan} */ (this.state.plan);
    const key = `${this.state.planTag} ${[...this.state.selected].join()}`;
    if (this._ghostKey === key && this._ghostPlan === plan && this._ghostPath) return this._ghostPath;
    const ranges = this.state.selectedRanges();
    const total = ranges.reduce((sum, r) => sum + r.end - r.first, 0);
    const every = Math.max(1, Math.round(total / 5000));
    const path = new Path2D();
    for (const range of ranges) {
      path.moveTo(plan.xy[2 * range.first], plan.xy[2 * range.first + 1]);
      for (let i = range.first; i < range.end; i += every) {
        if (plan.kinds[i] === 0) path.lineTo(plan.xy[2 * i], plan.xy[2 * i + 1]);
        else path.moveTo(plan.xy[2 * i], plan.xy[2 * i + 1]);
      }
    }
    this._ghostKey = key;
    this._ghostPlan = plan;
    this._ghostPath = path;
    return path;
  }

  /** @param {CanvasRenderingContext2D} ctx in css pixels */
  _drawNeedle(ctx) {
    const plan = /** @type {import("./plan.js").Plan} */ (this.state.plan);
    const i = Math.max(0, this.state.needle - 1);
    const [x, y] = this.toScreen(plan.xy[2 * i], plan.xy[2 * i + 1]);
    ctx.lineWidth = 3.5;
    ctx.strokeStyle = "#faf7f1";
    for (const pass of [0, 1]) {
      ctx.beginPath();
      ctx.arc(x, y, 7, 0, 2 * Math.PI);
      ctx.moveTo(x - 14, y);
      ctx.lineTo(x - 4, y);
      ctx.moveTo(x + 4, y);
      ctx.lineTo(x + 14, y);
      ctx.moveTo(x, y - 14);
      ctx.lineTo(x, y - 4);
      ctx.moveTo(x, y + 4);
      ctx.lineTo(x, y + 14);
      ctx.stroke();
      ctx.lineWidth = 1.5;
      ctx.strokeStyle = "#a63a3c";
      if (pass) break;
    }
  }

  /** @param {number} x @param {number} y mm @returns {[number, number]} css px */
  toScreen(x, y) {
    return [(x - this.view.x) * this.view.scale + this.view.width / 2, (y - this.view.y) * this.view.scale + this.view.height / 2];
  }

  /** @param {number} sx @param {number} sy css px @returns {[number, number]} mm */
  toCloth(sx, sy) {
    return [(sx - this.view.width / 2) / this.view.scale + this.view.x, (sy - this.view.height / 2) / this.view.scale + this.view.y];
  }

  /** @param {number} dx @param {number} dy css px */
  slide(dx, dy) {
    this.view.x -= dx / this.view.scale;
    this.view.y -= dy / this.view.scale;
    this._viewMoved();
  }

  /** @param {number} factor @param {number} [sx] @param {number} [sy] css px that stay where they are */
  zoom(factor, sx = this.view.width / 2, sy = this.view.height / 2) {
    const [x, y] = this.toCloth(sx, sy);
    this.view.scale = Math.max(0.4, Math.min(120, this.view.scale * factor));
    const [nx, ny] = this.toCloth(sx, sy);
    this.view.x += x - nx;
    this.view.y += y - ny;
    this._viewMoved();
  }

  /** Shows a rectangle (mm) as large as fits. @param {import("./plan.js").Box} box */
  showBox(box) {
    // The ruler above and the readout below lie over the cloth: what is shown keeps clear of them.
    const border = 30, above = 36, below = 74;
    const w = Math.max(box.maxX - box.minX, 4), h = Math.max(box.maxY - box.minY, 4);
    this.view.scale = Math.max(0.4, Math.min(60, Math.min((this.view.width - 2 * border) / w, (this.view.height - above - below) / h)));
    this.view.x = (box.minX + box.maxX) / 2;
    this.view.y = (box.minY + box.maxY) / 2 + (below - above) / 2 / this.view.scale;
    this._viewMoved();
  }

  showHoop() {
    const plan = this.state.plan?.box ?? { minX: 0, minY: 0, maxX: 0, maxY: 0 };
    const edges = this.state.ground.fields.flatMap((field) => field.edge);
    const xs = edges.filter((_, i) => i % 2 === 0), ys = edges.filter((_, i) => i % 2 === 1);
    this.showBox({ minX: Math.min(...xs, plan.minX), minY: Math.min(...ys, plan.minY), maxX: Math.max(...xs, plan.maxX), maxY: Math.max(...ys, plan.maxY) });
    this.fitted = false;
  }
}
