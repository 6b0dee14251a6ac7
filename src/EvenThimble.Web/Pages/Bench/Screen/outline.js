// @ts-check
/** The outline of the one drawn part that is selected, as the server has it, for the tasks that take hold of it. */
import { partOf } from "./post.js";

/**
 * @typedef {{ closed: boolean, nodes: [number, number][], line: [number, number][] }} OutlinePath
 * @typedef {{ part: number, paths: OutlinePath[], middle: [number, number], rows: boolean, angle: number, start: [number, number] | null, end: [number, number] | null }} OutlineData
 */

export class Outline {
  /** @param {import("./state.js").BenchState} state @param {import("./cloth.js").Cloth} cloth */
  constructor(state, cloth) {
    this.state = state;
    this.cloth = cloth;
    /** @type {OutlineData | null} */
    this.data = null;
    this.key = "";
    for (const what of ["selection", "page", "card"]) state.addEventListener(what, () => void this.bring());
  }

  /** The one drawn part that is selected, or 0. */
  get part() {
    const chosen = this.state.parts.filter((p) => this.state.selected.has(p.id));
    return chosen.length === 1 && chosen[0].drawn ? chosen[0].id : 0;
  }

  async bring() {
    const wanted = this.part && (this.state.task === "stitch" || this.state.task === "add");
    const key = wanted ? `${this.part} ${this.state.version}` : "";
    if (key === this.key) return;
    this.key = key;
    if (!wanted) this.data = null;
    else {
      const answer = await fetch(`${partOf("outline")}?part=${this.part}`);
      if (key !== this.key) return;
      this.data = answer.ok ? await answer.json() : null;
    }
    this.cloth.ask();
  }
}
