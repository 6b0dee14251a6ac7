// @ts-check
/** Puts the bench together: page, plan, cloth, sewing line, rehearsal, keys. */
import { remember, say, typing } from "../site.js";
import { Cloth } from "./cloth.js";
import { Covered, drawGone } from "./covered.js";
import { copySelected, dropDesigns, pasteCopied } from "./copies.js";
import { Drawing } from "./drawing.js";
import { takeInHand } from "./gestures.js";
import { fetchPlan } from "./plan.js";
import { post, postsConcern } from "./post.js";
import { Rehearsal } from "./rehearsal.js";
import { watchSettings } from "./settings.js";
import { SewingLine } from "./sewing-line.js";
import { BenchState } from "./state.js";
import { showStretches } from "./stretches.js";
import { Trial } from "./trial.js";

export const state = new BenchState();
export const cloth = new Cloth(state);
const line = new SewingLine(state);
const rehearsal = new Rehearsal(state);
const trial = new Trial(state);
const drawing = new Drawing(state, cloth, trial);
const covered = new Covered(state, cloth);
cloth.triedDensity = () => trial.density();
cloth.overlays.push((ctx) => trial.gone && cloth.kind !== "density" && drawGone(ctx, cloth.view, trial.gone));
takeInHand(cloth, state);
showStretches(cloth, state, rehearsal);
dropDesigns(cloth);
watchSettings(state, trial);
postsConcern(() => [...state.selected].join());

/** Every request of the bench says which version it saw, what is selected and which task is open. */
document.addEventListener("htmx:configRequest", (event) => {
  const { parameters } = /** @type {CustomEvent} */ (event).detail;
  parameters.version ??= state.version;
  parameters.parts ??= [...state.selected].join();
  parameters.task ??= state.task;
});

let fetched = "";
/** Fetches the plan when the stitches have changed. */
async function bringPlan() {
  const tag = state.planTag;
  if (tag === fetched) return;
  fetched = tag;
  try {
    const plan = await fetchPlan(state.job, tag);
    if (tag !== state.planTag) return;
    state.tell("kept");
    state.setPlan(plan);
    if (!cloth.fitted) cloth.showHoop();
  } catch {
    fetched = "";
    say("The stitches could not be fetched. Load this page again.", true);
  }
  document.getElementById("cloth-wait")?.remove();
}

/** What is copied or brought in is selected, so that it can be put in its place at once. */
const bringsParts = /handler=(Duplicate|Paste|Row|Ring|BringDesigns)\b/;
let selectsNew = false;

// The server has rendered the state anew.
document.addEventListener("htmx:afterRequest", (event) => {
  const { pathInfo, successful } = /** @type {CustomEvent} */ (event).detail;
  if (successful && bringsParts.test(pathInfo?.requestPath ?? "")) selectsNew = true;
  if (/** @type {CustomEvent} */ (event).detail.xhr) queueMicrotask(refresh);
});

// Work that takes longer than a moment is shown, and can be stopped; nothing is kept of it then.
const patienceMs = 500;
const working = /** @type {HTMLElement} */ (document.getElementById("working"));
/** @type {Map<XMLHttpRequest, number>} requests under way, with the timers that show them; what sent them may be gone by the time they are answered */
const underWay = new Map();
document.addEventListener("htmx:beforeRequest", (event) => {
  const { xhr, requestConfig } = /** @type {CustomEvent} */ (event).detail;
  if (requestConfig?.verb?.toLowerCase() !== "post") return;
  underWay.set(xhr, window.setTimeout(() => (working.hidden = false), patienceMs));
  xhr.addEventListener("loadend", () => {
    clearTimeout(underWay.get(xhr));
    underWay.delete(xhr);
    if (underWay.size === 0) working.hidden = true;
  });
});
document.getElementById("stop-working")?.addEventListener("click", () => {
  for (const xhr of [...underWay.keys()]) xhr.abort();
  working.hidden = true;
  trial.end();
  // Should it have been kept at the last moment, the page says so.
  void window.htmx.ajax("GET", "?handler=State", { target: "#said", swap: "none", source: rail }).then(() => say("Stopped."));
});

