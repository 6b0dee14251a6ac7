// @ts-check
/** What the bench knows: the job as the page says it, the plan, the selection, the needle. Others listen for its changes. */

/**
 * @typedef {object} PartEntry
 * @property {number} id
 * @property {number} piece
 * @property {string} colour
 * @property {string} thread
 * @property {string} name
 * @property {boolean} drawn
 * @property {boolean} hidden
 * @property {boolean} locked
 */

/**
 * A hoop field on the cloth; places as x and y in turn, mm. The number is that of its hooping, 0 where there is one.
 * @typedef {{ number: number, x: number, y: number, edge: number[] }} ScreenField
 */

/**
 * What the server says of the job beside its parts.
 * @typedef {{ job: number, version: number, plan: string, unit: string, speed: number, clothColour: string, weave: string, fields: ScreenField[], seams: { first: number, second: number, line: number[] }[], crosses: number[], held: number[] }} JobState
 */

export class BenchState extends EventTarget {
  constructor() {
    super();
    this.root = /** @type {HTMLElement} */ (document.getElementById("bench"));
    /** @type {JobState} */
    this.known = JSON.parse(this.root.dataset.state ?? "{}");
    /** @type {import("./plan.js").Plan | null} */
    this.plan = null;
    /** @type {PartEntry[]} */
    this.parts = [];
    /** @type {Set<number>} ids of parts */
    this.selected = new Set();
    /** Records before this are sewn; the whole plan when nobody rehearses. */
    this.needle = 0;
    /** The task that is wanted; the card of another may still be shown for a moment. */
    this.task = document.getElementById("task-card")?.dataset.task ?? "arrange";
    /** The colour of parts that are only tried, and are not of the job yet. */
    this.coming = "#808080";
    /** A colour that the selected parts are shown in for a moment. @type {string | null} */
    this.preview = null;
    this.readPage();
  }

  get list() {
    return /** @type {HTMLElement} */ (document.getElementById("line-parts"));
  }

  get job() {
    return String(this.known.job);
  }

  get version() {
    return String(this.known.version);
  }

  get planTag() {
    return this.known.plan;
  }

  get stitchesPerMinute() {
    return this.known.speed;
  }

  get unit() {
    return this.known.unit;
  }

  /** @returns {import("./ground.js").Ground} */
  get ground() {
    const { clothColour, weave, fields } = this.known;
    return { colour: clothColour, weave, fields };
  }

  /** Takes over what the server says of the job; the page says it too, for tests and for whoever looks. @param {JobState} known */
  setKnown(known) {
    this.known = known;
    this.root.dataset.state = JSON.stringify(known);
  }

  /** Takes over what the server rendered. */
  readPage() {
    this.parts = [...this.list.querySelectorAll("li")].map((li) => ({
      id: Number(li.dataset.part),
      piece: Number(li.dataset.piece),
      colour: li.dataset.colour ?? "#000000",
      thread: li.dataset.thread ?? "",
      name: li.dataset.name ?? "",
      drawn: li.dataset.drawn === "true",
      hidden: li.dataset.hidden === "true",
      locked: li.dataset.locked === "true",
    }));
    const there = new Set(this.parts.map((p) => p.id));
    this.selected = new Set([...this.selected].filter((id) => there.has(id)));
    this.preview = null;
  }

  /** @param {import("./plan.js").Plan} plan */
  setPlan(plan) {
    const atEnd = !this.plan || this.needle >= this.plan.count;
    this.plan = plan;
    this.needle = atEnd ? plan.count : Math.min(this.needle, plan.count);
    this.tell("plan");
  }

  /** @param {Iterable<number>} ids */
  select(ids) {
    const next = new Set(ids);
    if (next.size === this.selected.size && [...next].every((id) => this.selected.has(id))) return;
    this.selected = next;
    this.tell("selection");
  }

  /** @param {number} needle */
  setNeedle(needle) {
    const end = this.plan?.count ?? 0;
    const next = Math.max(0, Math.min(end, Math.round(needle)));
    if (next === this.needle) return;
    this.needle = next;
    this.tell("needle");
  }

  /** @param {string | null} colour */
  setPreview(colour) {
    if (colour === this.preview) return;
    this.preview = colour;
    this.tell("look");
  }

  get rehearsing() {
    return this.plan !== null && this.needle < this.plan.count;
  }

  /** The ranges of the selected parts in the plan. */
  selectedRanges() {
    return this.plan?.parts.filter((p) => this.selected.has(p.id)) ?? [];
  }

  /**
   * What the page says of each part of the plan. While a new plan is on its way, page and plan may differ in their order, so parts go by their names.
   * @returns {PartEntry[]}
   */
  planned() {
    const entries = new Map(this.parts.map((p) => [p.id, p]));
    return (this.plan?.parts ?? []).map((range) => entries.get(range.id) ?? { id: range.id, piece: 0, colour: this.coming, thread: "", name: "", drawn: false, hidden: false, locked: false });
  }

  /** The colour of each planned part, the preview included. */
  colours() {
    return this.planned().map((p) => (this.preview && this.selected.has(p.id) ? this.preview : p.colour));
  }

  /** @param {"plan" | "selection" | "needle" | "look" | "page" | "kept" | "trial" | "card"} what */
  tell(what) {
    this.dispatchEvent(new Event(what));
  }
}
