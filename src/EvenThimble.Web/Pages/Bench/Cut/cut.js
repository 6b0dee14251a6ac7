// @ts-check
/** The Cut task: cut lines, stitch lines and what was left out, drawn on the cloth; two clicks leave a wrong stretch out. */
import { say } from "../../Shared/site.js";
import { partOf } from "../Screen/post.js";

/**
 * @typedef {{ part: number, line: number, cut: boolean, dropped: boolean, closed: boolean, points: number[] }} CutLine
 * @typedef {{ allowance: number, lines: CutLine[], left: { travel: boolean, points: number[] }[], pieces: { name: string, rings: number[][] }[] }} OnCloth
 */

const cutInk = "#a63a3c";
const lineInk = "#2f4b7c";
const leftInk = "#6b7280";

/** @param {import("../Screen/bench.js").Bench} bench */
export function mount({ state, cloth, tools, post }) {
  /** @type {OnCloth | null} */
  let shown = null;
  let key = "";
  let pointed = "";
  let bridging = "";
  /** @type {[number, number] | null} */
  let first = null;

  for (const what of ["page", "card"]) state.addEventListener(what, () => void bring());

  async function bring() {
    const wanted = state.task === "cut" && document.getElementById("cut-line-list") !== null;
    const now = wanted ? `${state.version}` : "";
    if (!wanted) lay();
    if (now === key) return;
    key = now;
    if (!wanted) shown = null;
    else {
      const answer = await fetch(partOf("cut-lines"));
      if (key !== now) return;
      shown = answer.ok ? await answer.json() : null;
      if (!answer.ok) say("The cut lines could not be fetched. Load this page again.", true);
    }
    cloth.ask();
  }

  // The line that is pointed at on the card, by mouse or keyboard, stands out on the cloth.
  const lineOf = (/** @type {EventTarget | null} */ target) => /** @type {HTMLElement | null} */ (/** @type {Element | null} */ (target)?.closest?.("[data-cut-line]"))?.dataset.cutLine ?? "";
  for (const on of ["pointerover", "focusin"]) {
    document.addEventListener(on, (event) => {
      const now = lineOf(event.target);
      if (now === pointed) return;
      pointed = now;
      cloth.ask();
    });
  }

  /** @param {number[]} points */
  const pathOf = (points) => {
    const path = new Path2D();
    for (let i = 0; i + 1 < points.length; i += 2) path[i ? "lineTo" : "moveTo"](points[i], points[i + 1]);
    return path;
  };

  cloth.overlays.push((ctx) => {
    if (!shown || state.task !== "cut") return;
    const { view } = cloth;
    ctx.save();
    ctx.translate(view.width / 2 - view.x * view.scale, view.height / 2 - view.y * view.scale);
    ctx.scale(view.scale, view.scale);
    ctx.lineJoin = "round";
    const stroke = (/** @type {number[]} */ points, /** @type {string} */ ink, /** @type {number} */ px, /** @type {number[]} */ dash) => {
      ctx.setLineDash(dash.map((d) => d / view.scale));
      const path = pathOf(points);
      ctx.strokeStyle = "#ffffff";
      ctx.globalAlpha = 0.8;
      ctx.lineWidth = (px + 2) / view.scale;
      ctx.stroke(path);
      ctx.strokeStyle = ink;
      ctx.globalAlpha = 1;
      ctx.lineWidth = px / view.scale;
      ctx.stroke(path);
    };
    for (const left of shown.left) stroke(left.points, leftInk, 1.5, [2, 4]);
    for (const line of shown.lines) if (!line.dropped) stroke(line.points, line.cut ? lineInk : leftInk, 1.2, line.closed ? [5, 3] : [2, 4]);
    for (const piece of shown.pieces) for (const ring of piece.rings) stroke(ring, cutInk, 2, []);
    for (const line of shown.lines) if (`${line.part}:${line.line}` === pointed) stroke(line.points, lineInk, 4, []);
    ctx.restore();

    // How far the cut lies outside, beside the topmost point of each piece.
    ctx.save();
    ctx.font = "600 12px sans-serif";
    for (const piece of shown.pieces) {
      let top = 0;
      const ring = piece.rings[0];
      for (let i = 2; i + 1 < ring.length; i += 2) if (ring[i + 1] < ring[top + 1]) top = i;
      const [x, y] = [(ring[top] - view.x) * view.scale + view.width / 2, (ring[top + 1] - view.y) * view.scale + view.height / 2 - 8];
      const text = `${shown.allowance.toFixed(1)} mm outside`;
      const wide = ctx.measureText(text).width;
      ctx.fillStyle = "#ffffffd9";
      ctx.fillRect(x - wide / 2 - 4, y - 13, wide + 8, 17);
      ctx.fillStyle = cutInk;
      ctx.fillText(text, x - wide / 2, y);
    }
    if (first) {
      ctx.fillStyle = cutInk;
      ctx.beginPath();
      ctx.arc((first[0] - view.x) * view.scale + view.width / 2, (first[1] - view.y) * view.scale + view.height / 2, 5, 0, 7);
      ctx.fill();
    }
    ctx.restore();
  });

  const lay = () => {
    bridging = "";
    first = null;
    if (tools.inHand?.name === "bridge") tools.take("");
    for (const button of document.querySelectorAll("[data-bridge]")) button.setAttribute("aria-pressed", "false");
  };

  tools.offer({
    name: "bridge",
    cursorAt: () => "crosshair",
    down: (x, y) => {
      /** @type {[number, number]} */
      const place = cloth.toCloth(x, y);
      if (!first) {
        first = place;
        say("Now click where the wrong stretch ends.");
        cloth.ask();
        return true;
      }
      const [part, line] = bridging.split(":");
      const places = `${first.map((v) => v.toFixed(2)).join()} ${place.map((v) => v.toFixed(2)).join()}`;
      lay();
      void post("bridge", { part, line, places });
      return true;
    },
    key: (event) => {
      if (event.key !== "Escape") return false;
      lay();
      cloth.ask();
      return true;
    },
  });

  document.addEventListener("click", (event) => {
    const button = /** @type {HTMLElement | null} */ (/** @type {Element} */ (event.target).closest("[data-bridge]"));
    if (!button) return;
    const wanted = button.dataset.bridge ?? "";
    const again = bridging === wanted;
    lay();
    if (again) return;
    bridging = wanted;
    button.setAttribute("aria-pressed", "true");
    tools.take("bridge");
    say("Click on the line where the wrong stretch begins.");
  });
}
