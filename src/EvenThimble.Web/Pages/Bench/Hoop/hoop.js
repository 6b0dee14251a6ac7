// @ts-check
/** The Hoop task: fields with their numbers, seams and crosses on the cloth; seams and crosses are dragged. */

const reachPx = 9;
const armMm = 4;
const colours = ["#2f4b7c", "#a63a3c", "#3a6b4a", "#c9962b", "#5a3a6b", "#2c7a8c"];

/** @param {number[]} flat x and y in turn @returns {[number, number][]} */
const pairs = (flat) => flat.flatMap((x, i) => (i % 2 === 0 ? [/** @type {[number, number]} */ ([x, flat[i + 1]])] : []));

/** @param {import("../Screen/bench.js").Bench} bench */
export function mount({ cloth, state, tools, post }) {
  /** What is being dragged: a whole seam, an end of it, or a cross. @type {{ kind: "seam" | "end" | "cross", index: number, end: number, from: [number, number], points: [number, number][] } | null} */
  let held = null;
  const divided = () => state.known.fields.length > 1;
  const seams = () => state.known.seams.map((s, i) => ({ ...s, points: held && held.kind !== "cross" && held.index === i ? held.points : pairs(s.line) }));
  const crosses = () => (held?.kind === "cross" ? held.points : pairs(state.known.crosses));
  const isOpen = () => state.task === "hoop";

  /** @param {number} x @param {number} y px @returns {typeof held} */
  function under(x, y) {
    if (!isOpen() || !divided()) return null;
    const spots = pairs(state.known.crosses);
    const cross = spots.findIndex((p) => near(p, x, y));
    const from = cloth.toCloth(x, y);
    if (cross >= 0) return { kind: "cross", index: cross, end: 0, from, points: spots };
    for (const [index, seam] of seams().entries()) {
      const end = seam.points.findIndex((p) => near(p, x, y));
      if (end >= 0) return { kind: "end", index, end, from, points: seam.points };
      for (let i = 1; i < seam.points.length; i++) if (offLine(seam.points[i - 1], seam.points[i], x, y) <= reachPx) return { kind: "seam", index, end: 0, from, points: seam.points };
    }
    return null;
  }

  /** @param {[number, number]} p mm @param {number} x @param {number} y px */
  function near(p, x, y) {
    const [px, py] = cloth.toScreen(...p);
    return Math.hypot(px - x, py - y) <= reachPx;
  }

  /** How far a place lies from a line, px. @param {[number, number]} a @param {[number, number]} b mm @param {number} x @param {number} y px */
  function offLine(a, b, x, y) {
    const [ax, ay] = cloth.toScreen(...a), [bx, by] = cloth.toScreen(...b);
    const t = Math.max(0, Math.min(1, ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / Math.max((bx - ax) ** 2 + (by - ay) ** 2, 1e-9)));
    return Math.hypot(x - ax - t * (bx - ax), y - ay - t * (by - ay));
  }

  const asLine = (/** @type {[number, number][]} */ points) => points.map(([x, y]) => `${x.toFixed(2)},${y.toFixed(2)}`).join(" ");

  tools.add({
    name: "hoopings",
    down(x, y) {
      held = under(x, y);
      return held !== null;
    },
    drag(x, y) {
      if (!held) return;
      const [mx, my] = cloth.toCloth(x, y);
      const [dx, dy] = [mx - held.from[0], my - held.from[1]];
      const moves = held;
      held = { ...held, from: [mx, my], points: held.points.map(([px, py], i) => (moves.kind === "seam" || (moves.kind === "end" ? i === moves.end : i === moves.index) ? [px + dx, py + dy] : [px, py])) };
      cloth.ask();
    },
    up() {
      if (!held) return;
      const { kind, index, points } = held;
      const done = kind === "cross" ? post("crosses", { wanted: "true", spots: asLine(points) }) : post("seam", { first: String(state.known.seams[index].first), second: String(state.known.seams[index].second), line: asLine(points) });
      // It stays where it was let go of until the answer says where it is.
      void done.then(() => {
        held = null;
        cloth.ask();
      });
    },
    cancel() {
      held = null;
      cloth.ask();
    },
    cursorAt: (x, y) => (under(x, y) ? "move" : null),
  });

  cloth.overlays.push((ctx) => {
    if (state.rehearsing) return;
    ctx.save();
    if (divided()) drawDivided(ctx);
    drawHeld(ctx);
    ctx.restore();
  });

  /** @param {CanvasRenderingContext2D} ctx */
  function drawDivided(ctx) {
    const strong = isOpen();
    ctx.globalAlpha = strong ? 1 : 0.55;
    for (const field of state.known.fields) {
      const [x, y] = cloth.toScreen(field.edge[0], field.edge[1]);
      const nudge = (field.number - 1) * 22;
      ctx.fillStyle = colours[(field.number - 1) % colours.length];
      ctx.beginPath();
      ctx.arc(x + 14 + nudge, y + 14, 9, 0, 2 * Math.PI);
      ctx.fill();
      ctx.fillStyle = "#faf7f1";
      ctx.font = "600 11px Figtree, sans-serif";
      ctx.textAlign = "center";
      ctx.textBaseline = "middle";
      ctx.fillText(String(field.number), x + 14 + nudge, y + 14.5);
    }
    for (const seam of seams()) {
      for (const [width, colour, dash] of /** @type {[number, string, number[]][]} */ ([[4, "rgb(250 247 241 / .8)", []], [1.75, "#a63a3c", [9, 4]]])) {
        ctx.lineWidth = width;
        ctx.strokeStyle = colour;
        ctx.setLineDash(dash);
        ctx.beginPath();
        for (const p of seam.points) ctx.lineTo(...cloth.toScreen(...p));
        ctx.stroke();
      }
      ctx.setLineDash([]);
      if (!strong) continue;
      for (const p of seam.points) {
        const [x, y] = cloth.toScreen(...p);
        ctx.fillStyle = "#faf7f1";
        ctx.lineWidth = 2;
        ctx.strokeStyle = "#a63a3c";
        ctx.beginPath();
        ctx.arc(x, y, 5, 0, 2 * Math.PI);
        ctx.fill();
        ctx.stroke();
      }
    }
    for (const p of crosses()) {
      const [x, y] = cloth.toScreen(...p);
      const arm = armMm * cloth.view.scale;
      for (const [width, colour] of /** @type {[number, string][]} */ ([[4, "rgb(250 247 241 / .8)"], [1.75, "#c2185b"]])) {
        ctx.lineWidth = width;
        ctx.strokeStyle = colour;
        ctx.beginPath();
        ctx.moveTo(x - arm, y);
        ctx.lineTo(x + arm, y);
        ctx.moveTo(x, y - arm);
        ctx.lineTo(x, y + arm);
        ctx.stroke();
      }
    }
  }

  /** The basting lines. @param {CanvasRenderingContext2D} ctx */
  function drawHeld(ctx) {
    const line = pairs(state.known.held);
    if (line.length === 0) return;
    ctx.lineWidth = 1.5;
    ctx.strokeStyle = "#c2185b";
    ctx.setLineDash([6, 3]);
    ctx.beginPath();
    let before = line[0];
    for (const p of line) {
      if (Math.hypot(p[0] - before[0], p[1] - before[1]) > 12) ctx.moveTo(...cloth.toScreen(...p));
      else ctx.lineTo(...cloth.toScreen(...p));
      before = p;
    }
    ctx.stroke();
    ctx.setLineDash([]);
  }

  state.addEventListener("card", () => cloth.ask());
}
