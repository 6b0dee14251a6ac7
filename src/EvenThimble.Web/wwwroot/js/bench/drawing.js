// @ts-check
/** Drawing on the cloth: lines point by point, points of a shape, the angle of its rows, where its stitches start and end. */
import { post } from "./post.js";

const nearPx = 9;
const handlePx = 64;
const brass = "#c9962b";

/**
 * @typedef {{ closed: boolean, nodes: [number, number][], line: [number, number][] }} OutlinePath
 * @typedef {{ part: number, paths: OutlinePath[], middle: [number, number], rows: boolean, angle: number, start: [number, number] | null, end: [number, number] | null }} Outline
 */

/** @type {Record<string, string>} */
const hints = {
  line: "Click the points. Enter or a double click ends the line, a click on its first point closes it, Backspace takes back, Escape leaves. Or move with the arrows and set a point with Space.",
  curve: "Click the points that the curve runs through. Enter or a double click ends it, a click on the first closes it.",
  arc: "Click its start, a place on it, and its end.",
  lasso: "Draw a line around what is to become a part of its own. With the keys: move with the arrows, set points with Space, end with Enter.",
  nodes: "Drag a point, or click the line for a new one; Delete takes the marked one out. , and . mark the next, arrows move it.",
};

export class Drawing {
  /** @param {import("./state.js").BenchState} state @param {import("./cloth.js").Cloth} cloth @param {import("./trial.js").Trial} trial */
  constructor(state, cloth, trial) {
    this.state = state;
    this.cloth = cloth;
    this.trial = trial;
    /** @type {"" | "line" | "curve" | "arc" | "lasso" | "nodes" | "start" | "end"} */
    this.mode = "";
    /** @type {[number, number][]} */
    this.points = [];
    /** @type {[number, number]} */
    this.cursor = [0, 0];
    /** @type {Outline | null} */
    this.outline = null;
    /** @type {{ path: number, node: number } | null} */
    this.marked = null;
    /** @type {{ kind: "node" | "rows", at: [number, number], angle: number, moved: boolean } | null} */
    this.hand = null;
    this.outlineKey = "";
    /** Points drawn with the button held; -1 while it is not. */
    this.drawn = -1;
    cloth.tool = this;
    cloth.overlays.push((ctx) => this._draw(ctx));
    document.addEventListener("click", (event) => {
      const d = /** @type {HTMLElement | null} */ (/** @type {Element} */ (event.target).closest("[data-draw], [data-from]"))?.dataset;
      if (d?.draw) this.begin(this.mode === d.draw ? "" : /** @type {any} */ (d.draw));
      if (d?.from) this.begin(this.mode === d.from ? "" : /** @type {any} */ (d.from));
    });
    for (const what of ["selection", "page", "card"]) state.addEventListener(what, () => void this._bringOutline());
  }

  /** @param {Drawing["mode"]} mode */
  begin(mode) {
    this.mode = mode;
    this.points = [];
    this.marked = null;
    this.cursor = [this.cloth.view.x, this.cloth.view.y];
    this._showMode();
    if (mode) this.cloth.root.focus({ preventScroll: true });
    void this._bringOutline();
    this.cloth.ask();
  }

  _showMode() {
    for (const button of document.querySelectorAll("[data-draw], [data-from]")) {
      const d = /** @type {HTMLElement} */ (button).dataset;
      button.setAttribute("aria-pressed", String((d.draw ?? d.from) === this.mode));
    }
    const hint = document.getElementById("draw-hint");
    if (hint) hint.textContent = hints[this.mode] ?? "";
  }

  /** The one drawn part that is selected, or 0. */
  get part() {
    const chosen = this.state.parts.filter((p) => this.state.selected.has(p.id));
    return chosen.length === 1 && chosen[0].drawn ? chosen[0].id : 0;
  }

  get showsRows() {
    return this.state.task === "stitch" && this.mode === "" && this.outline?.rows === true;
  }

