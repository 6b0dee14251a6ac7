// @ts-check
/** The tool at the bottom of the stack: select, frame, move, turn, make larger or smaller. */
import { formatMm, post } from "./post.js";

const clickPx = 4;
const sameSpotPx = 6;

/** @param {import("./cloth.js").Cloth} cloth @param {import("./state.js").BenchState} state @returns {import("./tools.js").Tool} */
export function selecting(cloth, state) {
  const live = /** @type {HTMLOutputElement} */ (document.getElementById("live"));
  /** @type {{ kind: "frame" | "move" | "turn" | "size" | "press", x: number, y: number, moved: boolean, add: boolean, hit: number | null, ring?: readonly [number, number] } | null} */
  let hand = null;
  let lastClick = { x: -99, y: -99, depth: 0 };

  /** Ids of parts under the pointer that may be taken, the topmost first. @param {number} sx @param {number} sy */
  const partsUnder = (sx, sy) => {
    const { plan } = state;
    if (!plan) return [];
    const [x, y] = cloth.toCloth(sx, sy);
    const reach = Math.max(0.35, 5 / cloth.view.scale);
    const planned = state.planned();
    return plan.partsAt(x, y, reach).map((n) => planned[n]).filter((p) => !p.hidden && !p.locked).map((p) => p.id);
  };

  /** The first movement decides: a press on a part becomes a move of it, and of all that is selected with it. */
  function begin() {
    if (!hand || hand.kind !== "press" || hand.hit === null) return;
    if (!state.selected.has(hand.hit)) state.select(hand.add ? [...state.selected, hand.hit] : [hand.hit]);
    hand.kind = "move";
  }

  /** @param {number} dx @param {number} dy mm */
  function carry(dx, dy) {
    Object.assign(cloth.hand, { dx, dy });
    tell(`${formatMm(dx, state.unit)} across, ${formatMm(dy, state.unit)} down`);
    cloth.ask();
  }

  /** @param {number} x @param {number} y @param {boolean} snap */
  function turn(x, y, snap) {
    const box = cloth.selectedBox();
    if (!box || !hand) return;
    const about = /** @type {[number, number]} */ ([(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2]);
    const [cx, cy] = cloth.toScreen(...about);
    const degrees = ((Math.atan2(y - cy, x - cx) - Math.atan2(hand.y - cy, hand.x - cx)) * 180) / Math.PI;
    const step = snap ? 15 : 0.5;
    cloth.hand.about = about;
    cloth.hand.turn = Math.round((((degrees + 540) % 360) - 180) / step) * step;
    tell(`${cloth.hand.turn}°`);
    cloth.ask();
  }

  /**
   * In proportion unless Shift frees width and height; about the opposite side, or with Alt about the middle; with Ctrl an upper or lower side leans.
   * @param {number} x @param {number} y @param {PointerEvent} keys
   */
  function size(x, y, keys) {
    const box = cloth.selectedBox();
    if (!box || !hand?.ring) return;
    const [across, down] = hand.ring;
    const width = Math.max(box.maxX - box.minX, 0.1), height = Math.max(box.maxY - box.minY, 0.1);
    const middle = /** @type {[number, number]} */ ([(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2]);
    const [px, py] = cloth.toCloth(x, y), [fromX, fromY] = cloth.toCloth(hand.x, hand.y);
    const live = cloth.hand;
    if (keys.ctrlKey && across === 0) {
      live.about = middle;
      live.lean = Math.max(-1.7, Math.min(1.7, (-down * (px - fromX)) / (height / 2)));
      live.across = live.down = 1;
      tell(`leans ${((Math.atan(live.lean) * 180) / Math.PI).toFixed(1)}°`);
      return cloth.ask();
    }
    const room = keys.altKey ? 2 : 1;
    const wide = across ? Math.max(0.02, 1 + (across * (px - fromX) * room) / width) : 1;
    const high = down ? Math.max(0.02, 1 + (down * (py - fromY) * room) / height) : 1;
    const both = across && down ? Math.max(wide, high) : across ? wide : high;
    live.lean = 0;
    live.across = keys.shiftKey ? wide : both;
    live.down = keys.shiftKey ? high : both;
    live.about = keys.altKey ? middle : [middle[0] - (across * width) / 2, middle[1] - (down * height) / 2];
    const percent = keys.shiftKey ? `${(live.across * 100).toFixed(0)} % × ${(live.down * 100).toFixed(0)} %` : `${(live.across * 100).toFixed(1)} %`;
    tell(`${formatMm(width * live.across, state.unit)} × ${formatMm(height * live.down, state.unit)}, ${percent}`);
    cloth.ask();
  }

  /** @param {number} x @param {number} y */
  function frame(x, y) {
    if (!hand) return;
    const [x0, y0] = cloth.toCloth(hand.x, hand.y), [x1, y1] = cloth.toCloth(x, y);
    cloth.hand.frame = { minX: Math.min(x0, x1), minY: Math.min(y0, y1), maxX: Math.max(x0, x1), maxY: Math.max(y0, y1) };
    cloth.ask();
  }

  /** @param {string} words */
  function tell(words) {
    live.hidden = false;
    live.textContent = words;
  }

  function clear() {
    Object.assign(cloth.hand, { dx: 0, dy: 0, turn: 0, about: [0, 0], frame: null, across: 1, down: 1, lean: 0 });
    cloth.ask();
  }

  /** A click takes what is on top; again in the same place, what lies under it. @param {number} x @param {number} y @param {boolean} add */
  function click(x, y, add) {
    const under = partsUnder(x, y);
    if (under.length === 0) {
      lastClick = { x: -99, y: -99, depth: 0 };
      if (!add) state.select([]);
      return;
    }
    const again = Math.hypot(x - lastClick.x, y - lastClick.y) <= sameSpotPx;
    const depth = again ? (lastClick.depth + 1) % under.length : 0;
    lastClick = { x, y, depth };
    const id = under[depth];
    if (!add) return state.select([id]);
    state.select(state.selected.has(id) ? [...state.selected].filter((s) => s !== id) : [...state.selected, id]);
  }

  /** @param {import("./plan.js").Box} box @param {boolean} add */
  function selectFramed(box, add) {
    const { plan } = state;
    if (!plan) return;
    const planned = state.planned();
    const inside = plan.parts.filter((range, n) => {
      const part = planned[n];
      if (part.hidden || part.locked) return false;
      for (let i = range.first; i < range.end; i++) {
        const x = plan.xy[2 * i], y = plan.xy[2 * i + 1];
        if (plan.kinds[i] === 0 && x >= box.minX && x <= box.maxX && y >= box.minY && y <= box.maxY) return true;
      }
      return false;
    });
    state.select([...(add ? state.selected : []), ...inside.map((r) => r.id)]);
  }

  return {
    name: "select",
    down(x, y, event) {
      const ring = cloth.ringUnder(x, y);
      const under = partsUnder(x, y);
      hand = { kind: ring === "turn" ? "turn" : ring ? "size" : under.length ? "press" : "frame", x, y, moved: false, add: event?.shiftKey ?? false, hit: under[0] ?? null, ring: ring && ring !== "turn" ? ring : undefined };
      // What is under the hand is moved if it is selected, even where another part lies on top of it.
      if (hand.kind === "press") hand.hit = under.find((id) => state.selected.has(id)) ?? under[0];
      return true;
    },
    drag(x, y, event) {
      if (!hand) return;
      const dx = x - hand.x, dy = y - hand.y;
      if (!hand.moved && Math.hypot(dx, dy) < clickPx) return;
      if (!hand.moved) begin();
      hand.moved = true;
      if (hand.kind === "move") carry(dx / cloth.view.scale, dy / cloth.view.scale);
      else if (hand.kind === "turn") turn(x, y, event.shiftKey);
      else if (hand.kind === "size") size(x, y, event);
      else if (hand.kind === "frame") frame(x, y);
    },
    up(x, y) {
      const done = hand;
      hand = null;
      live.hidden = true;
      if (!done) return;
      const { dx, dy, turn: degrees, frame: framed, across, down, lean, about } = cloth.hand;
      if (!done.moved) {
        clear();
        return click(x, y, done.add);
      }
      if (done.kind === "frame" && framed) selectFramed(framed, done.add);
      if (done.kind === "move" && (dx || dy)) return void post("shift", { dx: dx.toFixed(3), dy: dy.toFixed(3) }).finally(clear);
      if (done.kind === "turn" && degrees) return void post("turn", { degrees: String(degrees) }).finally(clear);
      if (done.kind === "size" && lean) return void post("lean", { degrees: ((Math.atan(lean) * 180) / Math.PI).toFixed(2) }).finally(clear);
      if (done.kind === "size" && (across !== 1 || down !== 1)) return void post("scale", { across: across.toFixed(5), down: down.toFixed(5), x: about[0].toFixed(4), y: about[1].toFixed(4) }).finally(clear);
      clear();
    },
    cancel() {
      hand = null;
      live.hidden = true;
      clear();
    },
    cursorAt(x, y) {
      const ring = cloth.ringUnder(x, y);
      if (ring === "turn") return "alias";
      if (ring) return ring[0] === 0 ? "ns-resize" : ring[1] === 0 ? "ew-resize" : ring[0] === ring[1] ? "nwse-resize" : "nesw-resize";
      return partsUnder(x, y).length ? "move" : "default";
    },
    double(_event, x, y) {
      const [id] = partsUnder(x, y);
      const piece = state.parts.find((p) => p.id === id)?.piece;
      if (piece !== undefined) state.select(state.parts.filter((p) => p.piece === piece && !p.locked).map((p) => p.id));
      return true;
    },
  };
}
