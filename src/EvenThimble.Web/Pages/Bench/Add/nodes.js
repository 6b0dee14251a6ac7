// @ts-check
/** Points of the selected shape: moved, added, taken out. */
import { arrowOf, square } from "../Screen/points.js";

const nearPx = 9;
const brass = "#c9962b";

/** @param {import("../Screen/bench.js").Bench} bench @returns {import("../Screen/tools.js").Tool & { hint: string }} */
export function nodesTool({ cloth, state, tools, outline, post }) {
  /** @type {{ path: number, node: number } | null} */
  let marked = null;
  /** @type {{ at: [number, number], moved: boolean } | null} the point that is held */
  let held = null;
  const values = () => ({ part: String(outline.data?.part ?? 0), path: String(marked?.path ?? 0), node: String(marked?.node ?? 0) });
  state.addEventListener("selection", () => tools.inHand?.name === "nodes" && !outline.part && tools.take(""));

  /** @param {number} x @param {number} y @param {[number, number]} at mm */
  const isNear = (x, y, at) => {
    const [nx, ny] = cloth.toScreen(...at);
    return Math.hypot(x - nx, y - ny) <= nearPx;
  };

  /** The piece of a line that runs by a place. @param {import("../Screen/outline.js").OutlinePath} path @param {number} x @param {number} y */
  const pieceAt = ({ line }, x, y) => line.findIndex((from, i) => {
    const [ax, ay] = cloth.toScreen(...from), [bx, by] = cloth.toScreen(...line[(i + 1) % line.length]);
    const t = Math.max(0, Math.min(1, ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / ((bx - ax) ** 2 + (by - ay) ** 2 || 1)));
    return Math.hypot(ax + t * (bx - ax) - x, ay + t * (by - ay) - y) <= nearPx * 0.7;
  });

  return {
    name: "nodes",
    hint: "Drag a point, or click the line for a new one; Delete takes the marked one out. , and . mark the next, arrows move it.",
    taken() {
      marked = null;
      cloth.root.focus({ preventScroll: true });
      void outline.bring();
      cloth.ask();
    },
    laid: () => cloth.ask(),
    down(x, y) {
      const { data } = outline;
      if (!data) return false;
      for (const [path, { nodes }] of data.paths.entries()) {
        const node = nodes.findIndex((at) => isNear(x, y, at));
        if (node < 0) continue;
        marked = { path, node };
        held = { at: cloth.toCloth(x, y), moved: false };
        cloth.ask();
        return true;
      }
      for (const [path, of] of data.paths.entries()) {
        const hit = pieceAt(of, x, y);
        if (hit < 0) continue;
        // The points of the outline appear along its line in their order.
        let node = 0;
        for (let i = 0, n = 0; i <= hit && n < of.nodes.length; i++) if (Math.hypot(of.line[i][0] - of.nodes[n][0], of.line[i][1] - of.nodes[n][1]) < 1e-6) node = n++;
        const place = cloth.toCloth(x, y);
        void post("add-node", { part: String(data.part), path: String(path), node: String(node), x: place[0].toFixed(3), y: place[1].toFixed(3) });
        return true;
      }
      return false;
    },
    drag(x, y) {
      if (held) held = { at: cloth.toCloth(x, y), moved: true };
      cloth.ask();
    },
    up() {
      const done = held;
      held = null;
      if (done?.moved) void post("move-node", { ...values(), x: done.at[0].toFixed(3), y: done.at[1].toFixed(3) });
    },
    cancel() {
      held = null;
      cloth.ask();
    },
    cursorAt: () => "crosshair",
    double: () => true,
    key(event) {
      const { data } = outline;
      if (event.ctrlKey || event.metaKey) return false;
      if (event.key === "Escape") {
        tools.take("");
        return true;
      }
      if (!data) return false;
      const all = data.paths.flatMap((p, path) => p.nodes.map((_, node) => ({ path, node })));
      const at = all.findIndex((n) => n.path === marked?.path && n.node === marked.node);
      const by = arrowOf(event);
      if (event.key === "." || event.key === ",") marked = all[(at + (event.key === "." ? 1 : all.length - 1)) % all.length];
      else if ((event.key === "Delete" || event.key === "Backspace") && marked) {
        void post("remove-node", values());
        marked = null;
      } else if (by && marked) {
        const [x, y] = data.paths[marked.path].nodes[marked.node];
        void post("move-node", { ...values(), x: (x + by[0]).toFixed(3), y: (y + by[1]).toFixed(3) });
      } else return false;
      cloth.ask();
      return true;
    },
    draw(ctx) {
      for (const [path, { nodes, line, closed }] of (outline.data?.paths ?? []).entries()) {
        ctx.strokeStyle = brass;
        ctx.lineWidth = 1.5;
        ctx.beginPath();
        for (const [i, p] of line.entries()) ctx[i ? "lineTo" : "moveTo"](...cloth.toScreen(...p));
        if (closed) ctx.closePath();
        ctx.stroke();
        for (const [node, at] of nodes.entries()) {
          const isMarked = marked?.path === path && marked.node === node;
          square(ctx, cloth.toScreen(...(isMarked && held ? held.at : at)), isMarked);
        }
      }
    },
  };
}
