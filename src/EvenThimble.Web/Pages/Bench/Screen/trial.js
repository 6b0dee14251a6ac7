// @ts-check
/** Stitches as they would be, shown before anything is kept. The server computes them; leaving them brings back what is kept. */
import { postHeaders } from "../../Shared/site.js";
import { Plan, STITCH } from "./plan.js";
import { tryOf } from "./post.js";

/** Changes that leave stitches out and move none, so that those that would go can be shown. */
const leavesOut = new Set(["underlay", "short", "seen", "whole"]);

/** The stitches of one plan that another does not have, as lines. @param {Plan} of @param {Plan} without */
function missing(of, without) {
  /** @param {Plan} plan @param {number} i */
  const key = (plan, i) => `${plan.xy[2 * i - 2].toFixed(2)},${plan.xy[2 * i - 1].toFixed(2)},${plan.xy[2 * i].toFixed(2)},${plan.xy[2 * i + 1].toFixed(2)}`;
  /** @param {Plan} plan @param {number} i */
  const sewn = (plan, i) => plan.kinds[i] === STITCH && plan.kinds[i - 1] === STITCH;
  const there = new Set();
  for (let i = 1; i < without.count; i++) if (sewn(without, i)) there.add(key(without, i));
  const path = new Path2D();
  for (let i = 1; i < of.count; i++) {
    if (!sewn(of, i) || there.has(key(of, i))) continue;
    path.moveTo(of.xy[2 * i - 2], of.xy[2 * i - 1]);
    path.lineTo(of.xy[2 * i], of.xy[2 * i + 1]);
  }
  return path;
}

export class Trial {
  /** @param {import("./state.js").BenchState} state */
  constructor(state) {
    this.state = state;
    /** @type {Plan | null} */
    this.kept = null;
    /** @type {AbortController | null} */
    this.asking = null;
    /** @type {{ command: string, values: Record<string, string> } | null} what is to be asked next, while an answer is on its way */
    this.next = null;
    /** What is being asked. @type {{ command: string, values: Record<string, string> } | null} */
    this.asked = null;
    /** Commands under way: what they make of the job is not known yet, so nothing is tried on it. */
    this.commands = 0;
    /** What the trial that is shown was asked for. @type {{ command: string, values: Record<string, string> } | null} */
    this.shown = null;
    /** Stitches that would go, as lines in millimetres. @type {Path2D | null} */
    this.gone = null;
    state.addEventListener("kept", () => {
      this.gone = null;
      this.kept = null;
      this.next = null;
      this._giveUp();
    });
    document.addEventListener("htmx:beforeRequest", (event) => {
      const { xhr, requestConfig } = /** @type {CustomEvent} */ (event).detail;
      if (requestConfig?.verb?.toLowerCase() === "post") this._waitFor(xhr);
    });
  }

  /** What was asked is asked again once a command is done, unless that ended it. @param {XMLHttpRequest} command */
  _waitFor(command) {
    this.commands++;
    if (this.asking) this.next ??= this.asked;
    this._giveUp();
    command.addEventListener("loadend", () => {
      this.commands--;
      if (this.next) void this.show(this.next.command, this.next.values);
    });
  }

  _giveUp() {
    this.asking?.abort();
    this.asking = null;
  }

  /**
   * Shows the plan that a command would give. While one is on its way, or a command is done, only the last of those asked for is asked next.
   * @param {string} command
   * @param {Record<string, string>} values
   */
  async show(command, values) {
    this.next = { command, values };
    if (this.asking || this.commands > 0) return;
    while (this.next) {
      const { command: wanted, values: with_ } = (this.asked = this.next);
      this.next = null;
      const asking = (this.asking = new AbortController());
      try {
        const answer = await this._ask(wanted, with_, asking.signal);
        if (asking.signal.aborted) return;
        if (answer.ok) {
          this.shown = { command: wanted, values: with_ };
          this._take(new Plan(await answer.arrayBuffer()), leavesOut.has(with_.field ?? ""));
        }
        else this.tell(answer.status === 422 ? await answer.text() : "");
      } catch {
        if (asking.signal.aborted) return;
      } finally {
        if (this.asking === asking) this.asking = null;
      }
    }
  }

  /** @param {string} command @param {Record<string, string>} values @param {AbortSignal} [signal] */
  _ask(command, values, signal) {
    const body = new FormData();
    for (const [name, value] of Object.entries({ version: this.state.version, parts: [...this.state.selected].join(), task: this.state.task, ...values })) body.append(name, value);
    return fetch(tryOf(command), { method: "POST", headers: postHeaders, body, signal });
  }

  /** The density of what is tried, or null when nothing is. @returns {Promise<ImageBitmap | null>} */
  async density() {
    if (!this.kept || !this.shown || this.commands > 0) return null;
    const answer = await this._ask(this.shown.command, { ...this.shown.values, show: "density" });
    return answer.ok ? createImageBitmap(await answer.blob()) : null;
  }

  /** @param {Plan} plan @param {boolean} marksGone */
  _take(plan, marksGone) {
    this.kept ??= this.state.plan;
    this.gone = marksGone && this.kept ? missing(this.kept, plan) : null;
    this.state.setPlan(plan);
    const before = this.kept ? this.kept.stitchesBefore(this.kept.count) : 0;
    const after = plan.stitchesBefore(plan.count);
    this.tell(`Not kept yet: ${after.toLocaleString("en")} stitches, ${after === before ? "as many as now" : `${Math.abs(after - before).toLocaleString("en")} ${after > before ? "more" : "fewer"} than now`}.`);
    this.state.tell("trial");
  }

  /** Brings back what is kept. */
  end() {
    this._giveUp();
    this.next = null;
    this.tell("");
    this.gone = null;
    this.shown = null;
    if (!this.kept) return;
    const { kept } = this;
    this.kept = null;
    this.state.setPlan(kept);
  }

  /** @param {string} words */
  tell(words) {
    const line = document.getElementById("trial");
    if (!line) return;
    line.hidden = words === "";
    line.textContent = words;
  }
}
