// @ts-check
/** The stretches of a bought part on its card: the one that is pointed at, by mouse or keyboard, is drawn over everything on the cloth. */
import { say } from "../../Shared/site.js";
import { partOf } from "../Screen/post.js";

const perMm = 100;
const thread = "#0b7a75";

/** @param {import("../Screen/state.js").BenchState} state @param {import("../Screen/cloth.js").Cloth} cloth */
export function showStretches(state, cloth) {
  /** @type {Record<string, number[]> | null} */
  let lines = null;
  let known = "";
  /** @type {Path2D | null} */
  let path = null;
  let pointed = "";

  cloth.overlays.push((ctx) => {
    if (!path) return;
    const { view } = cloth;
    ctx.save();
    ctx.translate(view.width / 2 - view.x * view.scale, view.height / 2 - view.y * view.scale);
    ctx.scale(view.scale / perMm, view.scale / perMm);
    ctx.lineJoin = "round";
    for (const [colour, px] of /** @type {const} */ ([["#ffffff", 4], [thread, 2]])) {
      ctx.strokeStyle = colour;
      ctx.lineWidth = (px * perMm) / view.scale;
      ctx.globalAlpha = 0.75;
      ctx.stroke(path);
    }
    ctx.restore();
  });

  /** @param {EventTarget | null} target @returns {string} */
  const keyOf = (target) => /** @type {HTMLElement | null} */ (/** @type {Element | null} */ (target)?.closest?.("[data-passage]"))?.dataset.passage ?? "";

  for (const on of ["pointerover", "focusin"]) document.addEventListener(on, (event) => void mark(keyOf(event.target)));
  for (const off of ["pointerout", "focusout"]) {
    document.addEventListener(off, (event) => {
      const to = keyOf(/** @type {PointerEvent | FocusEvent} */ (event).relatedTarget);
      if (keyOf(event.target) && !to) void mark("");
    });
  }
  for (const what of ["page", "card"]) {
    state.addEventListener(what, () => {
      void mark(keyOf(document.activeElement));
    });
  }

  /** @param {string} key */
  async function mark(key) {
    const part = document.getElementById("passages")?.dataset.part ?? "";
    const of = `${state.version} ${part}`;
    if (key === pointed && of === known) return;
    pointed = key;
    if (key && (of !== known || !lines)) {
      try {
        const answer = await fetch(`${partOf("stretches")}?part=${part}`);
        if (!answer.ok) throw new Error(await answer.text());
        lines = await answer.json();
        known = of;
      } catch {
        say("The stretches of this part could not be fetched. Try again.", true);
      }
      if (pointed !== key) return;
    }
    const line = key ? lines?.[key] : undefined;
    path = null;
    if (line) {
      path = new Path2D();
      for (let i = 0; i + 1 < line.length; i += 2) path[i ? "lineTo" : "moveTo"](line[i], line[i + 1]);
    }
    cloth.ask();
  }
}