let shownPage = `${state.planTag} ${state.version} ${state.unit}`;
/** Takes over what the last answer changed. */
function refresh() {
  const now = `${state.planTag} ${state.version} ${state.unit}`;
  for (const button of document.querySelectorAll(".rail [data-task]")) button.setAttribute("aria-pressed", String(button.getAttribute("data-task") === state.task));
  if (now === shownPage) {
    // What was rendered anew may be the same, and still has to be laid out.
    line.layOut();
    return checkCard();
  }
  shownPage = now;
  const hoop = JSON.stringify(lastGround);
  const known = new Set(state.parts.map((p) => p.id));
  state.readPage();
  const added = state.parts.filter((p) => !known.has(p.id)).map((p) => p.id);
  if (selectsNew && added.length) state.select(added);
  selectsNew = false;
  lastGround = fieldOf();
  state.tell("page");
  if (hoop !== JSON.stringify(lastGround)) cloth.showHoop();
  if (cloth.kind === "density") cloth.show("density");
  void bringPlan();
  checkCard();
}

/** Whether the card that is shown is of the task and the selection that are wanted. */
function isCardThere() {
  const card = document.getElementById("task-card");
  return card?.dataset.task === state.task && (card.dataset.parts ?? "") === [...state.selected].join();
}

/** An answer may bring the card of a task or a selection that is no longer wanted: then the right one is asked for. */
function checkCard() {
  if (!isCardThere()) void showCard();
}

const rail = /** @type {Element} */ (document.querySelector(".rail"));
/** Of several cards asked for while one is under way only the last is fetched, for what is wanted by then. */
function showCard() {
  return window.htmx.ajax("GET", "?handler=Card", { target: "#task-card", swap: "outerHTML", source: rail }).then(() => state.tell("card"));
}

const fieldOf = () => ({ width: state.ground.width, height: state.ground.height });
let lastGround = fieldOf();

/** @param {string} task */
async function openTask(task, focus = "") {
  state.task = task;
  if (drawing.mode) drawing.begin("");
  await showCard();
  if (focus) document.getElementById(focus)?.focus();
}

let cardAsked = 0;
state.addEventListener("selection", () => {
  state.setPreview(null);
  clearTimeout(cardAsked);
  cardAsked = window.setTimeout(() => void showCard(), 40);
});

document.addEventListener("click", (event) => {
  const target = /** @type {HTMLElement} */ (/** @type {Element} */ (event.target).closest("button, a"));
  if (!target) return;
  const d = target.dataset;
  // Space goes on playing after a click on a tool, rather than pressing the tool again.
  if (event.detail > 0 && target.closest(".transport, .cloth-tools, .part-tools, .rail")) cloth.root.focus({ preventScroll: true });
  if (d.task) void openTask(d.task, d.focus);
  if (d.go) rehearsal.go(d.go);
  if (d.view) showAs(/** @type {any} */ (d.view));
  if (d.zoom) zoom(d.zoom);
  if (d.lineZoom) line.zoomBy(d.lineZoom === "in" ? 1.6 : 1 / 1.6);
  if (d.partDo) partDo(d.partDo);
  if (d.pick) pick(d.pick.split(",").map(Number), event);
  if (d.look) lookLike(d.look);
  if (d.showRecord) showRecord(Number(d.showRecord));
  if ("showGone" in d) void covered.toggle();
  if ("cardAgain" in d) void showCard();
  if ("units" in d) {
    remember("unit", state.unit === "in" ? "mm" : "in");
    void window.htmx.ajax("GET", "?handler=State", { target: "#said", swap: "none", source: target }).then(() => {
      /** @type {HTMLElement} */ (document.getElementById("unit-name")).textContent = state.unit;
    });
  }
});

/** @param {number[]} ids @param {MouseEvent} event */
function pick(ids, event) {
  if (ids.length === 1) return line.pick(ids[0], event);
  state.select(event.shiftKey || event.ctrlKey ? [...state.selected, ...ids] : ids);
}

/** @param {"plain" | "thread" | "density"} view */
function showAs(view) {
  cloth.show(view);
  for (const button of document.querySelectorAll("[data-view]")) button.setAttribute("aria-checked", String(button.getAttribute("data-view") === view));
  /** @type {HTMLElement} */ (document.getElementById("density-scale")).hidden = view !== "density";
}

/** @param {string} how */
function zoom(how) {
  if (how === "in") cloth.zoom(1.25);
  if (how === "out") cloth.zoom(0.8);
  if (how === "hoop") cloth.showHoop();
  if (how === "selection") {
    const box = cloth.selectedBox();
    if (box) cloth.showBox(box);
    else say("Nothing is selected. Click a part first.");
  }
}

