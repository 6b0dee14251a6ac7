// @ts-check
/** The strip that shows the sewing order, each part as long as its stitches, with the needle on it. */
import { JUMP, STOP } from "./plan.js";
import { post } from "./post.js";

const border = 14;
const dragPx = 5;

export class SewingLine {
  /** @param {import("./state.js").BenchState} state */
  constructor(state) {
    this.state = state;
    this.zoom = 1;
    this.scroll = /** @type {HTMLElement} */ (document.getElementById("line-scroll"));
    this.track = /** @type {HTMLElement} */ (document.getElementById("line-track"));
    this.ticks = /** @type {HTMLCanvasElement} */ (document.getElementById("line-ticks"));
    this.needle = /** @type {HTMLElement} */ (document.getElementById("needle"));
    this.says = /** @type {HTMLElement} */ (document.getElementById("needle-says"));
    this.mark = /** @type {HTMLElement} */ (document.getElementById("drop-mark"));
    /** The part from which a range is selected. @type {number | null} */
    this.anchor = null;
    for (const what of ["plan", "page"]) state.addEventListener(what, () => this.layOut());
    state.addEventListener("selection", () => this.showSelection());
    state.addEventListener("needle", () => this.showNeedle());
    new ResizeObserver(() => this.layOut()).observe(this.scroll);
    this.scroll.addEventListener("scroll", () => this._drawTicks());
    document.addEventListener("thimble:theme", () => this._drawTicks());
    this._handsOnNeedle();
    this._handsOnParts();
    this._keysOnParts();
  }

  get width() {
    return Math.max(50, (this.scroll.clientWidth - 2 * border) * this.zoom);
  }

  /** @param {number} record */
  xOf(record) {
    return border + (record / Math.max(1, this.state.plan?.count ?? 1)) * this.width;
  }

  /** @param {number} clientX */
  recordAt(clientX) {
    const x = clientX - this.track.getBoundingClientRect().left - border;
    return Math.round((x / this.width) * (this.state.plan?.count ?? 0));
  }

  /** @param {number} factor */
  zoomBy(factor) {
    const middle = this.state.rehearsing ? this.state.needle : this.recordAt(this.scroll.getBoundingClientRect().left + this.scroll.clientWidth / 2);
    this.zoom = Math.max(1, Math.min(200, this.zoom * factor));
    this.layOut();
    this.scroll.scrollLeft = this.xOf(middle) - this.scroll.clientWidth / 2;
  }

  layOut() {
    const { plan } = this.state;
    if (!plan) return;
    this.track.style.width = `${this.width + 2 * border}px`;
    for (const li of this.state.list.querySelectorAll("li")) {
      const range = plan.parts.find((p) => p.id === Number(li.dataset.part));
      if (!range) continue;
      const left = this.xOf(range.first), width = this.xOf(range.end) - left;
      li.style.left = `${left}px`;
      li.style.width = `${Math.max(width - 1, 3)}px`;
      li.classList.toggle("narrow", width < 46);
    }
    this.showSelection();
    this.showNeedle();
    this._drawTicks();
  }

  showSelection() {
    for (const li of this.state.list.querySelectorAll("li")) li.setAttribute("aria-selected", String(this.state.selected.has(Number(li.dataset.part))));
  }

  showNeedle() {
    const { plan, needle } = this.state;
    const parts = this.state.planned();
    if (!plan) return;
    this.needle.style.left = `${this.xOf(needle)}px`;
    const number = plan.partAt(Math.max(0, needle - 1));
    const part = parts[number];
    const words = part
      ? `Part ${number + 1} of ${parts.length} · ${part.name === part.thread ? part.thread : `${part.name} · ${part.thread}`} · stitch ${plan.stitchesBefore(needle).toLocaleString("en")} of ${plan.stitchesBefore(plan.count).toLocaleString("en")}`
      : "";
    this.says.textContent = words;
    this.needle.setAttribute("aria-valuemax", String(plan.count));
    this.needle.setAttribute("aria-valuenow", String(needle));
    this.needle.setAttribute("aria-valuetext", words);
    const x = this.xOf(needle) - this.scroll.scrollLeft;
    if (x < 0 || x > this.scroll.clientWidth) this.scroll.scrollLeft = this.xOf(needle) - this.scroll.clientWidth / 3;
  }

  /** Ticks where the needle leaps, flags where the machine stops or takes another thread. */
  _drawTicks() {
    const { plan } = this.state;
    if (!plan) return;
    const parts = this.state.planned();
    const ratio = Math.min(window.devicePixelRatio || 1, 2);
    const width = this.scroll.clientWidth, height = 22;
    this.ticks.width = width * ratio;
    this.ticks.height = height * ratio;
    this.ticks.style.width = `${width}px`;
    this.ticks.style.left = `${this.scroll.scrollLeft}px`;
    const ctx = /** @type {CanvasRenderingContext2D} */ (this.ticks.getContext("2d"));
    ctx.setTransform(ratio, 0, 0, ratio, -this.scroll.scrollLeft * ratio, 0);
    const ink = getComputedStyle(this.track).color;
    ctx.fillStyle = ink;
    let lastX = -1;
    for (let i = 1; i < plan.count; i++) {
      if (plan.kinds[i] === STOP) {
        const x = Math.round(this.xOf(i));
        ctx.fillStyle = "#a63a3c";
        ctx.beginPath();
        ctx.moveTo(x, 2);
        ctx.lineTo(x + 8, 6);
        ctx.lineTo(x, 10);
        ctx.fill();
        ctx.fillRect(x, 2, 1.2, 20);
        ctx.fillStyle = ink;
      }
      if (plan.kinds[i] !== JUMP || plan.kinds[i - 1] === JUMP) continue;
      const x = Math.round(this.xOf(i));
      if (x === lastX) continue;
      lastX = x;
      ctx.fillRect(x, 15, 1, 7);
    }
    plan.parts.forEach((range, n) => {
      if (n === 0 || parts[n]?.thread === parts[n - 1]?.thread) return;
      ctx.fillRect(Math.round(this.xOf(range.first)) - 0.5, 6, 2, 16);
    });
  }

