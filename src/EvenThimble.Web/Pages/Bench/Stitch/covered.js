// @ts-check
/** What is left out because later parts hide it, drawn over everything as long as it is wanted. */
import { say } from "../../Shared/site.js";
import { partOf } from "../Screen/post.js";

export class Covered {
  /** @param {import("../Screen/state.js").BenchState} state @param {import("../Screen/cloth.js").Cloth} cloth */
  constructor(state, cloth) {
    this.state = state;
    this.cloth = cloth;
    this.shown = false;
    this.version = "";
    /** @type {Path2D | null} in hundredths of a millimetre */
    this.path = null;
    cloth.overlays.push((ctx) => this._draw(ctx));
    for (const what of ["page", "card"]) state.addEventListener(what, () => void this._bring());
  }

  async toggle() {
    this.shown = !this.shown;
    await this._bring();
  }

  async _bring() {
    for (const button of document.querySelectorAll("[data-show-gone]")) button.setAttribute("aria-pressed", String(this.shown));
    if (!this.shown) {
      this.cloth.ask();
      return;
    }
    const { version } = this.state;
    const says = document.getElementById("gone-says");
    if (says) says.textContent = "Looking …";
    try {
      const answer = await fetch(partOf("gone"));
      if (!answer.ok) throw new Error(await answer.text());
      /** @type {{ lines: number[][], metres: number, stitches: number }} */
      const gone = await answer.json();
      if (version !== this.state.version) return;
      this.path = new Path2D();
      for (const line of gone.lines) for (let i = 0; i + 1 < line.length; i += 2) this.path[i ? "lineTo" : "moveTo"](line[i], line[i + 1]);
      const words = gone.lines.length === 0 ? "Nothing is covered." : `${gone.metres} m of thread ${gone.metres === 1 ? "is" : "are"} covered${gone.stitches > 0 ? `, ${gone.stitches.toLocaleString("en")} stitches fewer` : ""}.`;
      const line = document.getElementById("gone-says");
      if (line) line.textContent = words;
    } catch {
      say("What is covered could not be fetched. Try again.", true);
    }
    this.cloth.ask();
  }

  /** @param {CanvasRenderingContext2D} ctx */
  _draw(ctx) {
    if (!this.shown || !this.path) return;
    const { view } = this.cloth;
    drawGone(ctx, view, this.path, 100);
  }
}

/**
 * Stitches that go, in madder over everything.
 * @param {CanvasRenderingContext2D} ctx in CSS pixels @param {import("../Screen/layers.js").View} view @param {Path2D} path @param {number} [perMm] units of the path in a millimetre
 */
export function drawGone(ctx, view, path, perMm = 1) {
  ctx.save();
  ctx.translate(view.width / 2 - view.x * view.scale, view.height / 2 - view.y * view.scale);
  ctx.scale(view.scale / perMm, view.scale / perMm);
  ctx.strokeStyle = "#a63a3c";
  ctx.globalAlpha = 0.55;
  ctx.lineWidth = (0.6 * perMm) / view.scale;
  ctx.stroke(path);
  ctx.restore();
}
