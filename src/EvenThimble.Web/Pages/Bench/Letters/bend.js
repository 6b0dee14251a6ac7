// @ts-check
/** A ring below a bent text: dragged up or down it bends the text more, less or the other way. */

const brass = "#c9962b", hole = "#faf7f1";
const belowPx = 30;
const reachPx = 12;
const most = 100;

/** @param {import("../Screen/bench.js").Bench} bench @param {() => void} keep writes what was tried @returns {import("../Screen/tools.js").Tool} */
export function bendTool({ cloth, state }, keep) {
  /** @type {{ y: number, from: number, high: number } | null} */
  let held = null;
  const field = (/** @type {string} */ id) => /** @type {HTMLInputElement | null} */ (document.getElementById(id));

  /** Where the ring is, in pixels of the cloth; null where nothing is bent. @returns {[number, number] | null} */
  const place = () => {
    if (state.task !== "letters" || !document.getElementById("letters-form")?.dataset.piece || !field("letters-bend")?.value) return null;
    const box = cloth.selectedBox();
    if (!box) return null;
    const [x, y] = cloth.toScreen((box.minX + box.maxX) / 2, box.maxY);
    return [x, y + belowPx];
  };
  const isOn = (/** @type {number} */ x, /** @type {number} */ y) => {
    const at = place();
    return at !== null && Math.hypot(x - at[0], y - at[1]) <= reachPx;
  };

  return {
    name: "bend",
    handle: place,
    down(x, y) {
      const box = cloth.selectedBox();
      if (!isOn(x, y) || !box) return false;
      held = { y, from: Number(field("letters-amount")?.value ?? 0), high: Math.max(box.maxY - box.minY, 4) };
      return true;
    },
    drag(_x, y) {
      const amount = field("letters-amount");
      if (!held || !amount) return;
      const by = ((held.y - y) / cloth.view.scale / held.high) * most;
      amount.value = String(Math.round(Math.max(-most, Math.min(most, held.from + by))));
      amount.dispatchEvent(new Event("input", { bubbles: true }));
    },
    up() {
      held = null;
      keep();
    },
    cancel() {
      held = null;
    },
    cursorAt: (x, y) => (isOn(x, y) ? "ns-resize" : null),
    draw(ctx) {
      const at = place();
      if (!at) return;
      ctx.save();
      ctx.lineWidth = 3;
      ctx.strokeStyle = brass;
      ctx.fillStyle = hole;
      ctx.beginPath();
      ctx.arc(at[0], at[1], 6, 0, 2 * Math.PI);
      ctx.fill();
      ctx.stroke();
      // Which way it goes.
      ctx.lineWidth = 1.5;
      for (const way of [-1, 1]) {
        ctx.beginPath();
        ctx.moveTo(at[0] - 4, at[1] + way * 10);
        ctx.lineTo(at[0], at[1] + way * 14);
        ctx.lineTo(at[0] + 4, at[1] + way * 10);
        ctx.stroke();
      }
      ctx.restore();
    },
  };
}
