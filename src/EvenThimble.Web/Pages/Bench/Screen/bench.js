// @ts-check
/** Puts the bench together: page, plan, cloth, sewing line, rehearsal, keys; and mounts the tasks. */
import { remember, say } from "../../Shared/site.js";
import { Cloth } from "./cloth.js";
import { takeInHand } from "./hand.js";
import { watchKeys } from "./keys.js";
import { Outline } from "./outline.js";
import { fetchPlan } from "./plan.js";
import { partOf, post, postsConcern } from "./post.js";
import { Rehearsal } from "./rehearsal.js";
import { selecting } from "./select.js";
import { watchSettings } from "./settings.js";
import { SewingLine } from "./sewing-line.js";
import { BenchState } from "./state.js";
import { showStretches } from "./stretches.js";
import { Tools } from "./tools.js";
import { Trial } from "./trial.js";
import { showWork } from "./working.js";

export const state = new BenchState();
export const cloth = new Cloth(state);
const line = new SewingLine(state);
const rehearsal = new Rehearsal(state);
const trial = new Trial(state);
export const tools = new Tools();
export const outline = new Outline(state, cloth);
cloth.triedDensity = () => trial.density();
cloth.overlays.push((ctx) => tools.draw(ctx));
tools.add(selecting(cloth, state));
takeInHand(cloth, tools);
showStretches(cloth, state, rehearsal);
watchSettings(state, trial);
postsConcern(() => [...state.selected].join());

/** What must be sent before another command is. @type {(() => void)[]} */
const before = [];

/** What the screen does at a key or a button, by the names that the registry of commands gives. @type {Map<string, import("./keys.js").Deed>} */
const deeds = new Map();

/**
 * What a task's script is given to work with when it is mounted.
 * @typedef {typeof bench} Bench
 */
const bench = {
  state, cloth, line, rehearsal, trial, tools, outline, post,
  /** Says what a name of the registry does. @param {string} name @param {import("./keys.js").Deed} deed */
  does: (name, deed) => void deeds.set(name, deed),
  /** @param {() => void} send */
  beforeCommand: (send) => void before.push(send),
};

