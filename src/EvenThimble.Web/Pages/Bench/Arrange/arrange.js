// @ts-check
/** The Arrange task: nudges, cuts at the needle, copies from job to job, a line drawn around. */
import { say } from "../../Shared/site.js";
import { pointsTool } from "../Screen/points.js";
import { postLeaving } from "../Screen/post.js";

const copies = "thimble.copied";
const togetherMs = 400;

/** @param {import("../Screen/bench.js").Bench} bench */
export function mount(bench) {
  const { cloth, state, rehearsal, tools, post, does } = bench;

  tools.offer(pointsTool(bench, "lasso", {
    hint: "Draw a line around what is to become a part of its own. With the keys: move with the arrows, set points with Space, end with Enter.",
    free: true,
    done: (points) => void post("lasso", { points }),
  }));

  does("cut", () => {
    if (!state.rehearsing || state.needle === 0) return say("Move the needle to where the part should end: with > from jump to jump, or by dragging it.");
    rehearsal.pause();
    void post("cut", { record: String(state.needle) });
  });

  does("copy", () => {
    if (String(getSelection())) return false;
    if (state.selected.size === 0) return say("Nothing is selected. Choose a part on the cloth or on the sewing line first.");
    localStorage.setItem(copies, JSON.stringify({ from: state.job, copied: [...state.selected].join(), times: 0 }));
    say(state.selected.size === 1 ? "Copied. Ctrl+V puts it in, here or in another job." : `Copied ${state.selected.size} parts. Ctrl+V puts them in, here or in another job.`);
  });
  does("paste", () => {
    const copied = JSON.parse(localStorage.getItem(copies) ?? "null");
    if (!copied) return say("Nothing is copied yet. Select parts and press Ctrl+C.");
    copied.times++;
    localStorage.setItem(copies, JSON.stringify(copied));
    void post("paste", { from: String(copied.from), copied: String(copied.copied), times: String(copied.times) });
  });

  let nudged = { dx: 0, dy: 0, due: 0, parts: "" };
  // Several nudges in quick succession are one step of the history.
  does("nudge", ([dx, dy], event) => {
    if (/** @type {Element} */ (event.target).closest('[role="radio"], input, .dropdown-menu')) return false;
    const step = event.shiftKey ? 5 : event.altKey ? 0.1 : 0.5;
    const parts = [...state.selected].join();
    if (parts !== nudged.parts) endNudge();
    nudged.parts = parts;
    nudged.dx += Number(dx) * step;
    nudged.dy += Number(dy) * step;
    if (state.selected.size) {
      Object.assign(cloth.hand, { dx: nudged.dx, dy: nudged.dy });
      cloth.ask();
    }
    clearTimeout(nudged.due);
    nudged.due = window.setTimeout(endNudge, togetherMs);
  });

  /** The nudges that are not sent yet, which are sent by whoever takes them; null where there are none. */
  function takeNudges() {
    if (!nudged.due) return null;
    clearTimeout(nudged.due);
    const values = { dx: nudged.dx.toFixed(3), dy: nudged.dy.toFixed(3), parts: nudged.parts };
    nudged = { dx: 0, dy: 0, due: 0, parts: "" };
    return values;
  }

  /** Sends them, so that what comes after them finds them done. */
  function endNudge() {
    const values = takeNudges();
    if (!values) return;
    void post("shift", values).finally(() => {
      Object.assign(cloth.hand, { dx: 0, dy: 0 });
      cloth.ask();
    });
  }
  bench.beforeCommand(endNudge);
  addEventListener("pagehide", () => {
    const values = takeNudges();
    if (values) postLeaving("shift", { ...values, version: state.version });
  });
}