  async _bringOutline() {
    if (this.mode === "nodes" && !this.part) this.begin("");
    this._showMode();
    const wanted = this.part && (this.state.task === "stitch" || this.state.task === "add");
    const key = wanted ? `${this.part} ${this.state.version}` : "";
    if (key === this.outlineKey) return;
    this.outlineKey = key;
    if (!wanted) this.outline = null;
    else {
      const answer = await fetch(`?handler=Outline&part=${this.part}`);
      if (key !== this.outlineKey) return;
      this.outline = answer.ok ? await answer.json() : null;
    }
    this.cloth.ask();
  }

  /** The end of the handle that turns the rows, on the screen. @returns {[number, number] | null} */
  rowsHandle() {
    if (!this.showsRows || !this.outline) return null;
    const [x, y] = this.cloth.toScreen(...this.outline.middle);
    const angle = ((this.hand?.kind === "rows" ? this.hand.angle : this.outline.angle) * Math.PI) / 180;
    return [x + handlePx * Math.cos(angle), y + handlePx * Math.sin(angle)];
  }

  /** Takes the pointer when it does something here. @param {number} x @param {number} y on the screen */
  down(x, y) {
    const place = this.cloth.toCloth(x, y);
    const handle = this.rowsHandle();
    if (handle && Math.hypot(x - handle[0], y - handle[1]) <= nearPx + 5) {
      this.hand = { kind: "rows", at: place, angle: this.outline?.angle ?? 0, moved: false };
      return true;
    }
    if (this.mode === "") return false;
    if (this.mode === "start" || this.mode === "end") {
      void post("From", { part: String(this.part), field: this.mode, x: place[0].toFixed(3), y: place[1].toFixed(3) });
      this.begin("");
      return true;
    }
    if (this.mode === "nodes") return this._takeNode(x, y, place);
    this._addPoint(place, x, y);
    if (this.mode === "lasso") this.drawn = 0;
    return true;
  }

  /** @param {number} x @param {number} y */
  move(x, y) {
    const place = this.cloth.toCloth(x, y);
    this.cursor = place;
    if (this.hand?.kind === "rows" && this.outline) {
      const [mx, my] = this.cloth.toScreen(...this.outline.middle);
      this.hand.angle = Math.round(((((Math.atan2(y - my, x - mx) * 180) / Math.PI) % 180) + 180) % 180);
      this.hand.moved = true;
      void this.trial.show("TryRows", { part: String(this.outline.part), angle: String(this.hand.angle) });
    } else if (this.hand?.kind === "node") {
      this.hand.at = place;
      this.hand.moved = true;
    }
    if (this.mode === "lasso" && this.drawn >= 0) {
      // Drawn freely while the button is held.
      const [lastX, lastY] = this.points[this.points.length - 1] ?? place;
      if (Math.hypot(place[0] - lastX, place[1] - lastY) * this.cloth.view.scale > 4) this.drawn = this.points.push(place);
    }
    if (this.mode || this.hand) this.cloth.ask();
  }

  /** Lets go. */
  up() {
    const done = this.hand, drawn = this.drawn;
    this.hand = null;
    this.drawn = -1;
    if (this.mode === "lasso" && drawn > 8) return this._send(true);
    if (!done?.moved || !this.outline) return;
    const part = String(this.outline.part);
    if (done.kind === "rows") {
      this.outline.angle = done.angle;
      void post("Rows", { part, angle: String(done.angle) }).then(() => this.trial.end());
    } else if (this.marked) void post("MoveNode", { part, ...this._markedValues(), x: done.at[0].toFixed(3), y: done.at[1].toFixed(3) });
  }

  /** The cursor over a place, or null where nothing is done here. @param {number} x @param {number} y */
  cursorAt(x, y) {
    const handle = this.rowsHandle();
    if (handle && Math.hypot(x - handle[0], y - handle[1]) <= nearPx + 5) return "grab";
    return this.mode ? "crosshair" : null;
  }

  finish() {
    if (this.points.length >= 2) this._send(false);
    else this.begin("");
  }