/** Every request of the bench says which version it saw, what is selected, which task is open and which pieces of the page it shows. */
document.addEventListener("htmx:configRequest", (event) => {
  const { parameters } = /** @type {CustomEvent} */ (event).detail;
  parameters.version ??= state.version;
  parameters.parts ??= [...state.selected].join();
  parameters.task ??= state.task;
  parameters.shown ??= [.../** @type {NodeListOf<HTMLElement>} */ (document.querySelectorAll("[data-tag]"))].map((piece) => `${piece.id}:${piece.dataset.tag}`).join(" ");
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

// The server says how the job stands now, once the pieces of the page that changed are in their places.
document.addEventListener("thimble:job", (event) => {
  const { state: known, selects } = /** @type {CustomEvent} */ (event).detail;
  takeOver(known, selects);
});
document.addEventListener("htmx:afterRequest", () => queueMicrotask(checkCard));

/** @param {import("./state.js").JobState} known @param {[number, number] | null} selects the first and the one after the last of the parts that came in */
function takeOver(known, selects) {
  const now = JSON.stringify(known);
  const was = state.root.dataset.state;
  for (const button of document.querySelectorAll(".rail [data-task]")) button.setAttribute("aria-pressed", String(button.getAttribute("data-task") === state.task));
  if (now !== was) {
    const field = fieldOf();
    state.setKnown(known);
    state.readPage();
    if (selects) state.select(state.parts.filter((p) => p.id >= selects[0] && p.id < selects[1]).map((p) => p.id));
    state.tell("page");
    if (field !== fieldOf()) cloth.showHoop();
    if (cloth.kind === "density") cloth.show("density");
    void bringPlan();
  }
  // What was rendered anew may be the same, and still has to be laid out.
  else line.layOut();
  checkCard();
}

const fieldOf = () => JSON.stringify(state.known.fields);

/** Whether the card that is shown is of the task and the selection that are wanted. */
function isCardThere() {
  const card = document.getElementById("task-card");
  return card?.dataset.task === state.task && (card.dataset.parts ?? "") === [...state.selected].join();
}

/** An answer may bring the card of a task or a selection that is no longer wanted: then the right one is asked for. */
function checkCard() {
  showTools();
  if (!isCardThere()) void showCard();
}

const rail = /** @type {Element} */ (document.querySelector(".rail"));
/** Of several cards asked for while one is under way only the last is fetched, for what is wanted by then. Done when a card is in its place, whichever way it came. */
function showCard() {
  const there = new Promise((done) => state.addEventListener("card", done, { once: true }));
  void window.htmx.ajax("GET", partOf("card"), { target: "#task-card", swap: "outerHTML", source: rail });
  return there;
}
// A card that was asked for before the job was changed, and comes after, shows what is no longer so.
document.addEventListener("htmx:beforeSwap", (event) => {
  const { target, requestConfig: { path, parameters }, shouldSwap } = /** @type {CustomEvent} */ (event).detail;
  if (target.id !== "task-card" || path !== partOf("card") || !shouldSwap || String(parameters.version) === String(state.version)) return;
  /** @type {CustomEvent} */ (event).detail.shouldSwap = false;
  void showCard();
});
document.addEventListener("htmx:afterSettle", (event) => {
  if (/** @type {Element} */ (event.target).id === "task-card") state.tell("card");
});

/** Fetches how the job stands. @param {Element} source */
const bringState = (source) => window.htmx.ajax("GET", partOf("state"), { target: "#said", swap: "none", source });

/** @param {string} task */
async function openTask(task, focus = "") {
  state.task = task;
  if (tools.inHand) tools.take("");
  for (const button of document.querySelectorAll(".rail [data-task]")) button.setAttribute("aria-pressed", String(button.getAttribute("data-task") === task));
  await showCard();
  if (focus) document.getElementById(focus)?.focus();
}

let cardAsked = 0;
state.addEventListener("selection", () => {
  state.setPreview(null);
  clearTimeout(cardAsked);
  cardAsked = window.setTimeout(() => void showCard(), 40);
});

/** Shows which tool is in hand, and what it is for. */
function showTools() {
  for (const button of document.querySelectorAll("[data-tool]")) button.setAttribute("aria-pressed", String(/** @type {HTMLElement} */ (button).dataset.tool === tools.inHand?.name));
  const hint = document.getElementById("draw-hint");
  if (hint) hint.textContent = /** @type {{ hint?: string }} */ (tools.inHand ?? {}).hint ?? "";
}
tools.watchers.push(showTools);
state.addEventListener("card", showTools);

document.addEventListener("click", (event) => {
  const target = /** @type {HTMLElement} */ (/** @type {Element} */ (event.target).closest("button, a"));
  if (!target) return;
  const d = target.dataset;
  // Space goes on playing after a click on a tool, rather than pressing the tool again.
  if (event.detail > 0 && target.closest(".transport, .cloth-tools, .part-tools, .rail")) cloth.root.focus({ preventScroll: true });
  if (d.task) void openTask(d.task, d.focus);
  if (d.tool) tools.toggle(d.tool);
  if (d.go) rehearsal.go(d.go);
  if (d.view) showAs(/** @type {any} */ (d.view));
  if (d.zoom) zoom(d.zoom);
  if (d.lineZoom) line.zoomBy(d.lineZoom === "in" ? 1.6 : 1 / 1.6);
  if (d.press) press(d.press, event);
  if (d.pick) pick(d.pick.split(",").map(Number), event);
  if (d.showRecord) showRecord(Number(d.showRecord));
  if ("cardAgain" in d) void showCard();
  if ("units" in d) {
    remember("unit", state.unit === "in" ? "mm" : "in");
    void bringState(target).then(() => {
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

/** @param {number} record */
function showRecord(record) {
  const { plan } = state;
  if (!plan) return;
  state.setNeedle(record + 1);
  const x = plan.xy[2 * record], y = plan.xy[2 * record + 1];
  cloth.showBox({ minX: x - 12, maxX: x + 12, minY: y - 10, maxY: y + 10 });
}

/** Leads to a control of a task's card, opening the task first where need be, and presses it where it is a button. @param {string} task @param {string} selector @param {boolean} [clicks] */
async function lead(task, selector, clicks = true) {
  if (state.task !== task) void openTask(task);
  for (let waits = 0; waits < 100 && !isCardThere(); waits++) await new Promise((go) => setTimeout(go, 30));
  const control = /** @type {HTMLElement | null} */ (document.querySelector(selector));
  if (!control) return say("That needs parts to be selected first.");
  control.closest("details")?.setAttribute("open", "");
  control.focus();
  if (control instanceof HTMLInputElement && control.type !== "checkbox") control.select();
  if (clicks && control instanceof HTMLButtonElement) control.click();
}

bench.does("rehearse", ([where], event) => {
  // Space and Enter on a button press the button, as everywhere.
  if (event.key === " " && /** @type {Element} */ (event.target).closest("button, a, summary, select, input")) return false;
  rehearsal.go(where);
});
bench.does("zoom", ([how]) => zoom(how));
bench.does("open", ([task, focus]) => void openTask(task, focus));
bench.does("press", ([task, selector]) => void lead(task, selector));
bench.does("lead", ([task, selector]) => void lead(task, selector, false));
bench.does("tool", ([task, tool]) => void openTask(task).then(() => tools.take(tool)));
bench.does("select-none", () => state.select([]));
bench.does("select-all", () => state.select(state.parts.filter((p) => !p.locked && !p.hidden).map((p) => p.id)));

const press = watchKeys(bench, deeds, () => before.forEach((send) => send()));
showWork(trial, () => bringState(rail));

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

for (const script of (state.root.dataset.scripts ?? "").split(" ")) {
  const { mount } = await import(script);
  mount(bench);
}
showAs(cloth.kind);
line.layOut();
void bringPlan();
