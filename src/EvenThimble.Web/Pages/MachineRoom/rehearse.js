// @ts-check
/** Plays the files of a machine one after the other. It waits wherever the machine does: at stops, at changes of thread, and before the next hooping. */
import { Plan, STITCH } from "../Bench/Screen/plan.js";

/** @typedef {{ name: string, hoop: string, colours: string[], waits: { at: number, says: string }[] }} Rehearsed */

const root = /** @type {HTMLElement} */ (document.getElementById("rehearse"));
/** @type {Rehearsed[]} */
const files = JSON.parse(root.dataset.files ?? "[]");
const canvas = /** @type {HTMLCanvasElement | null} */ (document.getElementById("stage"));
if (canvas && files.length > 0) start(canvas, /** @type {CanvasRenderingContext2D} */ (canvas.getContext("2d")));

/** @param {HTMLCanvasElement} stage @param {CanvasRenderingContext2D} ctx */
function start(stage, ctx) {
  const button = /** @type {HTMLButtonElement} */ (document.getElementById("go-on"));
  const says = /** @type {HTMLElement} */ (document.getElementById("rehearse-says"));
  const at = /** @type {HTMLElement} */ (document.getElementById("rehearse-at"));
  const speed = /** @type {HTMLSelectElement} */ (document.getElementById("rehearse-speed"));
  let file = -1, record = 0, wait = 0, running = false, last = 0, owed = 0;
  /** @type {Plan | null} */
  let plan = null;
  let scale = 1;

  const place = (/** @type {Plan} */ p, /** @type {number} */ i) => /** @type {[number, number]} */ ([(p.xy[2 * i] - (p.box.minX + p.box.maxX) / 2) * scale + stage.width / 2, (p.xy[2 * i + 1] - (p.box.minY + p.box.maxY) / 2) * scale + stage.height / 2]);

  /** Draws records of the plan. @param {number} from @param {number} to @param {number} alpha */
  function draw(from, to, alpha) {
    if (!plan) return;
    ctx.globalAlpha = alpha;
    ctx.lineWidth = Math.max(1, 0.4 * scale);
    for (const [n, part] of plan.parts.entries()) {
      const [first, end] = [Math.max(part.first, from, 1), Math.min(part.end, to)];
      if (first >= end) continue;
      ctx.strokeStyle = files[file].colours[n];
      ctx.beginPath();
      for (let i = first; i < end; i++) {
        if (plan.kinds[i] !== STITCH || plan.kinds[i - 1] !== STITCH) continue;
        ctx.moveTo(...place(plan, i - 1));
        ctx.lineTo(...place(plan, i));
      }
      ctx.stroke();
    }
    ctx.globalAlpha = 1;
  }

  async function next() {
    file++;
    for (const [n, line] of [...document.querySelectorAll("#rehearsed li")].entries()) {
      line.classList.toggle("here", n === file);
      line.classList.toggle("done", n < file);
    }
    if (file >= files.length) {
      pause("Done", "Again");
      at.textContent = "";
      return;
    }
    const answer = await fetch(`/machine-room/rehearse?handler=Stitches&machine=${encodeURIComponent(root.dataset.machine ?? "")}&file=${encodeURIComponent(files[file].name)}`);
    plan = new Plan(await answer.arrayBuffer());
    [record, wait, owed] = [0, 0, 0];
    const [w, h] = [Math.max(plan.box.maxX - plan.box.minX, 1), Math.max(plan.box.maxY - plan.box.minY, 1)];
    scale = Math.min((stage.width - 40) / w, (stage.height - 40) / h);
    ctx.clearRect(0, 0, stage.width, stage.height);
    draw(0, plan.count, 0.14);
    // The first stop of a hooping stands before its first stitch.
    if (!stopped()) pause(files.length > 1 ? `${files[file].name}: ${files[file].hoop || `hooping ${file + 1} of ${files.length}`}` : "", "Begin");
  }

  /** Whether the machine waits here. */
  function stopped() {
    const due = files[file].waits[wait];
    if (!due || record < due.at) return false;
    wait++;
    pause(due.says, "Go on");
    return true;
  }

  /** @param {string} message @param {string} label */
  function pause(message, label) {
    running = false;
    says.textContent = message;
    button.textContent = label;
  }

  /** @param {number} now */
  function frame(now) {
    if (!running || !plan) return;
    owed += (Math.min(now - last, 100) / 60000) * Number(root.dataset.speed) * Number(speed.value);
    last = now;
    const due = files[file].waits[wait];
    const to = Math.min(plan.count, due ? due.at : plan.count, record + Math.floor(owed));
    owed -= to - record;
    draw(record, to, 1);
    record = to;
    at.textContent = `${plan.stitchesBefore(record)} of ${plan.stitchesBefore(plan.count)} stitches`;
    if (stopped()) return;
    if (record >= plan.count) return void next();
    requestAnimationFrame(frame);
  }

  function goOn() {
    if (file >= files.length) {
      file = -1;
      return void next();
    }
    if (running) return pause("", "Go on");
    running = true;
    says.textContent = "";
    button.textContent = "Wait";
    last = performance.now();
    if (stopped()) return;
    requestAnimationFrame(frame);
  }

  button.addEventListener("click", goOn);
  document.addEventListener("keydown", (event) => {
    if (event.key !== " " || /** @type {Element} */ (event.target).closest("button, select, a, input")) return;
    event.preventDefault();
    goOn();
  });
  void next();
}