  /** True when the key was meant for what is drawn. @param {KeyboardEvent} event */
  key(event) {
    if (!this.mode || event.ctrlKey || event.metaKey) return false;
    const step = event.shiftKey ? 5 : event.altKey ? 0.1 : 0.5;
    const by = { ArrowLeft: [-step, 0], ArrowRight: [step, 0], ArrowUp: [0, -step], ArrowDown: [0, step] }[event.key];
    if (event.key === "Escape") this.begin("");
    else if (this.mode === "nodes") return this._nodeKey(event.key, by);
    else if (by) {
      this.cursor = [this.cursor[0] + by[0], this.cursor[1] + by[1]];
      this.cloth.ask();
    } else if (event.key === " ") {
      const [x, y] = this.cloth.toScreen(...this.cursor);
      this.down(x, y);
    } else if (event.key === "Enter") this.finish();
    else if (event.key === "Backspace") {
      this.points.pop();
      this.cloth.ask();
    } else return false;
    return true;
  }

  /** @param {string} key @param {number[] | undefined} by */
  _nodeKey(key, by) {
    if (!this.outline) return false;
    const all = this.outline.paths.flatMap((p, path) => p.nodes.map((_, node) => ({ path, node })));
    const at = all.findIndex((n) => n.path === this.marked?.path && n.node === this.marked.node);
    if (key === "." || key === ",") this.marked = all[(at + (key === "." ? 1 : all.length - 1)) % all.length];
    else if ((key === "Delete" || key === "Backspace") && this.marked) {
      void post("RemoveNode", { part: String(this.outline.part), ...this._markedValues() });
      this.marked = null;
    } else if (by && this.marked) {
      const node = this.outline.paths[this.marked.path].nodes[this.marked.node];
      void post("MoveNode", { part: String(this.outline.part), ...this._markedValues(), x: (node[0] + by[0]).toFixed(3), y: (node[1] + by[1]).toFixed(3) });
    } else return false;
    this.cloth.ask();
    return true;
  }

  _markedValues() {
    return { path: String(this.marked?.path ?? 0), node: String(this.marked?.node ?? 0) };
  }

  /** @param {[number, number]} place @param {number} x @param {number} y */
  _addPoint(place, x, y) {
    if (this.points.length > 2 && this.mode !== "arc") {
      const [fx, fy] = this.cloth.toScreen(...this.points[0]);
      if (Math.hypot(x - fx, y - fy) <= nearPx) return this._send(true);
    }
    const last = this.points[this.points.length - 1];
    if (last && Math.hypot(place[0] - last[0], place[1] - last[1]) * this.cloth.view.scale < 3) return;
    this.points.push(place);
    if (this.mode === "arc" && this.points.length === 3) this._send(false);
    this.cloth.ask();
  }

  /** @param {boolean} closed */
  _send(closed) {
    const points = this.points.map(([x, y]) => `${x.toFixed(3)},${y.toFixed(3)}`).join(" ");
    const kind = this.mode;
    this.begin("");
    if (kind === "lasso") return void post("Lasso", { points });
    void post("Draw", { kind, points, closed: String(closed) });
  }

  /** @param {number} x @param {number} y @param {[number, number]} place */
  _takeNode(x, y, place) {
    const { outline } = this;
    if (!outline) return false;
    for (const [path, { nodes }] of outline.paths.entries()) {
      for (const [node, at] of nodes.entries()) {
        const [nx, ny] = this.cloth.toScreen(...at);
        if (Math.hypot(x - nx, y - ny) > nearPx) continue;
        this.marked = { path, node };
        this.hand = { kind: "node", at: place, angle: 0, moved: false };
        this.cloth.ask();
        return true;
      }
    }
    for (const [path, { nodes, line }] of outline.paths.entries()) {
      const hit = line.findIndex(([lx, ly], i) => {
        const next = line[(i + 1) % line.length];
        const [ax, ay] = this.cloth.toScreen(lx, ly), [bx, by] = this.cloth.toScreen(...next);
        const t = Math.max(0, Math.min(1, ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / ((bx - ax) ** 2 + (by - ay) ** 2 || 1)));
        return Math.hypot(ax + t * (bx - ax) - x, ay + t * (by - ay) - y) <= nearPx * 0.7;
      });
      if (hit < 0) continue;
      // The points of the outline appear along its line in their order.
      let node = 0;
      for (let i = 0, n = 0; i <= hit && n < nodes.length; i++) if (Math.hypot(line[i][0] - nodes[n][0], line[i][1] - nodes[n][1]) < 1e-6) node = n++;
      void post("AddNode", { part: String(outline.part), path: String(path), node: String(node), x: place[0].toFixed(3), y: place[1].toFixed(3) });
      return true;
    }
    return false;
  }

