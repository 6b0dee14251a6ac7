// @ts-check
/** Stitches as they would be, shown before anything is kept. The server computes them; leaving them brings back what is kept. */
import { postHeaders } from "../site.js";
import { Plan } from "./plan.js";

export class Trial {
  /** @param {import("./state.js").BenchState} state */
  constructor(state) {
    this.state = state;
    /** @type {Plan | null} */
    this.kept = null;
    /** @type {AbortController | null} */
    this.asking = null;
    /** @type {{ handler: string, values: Record<string, string> } | null} what is to be asked next, while an answer is on its way */
    this.next = null;
    state.addEventListener("kept", () => {
      this.kept = null;
      this.next = null;
      this.asking?.abort();
      this.asking = null;
    });
  }

  /**
   * Shows the plan that a handler answers with. While one is on its way only the last of those asked for is asked next.
   * @param {string} handler
   * @param {Record<string, string>} values
   */
  async show(handler, values) {
    this.next = { handler, values };
    if (this.asking) return;
    while (this.next) {
      const { handler: wanted, values: with_ } = this.next;
      this.next = null;
      const asking = (this.asking = new AbortController());
      try {
        const body = new FormData();
        for (const [name, value] of Object.entries({ version: this.state.version, parts: [...this.state.selected].join(), task: this.state.task, ...with_ })) body.append(name, value);
        const answer = await fetch(`?handler=${wanted}`, { method: "POST", headers: postHeaders, body, signal: asking.signal });
        if (asking.signal.aborted) return;
        if (answer.ok) this._take(new Plan(await answer.arrayBuffer()));
        else this.tell(answer.status === 422 ? await answer.text() : "");
      } catch {
        if (asking.signal.aborted) return;
      } finally {
        if (this.asking === asking) this.asking = null;
      }
    }
  }

  /** @param {Plan} plan */
  _take(plan) {
    this.kept ??= this.state.plan;
    this.state.setPlan(plan);
    const before = this.kept ? this.kept.stitchesBefore(this.kept.count) : 0;
    const after = plan.stitchesBefore(plan.count);
    this.tell(`Not kept yet: ${after.toLocaleString("en")} stitches, ${after === before ? "as many as now" : `${Math.abs(after - before).toLocaleString("en")} ${after > before ? "more" : "fewer"} than now`}.`);
    this.state.tell("trial");
  }

  /** Brings back what is kept. */
  end() {
    this.asking?.abort();
    this.asking = null;
    this.next = null;
    this.tell("");
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