/** @param {string} what */
function partDo(what) {
  if (what === "cut") return cut();
  if (state.selected.size === 0) return say("Nothing is selected. Choose a part on the cloth or on the sewing line first.");
  endNudge();
  const chosen = state.parts.filter((p) => state.selected.has(p.id));
  if (what === "earlier" || what === "later") void post("Step", { earlier: String(what === "earlier") });
  if (what === "hide") void post("Hide", { hidden: String(!chosen.every((p) => p.hidden)) });
  if (what === "remove") void post("Remove");
  if (what === "jumps" || what === "stretches") void post("Split", { how: what });
  if (what === "duplicate") void post("Duplicate");
  if (what === "lock") void post("Lock", { locked: String(!chosen.every((p) => p.locked)) });
}

/** Cuts where the needle is, which the rehearsal has shown. */
function cut() {
  if (!state.rehearsing || state.needle === 0) return say("Move the needle to where the part should end: with > from jump to jump, or by dragging it.");
  rehearsal.pause();
  void post("Cut", { record: String(state.needle) });
}

/** Presses a button of a task's card, or leads to a field or a row of buttons of it, opening the task first where need be. @param {string} task @param {string} selector @param {boolean} [clicks] */
async function press(task, selector, clicks = true) {
  if (state.task !== task) void openTask(task);
  for (let waits = 0; waits < 100 && !isCardThere(); waits++) await new Promise((go) => setTimeout(go, 30));
  const button = /** @type {HTMLElement | null} */ (document.querySelector(selector));
  if (!button) return say("That needs parts to be selected first.");
  button.closest("details")?.setAttribute("open", "");
  button.focus();
  if (button instanceof HTMLInputElement && button.type !== "checkbox") button.select();
  if (clicks && button instanceof HTMLButtonElement) button.click();
}

/** @param {number} record */
function showRecord(record) {
  const { plan } = state;
  if (!plan) return;
  state.setNeedle(record + 1);
  const x = plan.xy[2 * record], y = plan.xy[2 * record + 1];
  cloth.showBox({ minX: x - 12, maxX: x + 12, minY: y - 10, maxY: y + 10 });
}

/** @param {string} colour */
function lookLike(colour) {
  const find = /** @type {HTMLInputElement | null} */ (document.getElementById("find-thread"));
  if (!find) return;
  find.value = colour;
  find.dispatchEvent(new Event("input", { bubbles: true }));
}
document.addEventListener("input", (event) => {
  const target = /** @type {HTMLInputElement} */ (event.target);
  if (target.id === "look-like") {
    event.stopPropagation();
    lookLike(target.value);
  }
});

// A thread under the pointer or the focus is shown on the selected parts before it is taken.
for (const [on, off] of [["pointerover", "pointerout"], ["focusin", "focusout"]]) {
  document.addEventListener(on, (event) => {
    const button = /** @type {HTMLElement | null} */ (/** @type {Element} */ (event.target).closest?.("[data-preview]"));
    if (button && state.selected.size) state.setPreview(button.dataset.preview ?? null);
  });
  document.addEventListener(off, (event) => /** @type {Element} */ (event.target).closest?.("[data-preview]") && state.setPreview(null));
}

let nudged = { dx: 0, dy: 0, due: 0, parts: "" };
/** Several nudges in quick succession are one step of the history. @param {number} dx @param {number} dy */
function nudge(dx, dy) {
  const parts = [...state.selected].join();
  if (parts !== nudged.parts) endNudge();
  nudged.parts = parts;
  nudged.dx += dx;
  nudged.dy += dy;
  if (state.selected.size) {
    Object.assign(cloth.hand, { dx: nudged.dx, dy: nudged.dy });
    cloth.ask();
  }
  clearTimeout(nudged.due);
  nudged.due = window.setTimeout(endNudge, 220);
}

/** Sends the nudges that are not sent yet, so that what comes after them finds them done. */
function endNudge() {
  if (!nudged.due) return;
  clearTimeout(nudged.due);
  const values = { dx: nudged.dx.toFixed(3), dy: nudged.dy.toFixed(3), parts: nudged.parts };
  nudged = { dx: 0, dy: 0, due: 0, parts: "" };
  void post("Shift", values).finally(() => {
    Object.assign(cloth.hand, { dx: 0, dy: 0 });
    cloth.ask();
  });
}