  /** @param {CanvasRenderingContext2D} ctx in CSS pixels */
  _draw(ctx) {
    const { cloth } = this;
    if (this.points.length || ["line", "curve", "arc", "lasso"].includes(this.mode)) {
      ctx.strokeStyle = brass;
      ctx.lineWidth = 2;
      ctx.beginPath();
      for (const [i, p] of [...this.points, this.cursor].entries()) ctx[i ? "lineTo" : "moveTo"](...cloth.toScreen(...p));
      ctx.stroke();
      for (const p of this.points) this._square(ctx, p, false);
      const [x, y] = cloth.toScreen(...this.cursor);
      ctx.beginPath();
      ctx.moveTo(x - 7, y);
      ctx.lineTo(x + 7, y);
      ctx.moveTo(x, y - 7);
      ctx.lineTo(x, y + 7);
      ctx.stroke();
    }
    const { outline } = this;
    if (!outline) return;
    if (this.mode === "nodes") this._drawNodes(ctx, outline);
    for (const [place, round] of /** @type {const} */ ([[outline.start, true], [outline.end, false]])) {
      if (!place || this.state.task !== "stitch") continue;
      const [x, y] = cloth.toScreen(...place);
      ctx.fillStyle = brass;
      ctx.strokeStyle = "#1f2a37";
      ctx.lineWidth = 1.5;
      ctx.beginPath();
      if (round) ctx.arc(x, y, 6, 0, 2 * Math.PI);
      else ctx.rect(x - 5, y - 5, 10, 10);
      ctx.fill();
      ctx.stroke();
    }
    const handle = this.rowsHandle();
    if (!handle) return;
    const [x, y] = cloth.toScreen(...outline.middle);
    ctx.strokeStyle = brass;
    ctx.lineWidth = 2;
    ctx.beginPath();
    ctx.moveTo(2 * x - handle[0], 2 * y - handle[1]);
    ctx.lineTo(...handle);
    ctx.stroke();
    ctx.fillStyle = "#faf7f1";
    ctx.lineWidth = 3;
    ctx.beginPath();
    ctx.arc(handle[0], handle[1], 8, 0, 2 * Math.PI);
    ctx.fill();
    ctx.stroke();
  }

  /** @param {CanvasRenderingContext2D} ctx @param {Outline} outline */
  _drawNodes(ctx, outline) {
    for (const [path, { nodes, line, closed }] of outline.paths.entries()) {
      ctx.strokeStyle = brass;
      ctx.lineWidth = 1.5;
      ctx.beginPath();
      for (const [i, p] of line.entries()) ctx[i ? "lineTo" : "moveTo"](...this.cloth.toScreen(...p));
      if (closed) ctx.closePath();
      ctx.stroke();
      for (const [node, at] of nodes.entries()) {
        const marked = this.marked?.path === path && this.marked.node === node;
        this._square(ctx, marked && this.hand ? this.hand.at : at, marked);
      }
    }
  }

  /** @param {CanvasRenderingContext2D} ctx @param {[number, number]} place @param {boolean} marked */
  _square(ctx, place, marked) {
    const [x, y] = this.cloth.toScreen(...place);
    ctx.fillStyle = marked ? brass : "#faf7f1";
    ctx.strokeStyle = "#7a5a14";
    ctx.lineWidth = 1.5;
    ctx.fillRect(x - 4, y - 4, 8, 8);
    ctx.strokeRect(x - 4, y - 4, 8, 8);
  }
}
