// @ts-check
/** Where the needle stands between two jumps, the stretch that is sewn and the one that comes are lit up: that is where a part can be cut. */
import { STITCH } from "./plan.js";

const sewnInk = "#c9962b";
const comingInk = "#2f6fb0";

/** @param {import("./cloth.js").Cloth} cloth @param {import("./state.js").BenchState} state @param {import("./rehearsal.js").Rehearsal} rehearsal */
export function showStretches(cloth, state, rehearsal) {
  let key = "";
  /** @type {{ sewn: Path2D, coming: Path2D }} */
  let paths = { sewn: new Path2D(), coming: new Path2D() };

  /** @param {number} first @param {number} end */
  const along = (first, end) => {
    const plan = /** @type {import("./plan.js").Plan} */ (state.plan);
    const path = new Path2D();
    let down = false;
    for (let i = Math.max(0, first); i < end; i++) {
      if (plan.kinds[i] === STITCH) path[down ? "lineTo" : "moveTo"](plan.xy[2 * i], plan.xy[2 * i + 1]);
      down = plan.kinds[i] === STITCH;
    }
    return path;
  };

  cloth.overlays.push((ctx) => {
    const { plan, needle } = state;
    if (!plan || !state.rehearsing || rehearsal.playing || needle === 0 || cloth.moving) return;
    const now = `${state.planTag} ${needle}`;
    if (now !== key) {
      key = now;
      const range = plan.parts[plan.partAt(needle - 1)];
      const before = Math.max(range.first, plan.seek(plan.isLeap(needle) ? needle : needle + 1, -1, (i) => plan.isLeap(i)));
      const after = Math.min(range.end, plan.seek(needle, 1, (i) => plan.isLeap(i)));
      paths = { sewn: along(before, needle), coming: along(needle, after) };
    }
    const { view } = cloth;
    ctx.save();
    ctx.translate(view.width / 2 - view.x * view.scale, view.height / 2 - view.y * view.scale);
    ctx.scale(view.scale, view.scale);
    ctx.lineJoin = "round";
    for (const [path, ink] of /** @type {const} */ ([[paths.sewn, sewnInk], [paths.coming, comingInk]])) {
      ctx.globalAlpha = 0.28;
      ctx.lineWidth = 0.9;
      ctx.strokeStyle = ink;
      ctx.stroke(path);
      ctx.globalAlpha = 0.9;
      ctx.lineWidth = 1 / view.scale;
      ctx.stroke(path);
    }
    ctx.restore();
  });
}