/** @type {Record<string, [number, number]>} */
const arrows = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };
/** @type {Record<string, (event: KeyboardEvent) => void>} */
const keys = {
  " ": () => rehearsal.go("play"),
  ",": () => rehearsal.go("back"),
  ".": () => rehearsal.go("on"),
  "<": () => rehearsal.go("previous-jump"),
  ">": () => rehearsal.go("next-jump"),
  "[": () => rehearsal.go("previous-change"),
  "]": () => rehearsal.go("next-change"),
  "-": () => zoom("out"),
  "=": () => zoom("in"),
  "+": () => zoom("in"),
  0: () => zoom("hoop"),
  9: () => zoom("selection"),
  1: () => void openTask("add"),
  2: () => void openTask("arrange"),
  3: () => void openTask("stitch"),
  5: () => void openTask("threads", "find-thread"),
  6: () => void openTask("hoop", "machine"),
  8: () => void openTask("check"),
  q: () => partDo("earlier"),
  e: () => partDo("later"),
  h: () => partDo("hide"),
  l: () => partDo("lock"),
  Delete: () => partDo("remove"),
  x: () => cut(),
  k: (event) => partDo(event.shiftKey ? "stretches" : "jumps"),
  o: () => void openTask("arrange").then(() => drawing.begin("lasso")),
  j: () => void press("arrange", "#join"),
  m: (event) => void post("Mirror", { upsideDown: String(event.shiftKey) }),
  t: (event) => void post("Turn", { degrees: event.shiftKey ? "-90" : "90" }),
  c: () => void post("Centre"),
  d: (event) => void post("Space", { across: String(!event.shiftKey) }),
  w: () => void press("arrange", "#size-width"),
  i: () => void press("arrange", "#lean-by"),
  a: () => void press("arrange", '[title="Align left"]', false),
  n: (event) => void press("arrange", event.shiftKey ? "#ring-count" : "#row-count"),
  y: (event) => void press("stitch", event.shiftKey ? "#set-short" : "#set-lighter"),
  r: () => void press("stitch", '[data-rework="mode"][aria-checked="false"]'),
  u: () => void press("stitch", "#underlay-out"),
  v: (event) => void press("stitch", event.shiftKey ? '[data-rework="whole"]' : '[data-rework="seen"][aria-checked="false"]'),
  f: () => void press("threads", "#find-fewer"),
  b: () => void press("add", "#shelf-pick input"),
  Escape: () => state.select([]),
};

document.addEventListener("keydown", (event) => {
  if (typing(event)) return;
  if (drawing.key(event)) return event.preventDefault();
  const command = event.ctrlKey || event.metaKey;
  const key = event.key.length === 1 ? event.key.toLowerCase() : event.key;
  const target = /** @type {Element} */ (event.target);
  if (command && key === "z") {
    event.preventDefault();
    endNudge();
    void post(event.shiftKey ? "Redo" : "Undo");
  } else if (command && key === "c" && !String(getSelection())) {
    event.preventDefault();
    copySelected(state);
  } else if (command && key === "v") {
    event.preventDefault();
    pasteCopied();
  } else if (command && key === "d") {
    event.preventDefault();
    endNudge();
    partDo("duplicate");
  } else if (command && key === "a") {
    event.preventDefault();
    state.select(state.parts.filter((p) => !p.locked && !p.hidden).map((p) => p.id));
  } else if (!command && arrows[key] && !target.closest('[role="radio"], input, .dropdown-menu')) {
    event.preventDefault();
    const step = event.shiftKey ? 5 : event.altKey ? 0.1 : 0.5;
    nudge(arrows[key][0] * step, arrows[key][1] * step);
  } else if (!command && !event.altKey && keys[key]) {
    // Space and Enter on a button press the button, as everywhere.
    if (key === " " && target.closest("button, a, summary, select, input")) return;
    event.preventDefault();
    keys[key](event);
  }
});

// What was folded out stays so when the card is rendered anew.
/** @type {Map<string, boolean>} */
const folds = new Map();
document.addEventListener("toggle", (event) => {
  const fold = /** @type {HTMLDetailsElement} */ (event.target);
  if (fold.dataset?.fold && fold.isConnected) folds.set(fold.dataset.fold, fold.open);
}, true);
document.addEventListener("htmx:load", () => {
  for (const fold of /** @type {NodeListOf<HTMLDetailsElement>} */ (document.querySelectorAll("details[data-fold]"))) fold.open = folds.get(fold.dataset.fold ?? "") ?? fold.open;
});

showAs(cloth.kind);
line.layOut();
void bringPlan();
