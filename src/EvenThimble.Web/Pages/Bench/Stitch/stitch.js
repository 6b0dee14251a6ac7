// @ts-check
/** The Stitch task: the handle that turns rows, where stitches start and end, and what is covered. */
import { Covered, drawGone } from "./covered.js";
import { showStretches } from "./stretches.js";

const nearPx = 14;
const handlePx = 64;
const brass = "#c9962b";

/** @param {import("../Screen/bench.js").Bench} bench */
export function mount(bench) {
  const { cloth, state, tools, trial, outline, post } = bench;
  const covered = new Covered(state, cloth);
  showStretches(state, cloth);
  cloth.overlays.push((ctx) => trial.gone && cloth.kind !== "density" && drawGone(ctx, cloth.view, trial.gone));
  document.addEventListener("click", (event) => {
    if (/** @type {Element} */ (event.target).closest("[data-show-gone]")) void covered.toggle();
  });
  tools.add(rowsTool());
  for (const field of /** @type {const} */ (["start", "end"])) tools.offer(endTool(field));

  /** The handle of the rows; it is there whenever the task shows a shape that has some. @returns {import("../Screen/tools.js").Tool} */
  function rowsTool() {
    /** @type {number | null} the angle that the hand has turned them to, degrees */
    let turned = null;
    const handle = () => {
      const { data } = outline;
      if (state.task !== "stitch" || tools.inHand || !data?.rows) return null;
      const [x, y] = cloth.toScreen(...data.middle);
      const angle = ((turned ?? data.angle) * Math.PI) / 180;
      return { x, y, ex: x + handlePx * Math.cos(angle), ey: y + handlePx * Math.sin(angle) };
    };
    /** @param {number} x @param {number} y */
    const isOn = (x, y) => {
      const h = handle();
      return h !== null && Math.hypot(x - h.ex, y - h.ey) <= nearPx;
    };
    let moved = false;
    return {
      name: "rows",
      down(x, y) {
        moved = false;
        return isOn(x, y);
      },
      drag(x, y) {
        const { data } = outline;
        if (!data) return;
        const [mx, my] = cloth.toScreen(...data.middle);
        turned = Math.round(((((Math.atan2(y - my, x - mx) * 180) / Math.PI) % 180) + 180) % 180);
        moved = true;
        void trial.show("rows", { part: String(data.part), angle: String(turned) });
        cloth.ask();
      },
      up() {
        const { data } = outline;
        if (moved && data && turned !== null) {
          data.angle = turned;
          void post("rows", { part: String(data.part), angle: String(turned) }).then(() => trial.end());
        }
        turned = null;
      },
      cancel() {
        turned = null;
        trial.end();
      },
      cursorAt: (x, y) => (isOn(x, y) ? "grab" : null),
      handle() {
        const h = handle();
        return h && [h.ex, h.ey];
      },
      draw(ctx) {
        const { data } = outline;
        for (const [place, round] of /** @type {const} */ ([[data?.start, true], [data?.end, false]])) {
          if (!place || state.task !== "stitch") continue;
          const [x, y] = cloth.toScreen(...place);
          ctx.fillStyle = brass;
          ctx.strokeStyle = "#1f2a37";
          ctx.lineWidth = 1.5;
          ctx.beginPath();
          if (round) ctx.arc(x, y, 6, 0, 2 * Math.PI);
          else ctx.rect(x - 5, y - 5, 10, 10);
          ctx.fill();
          ctx.stroke();
        }
        const h = handle();
        if (!h) return;
        ctx.strokeStyle = brass;
        ctx.lineWidth = 2;
        ctx.beginPath();
        ctx.moveTo(2 * h.x - h.ex, 2 * h.y - h.ey);
        ctx.lineTo(h.ex, h.ey);
        ctx.stroke();
        ctx.fillStyle = "#faf7f1";
        ctx.lineWidth = 3;
        ctx.beginPath();
        ctx.arc(h.ex, h.ey, 8, 0, 2 * Math.PI);
        ctx.fill();
        ctx.stroke();
      },
    };
  }

  /** A click where stitches are to start or end. @param {"start" | "end"} field @returns {import("../Screen/tools.js").Tool} */
  function endTool(field) {
    return {
      name: field,
      taken: () => cloth.root.focus({ preventScroll: true }),
      down(x, y) {
        const place = cloth.toCloth(x, y);
        void post("from", { part: String(outline.part), field, x: place[0].toFixed(3), y: place[1].toFixed(3) });
        tools.take("");
        return true;
      },
      cursorAt: () => "crosshair",
      key(event) {
        if (event.key !== "Escape") return false;
        tools.take("");
        return true;
      },
    };
  }
}