  _handsOnNeedle() {
    let scrubbing = false;
    this.track.addEventListener("pointerdown", (event) => {
      if (/** @type {Element} */ (event.target).closest("li")) return;
      scrubbing = true;
      this.track.setPointerCapture(event.pointerId);
      this.needle.focus({ preventScroll: true });
      this.state.setNeedle(this.recordAt(event.clientX));
    });
    this.track.addEventListener("pointermove", (event) => scrubbing && this.state.setNeedle(this.recordAt(event.clientX)));
    for (const what of ["pointerup", "pointercancel"]) this.track.addEventListener(what, () => (scrubbing = false));
    this.needle.addEventListener("keydown", (event) => {
      const end = this.state.plan?.count ?? 0;
      /** @type {Record<string, number>} */
      const goes = { Home: 0, End: end, ArrowLeft: this.state.needle - 1, ArrowRight: this.state.needle + 1, PageUp: this.state.needle - Math.ceil(end / 20), PageDown: this.state.needle + Math.ceil(end / 20) };
      if (!(event.key in goes)) return;
      event.preventDefault();
      event.stopPropagation();
      this.state.setNeedle(goes[event.key]);
    });
  }

  _handsOnParts() {
    /** @type {{ id: number, x: number, index: number | null } | null} */
    let held = null;
    this.track.addEventListener("pointerdown", (event) => {
      const li = /** @type {HTMLElement | null} */ (/** @type {Element} */ (event.target).closest("li"));
      if (!li || event.button !== 0) return;
      held = { id: Number(li.dataset.part), x: event.clientX, index: null };
    });
    document.addEventListener("pointermove", (event) => {
      if (!held || Math.abs(event.clientX - held.x) < dragPx && held.index === null) return;
      if (!this.state.selected.has(held.id)) this.state.select([held.id]);
      held.index = this._dropIndex(event.clientX);
      this.mark.hidden = false;
      const plan = /** @type {import("./plan.js").Plan} */ (this.state.plan);
      this.mark.style.left = `${this.xOf(held.index < plan.parts.length ? plan.parts[held.index].first : plan.count) - 1}px`;
      document.body.classList.add("dragging-part");
    });
    document.addEventListener("pointerup", (event) => {
      if (!held) return;
      const { id, index } = held;
      held = null;
      this.mark.hidden = true;
      document.body.classList.remove("dragging-part");
      if (index !== null) void post("order", { index: String(index) });
      else if (/** @type {Element} */ (event.target).closest?.("#line-parts")) this.pick(id, event);
    });
  }

  /** The border between parts that is nearest. @param {number} clientX */
  _dropIndex(clientX) {
    const plan = /** @type {import("./plan.js").Plan} */ (this.state.plan);
    const record = this.recordAt(clientX);
    return plan.parts.filter((p) => (p.first + p.end) / 2 < record).length;
  }

  /** @param {number} id @param {{ shiftKey: boolean, ctrlKey: boolean, metaKey: boolean }} keys */
  pick(id, keys) {
    const ids = this.state.parts.map((p) => p.id);
    if (keys.shiftKey && this.anchor !== null && ids.includes(this.anchor)) {
      const [a, b] = [ids.indexOf(this.anchor), ids.indexOf(id)].sort((p, q) => p - q);
      this.state.select([...(keys.ctrlKey || keys.metaKey ? this.state.selected : []), ...ids.slice(a, b + 1)]);
      return;
    }
    this.anchor = id;
    if (keys.ctrlKey || keys.metaKey) this.state.select(this.state.selected.has(id) ? [...this.state.selected].filter((s) => s !== id) : [...this.state.selected, id]);
    else this.state.select([id]);
  }

  _keysOnParts() {
    this.track.addEventListener("keydown", (event) => {
      const li = /** @type {HTMLElement | null} */ (/** @type {Element} */ (event.target).closest("li"));
      if (!li) return;
      const items = /** @type {HTMLElement[]} */ ([...this.state.list.querySelectorAll("li")]);
      const n = items.indexOf(li);
      /** @type {Record<string, number>} */
      const goes = { ArrowLeft: n - 1, ArrowRight: n + 1, Home: 0, End: items.length - 1 };
      if (event.key === "Enter") {
        event.preventDefault();
        return this.pick(Number(li.dataset.part), event);
      }
      if (!(event.key in goes) || event.altKey) return;
      event.preventDefault();
      event.stopPropagation();
      const next = items[Math.max(0, Math.min(items.length - 1, goes[event.key]))];
      items.forEach((item) => (item.tabIndex = item === next ? 0 : -1));
      next.focus();
      this.pick(Number(next.dataset.part), event.shiftKey ? event : { shiftKey: false, ctrlKey: false, metaKey: false });
    });
  }
}
