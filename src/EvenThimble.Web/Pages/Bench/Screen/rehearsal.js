// @ts-check
/** Plays the sewing on the screen at a multiple of the machine's own speed. */

export class Rehearsal {
  /** @param {import("./state.js").BenchState} state */
  constructor(state) {
    this.state = state;
    this.playing = false;
    this.exact = 0;
    this.button = /** @type {HTMLElement} */ (document.querySelector('[data-go="play"]'));
    this.speed = /** @type {HTMLSelectElement} */ (document.getElementById("speed"));
    this.speed.value = localStorage.getItem("speed") ?? this.speed.value;
    this.speed.addEventListener("change", () => localStorage.setItem("speed", this.speed.value));
  }

  toggle() {
    if (this.playing) return this.pause();
    const { plan } = this.state;
    if (!plan || plan.count === 0) return;
    if (!this.state.rehearsing) this.state.setNeedle(0);
    this.playing = true;
    this.exact = this.state.needle;
    this._show();
    let before = performance.now();
    const tick = (/** @type {number} */ now) => {
      if (!this.playing) return;
      // Somebody may have moved the needle meanwhile: go on from there.
      if (Math.abs(this.exact - this.state.needle) > 1) this.exact = this.state.needle;
      this.exact += ((this.state.stitchesPerMinute / 60) * Number(this.speed.value) * Math.min(100, now - before)) / 1000;
      before = now;
      this.state.setNeedle(Math.floor(this.exact));
      if (this.state.rehearsing) requestAnimationFrame(tick);
      else this.pause();
    };
    requestAnimationFrame(tick);
  }

  pause() {
    this.playing = false;
    this._show();
  }

  _show() {
    this.button.setAttribute("aria-pressed", String(this.playing));
    this.button.setAttribute("aria-label", this.playing ? "Pause" : "Rehearse");
    const icon = /** @type {Element} */ (this.button.querySelector("i"));
    icon.className = this.playing ? "bi bi-pause-fill" : "bi bi-play-fill";
  }

  /** @param {string} where one of the names of the transport's buttons */
  go(where) {
    const { plan, needle } = this.state;
    if (!plan) return;
    if (where === "play") return this.toggle();
    this.pause();
    /** @type {Record<string, () => number>} */
    const to = {
      back: () => needle - 1,
      on: () => needle + 1,
      "previous-jump": () => plan.seek(needle, -1, (i) => plan.isLeap(i)),
      "next-jump": () => plan.seek(needle, 1, (i) => plan.isLeap(i)),
      "previous-change": () => plan.seek(needle, -1, (i) => plan.isChange(i)),
      "next-change": () => plan.seek(needle, 1, (i) => plan.isChange(i)),
    };
    // From the end, where all is sewn, going on begins anew.
    const fromStart = needle >= plan.count && (where === "on" || where.startsWith("next"));
    if (fromStart) this.state.setNeedle(0);
    const target = fromStart ? (where === "on" ? 1 : plan.seek(0, 1, (i) => (where === "next-jump" ? plan.isLeap(i) : plan.isChange(i)))) : to[where]();
    this.state.setNeedle(target);
  }
}
