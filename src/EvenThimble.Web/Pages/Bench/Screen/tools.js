// @ts-check
/** The one stack of tools for the hand on the cloth: whatever the pointer or a key does there is offered to the topmost first. */

/**
 * What a tool may do; places in pixels of the screen. A tool that takes a press is given its movements until it ends.
 * @typedef {object} Tool
 * @property {string} name
 * @property {(x: number, y: number, event: PointerEvent | null) => boolean} [down] true: it takes the press
 * @property {(x: number, y: number, event: PointerEvent) => void} [drag]
 * @property {(x: number, y: number, event: PointerEvent) => void} [up]
 * @property {() => void} [cancel] the press ended without meaning it
 * @property {(x: number, y: number) => void} [hover]
 * @property {(x: number, y: number) => string | null} [cursorAt]
 * @property {(event: KeyboardEvent) => boolean} [key] true: the key was meant for it
 * @property {(event: MouseEvent, x: number, y: number) => boolean} [double] true: the double click was meant for it
 * @property {(ctx: CanvasRenderingContext2D) => void} [draw] over the cloth, in CSS pixels
 * @property {() => [number, number] | null} [handle] where it is taken hold of, while it has such a place
 * @property {() => void} [taken] it was taken in hand
 * @property {() => void} [laid] it was laid aside
 */

export class Tools {
  constructor() {
    /** From the bottom to the top. @type {Tool[]} */
    this.stack = [];
    /** The tool that has taken the press. @type {Tool | null} */
    this.holding = null;
    /** Tools that are taken in hand by a name, one at a time, by a button or a key. @type {Map<string, Tool>} */
    this.known = new Map();
    /** @type {Tool | null} */
    this.inHand = null;
    /** Told when another tool is taken in hand. @type {(() => void)[]} */
    this.watchers = [];
  }

  /** Lays a tool on the stack for good: it acts wherever it finds something to do. @param {Tool} tool */
  add(tool) {
    this.stack.push(tool);
  }

  /** Makes a tool known that is taken in hand by its name. @param {Tool} tool */
  offer(tool) {
    this.known.set(tool.name, tool);
  }

  /** Takes a tool in hand, or lays aside the one that is; an empty name only lays aside. @param {string} name */
  take(name) {
    const before = this.inHand;
    this.inHand = null;
    if (before) {
      this.stack = this.stack.filter((t) => t !== before);
      before.laid?.();
    }
    const next = this.known.get(name);
    if (next) {
      this.inHand = next;
      this.stack.push(next);
      next.taken?.();
    }
    for (const watch of this.watchers) watch();
  }

  /** @param {string} name */
  toggle(name) {
    this.take(this.inHand?.name === name ? "" : name);
  }

  get fromTop() {
    return [...this.stack].reverse();
  }

  /** @param {number} x @param {number} y @param {PointerEvent | null} event */
  down(x, y, event) {
    this.holding = this.fromTop.find((tool) => tool.down?.(x, y, event)) ?? null;
    return this.holding !== null;
  }

  /** @param {number} x @param {number} y @param {PointerEvent} event */
  drag(x, y, event) {
    this.holding?.drag?.(x, y, event);
  }

  /** @param {number} x @param {number} y @param {PointerEvent} event */
  up(x, y, event) {
    const tool = this.holding;
    this.holding = null;
    if (event.type === "pointercancel") tool?.cancel?.();
    else tool?.up?.(x, y, event);
  }

  /** Lets go of what was begun. */
  cancel() {
    const tool = this.holding;
    this.holding = null;
    tool?.cancel?.();
  }

  /** @param {number} x @param {number} y @returns {string} the cursor */
  hover(x, y) {
    for (const tool of this.stack) tool.hover?.(x, y);
    for (const tool of this.fromTop) {
      const cursor = tool.cursorAt?.(x, y);
      if (cursor) return cursor;
    }
    return "default";
  }

  /** @param {KeyboardEvent} event */
  key(event) {
    return this.fromTop.some((tool) => tool.key?.(event));
  }

  /** @param {MouseEvent} event @param {number} x @param {number} y */
  double(event, x, y) {
    return this.fromTop.some((tool) => tool.double?.(event, x, y));
  }

  /** @param {CanvasRenderingContext2D} ctx */
  draw(ctx) {
    for (const tool of this.stack) tool.draw?.(ctx);
  }
}
