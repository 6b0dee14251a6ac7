// @ts-check
/** The cards of stitch and cloth: what is touched is tried on the cloth, what is entered is kept. */
import { post } from "./post.js";

const waitMs = 90;
/** By field: what an arrow key adds. @type {Record<string, number>} */
const steps = { lighter: 5, percent: 5, height: 1, short: 0.1, spacing: 0.02, angle: 5, stitch: 0.1, width: 0.1, "motif-length": 0.5, "tile-scale": 0.1, "tile-angle": 5, compensation: 0.05 };

/** @param {import("./state.js").BenchState} state @param {import("./trial.js").Trial} trial */
export function watchSettings(state, trial) {
  let due = 0;
  /** @param {EventTarget | null} target @returns {HTMLElement | null} */
  const settingOf = (target) => /** @type {Element | null} */ (target)?.closest?.("[data-restitch], [data-rework]") ?? null;
  /** What of drawn shapes is set, and what is done to bought stitches, go to handlers of their own. @param {HTMLElement} setting @returns {[handler: string, values: Record<string, string>]} */
  const wanted = (setting) => {
    const { restitch, rework } = setting.dataset;
    const free = /** @type {HTMLInputElement | null} */ (document.getElementById("size-free"))?.checked;
    return rework ? ["Rework", { field: rework, value: valueOf(setting), free: String(free === true) }] : ["Restitch", { field: restitch ?? "", value: valueOf(setting) }];
  };
  /** @param {HTMLElement} setting */
  const valueOf = (setting) => setting.dataset.value ?? /** @type {HTMLInputElement} */ (setting).value;
  /** @param {HTMLElement} setting */
  const tryOut = (setting) => {
    clearTimeout(due);
    const [handler, values] = wanted(setting);
    due = window.setTimeout(() => void trial.show(handler === "Rework" ? "TryRework" : "Try", values), waitMs);
  };
  const stop = () => {
    clearTimeout(due);
    trial.end();
  };

  for (const [on, off] of [["pointerover", "pointerout"], ["focusin", "focusout"]]) {
    document.addEventListener(on, (event) => {
      const setting = settingOf(event.target);
      if (setting?.tagName === "BUTTON" && setting.getAttribute("aria-checked") !== "true") tryOut(setting);
    });
    document.addEventListener(off, (event) => {
      if (settingOf(event.target)?.tagName === "BUTTON") stop();
    });
  }
  document.addEventListener("click", (event) => {
    const setting = settingOf(event.target);
    if (setting?.tagName === "BUTTON") keep(setting);
    if (/** @type {Element} */ (event.target).closest?.("[data-free-ends]")) void post("Restitch", { field: "start", value: "" }).then(() => post("Restitch", { field: "end", value: "" }));
  });
  document.addEventListener("input", (event) => {
    const setting = settingOf(event.target);
    if (setting?.tagName === "INPUT") tryOut(setting);
  });
  document.addEventListener("change", (event) => {
    const setting = settingOf(event.target);
    if (setting && setting.tagName !== "BUTTON") keep(setting);
  });
  document.addEventListener("keydown", (event) => {
    const field = /** @type {HTMLInputElement | null} */ (settingOf(event.target));
    if (field?.tagName !== "INPUT") return;
    if (event.key === "Escape") {
      field.value = field.defaultValue;
      stop();
    } else if (event.key === "Enter") {
      event.preventDefault();
      if (field.value !== field.defaultValue) keep(field);
    } else if (event.key === "ArrowUp" || event.key === "ArrowDown") {
      const step = (steps[field.dataset.restitch ?? field.dataset.rework ?? ""] ?? 0.1) * (event.key === "ArrowUp" ? 1 : -1);
      const value = Number(field.value);
      if (!Number.isFinite(value)) return;
      event.preventDefault();
      field.value = String(Math.round((value + step) * 100) / 100);
      tryOut(field);
    }
  });
  document.addEventListener("focusout", (event) => {
    const field = /** @type {HTMLInputElement | null} */ (settingOf(event.target));
    // A value that was stepped with the arrows makes no change event of its own.
    if (field?.tagName === "INPUT" && field.isConnected && field.value !== field.defaultValue) keep(field);
  });

  /** @param {HTMLElement} setting */
  function keep(setting) {
    clearTimeout(due);
    const [handler, values] = wanted(setting);
    const { value } = values;
    if (setting.tagName === "INPUT") {
      const field = /** @type {HTMLInputElement} */ (setting);
      if (value === field.defaultValue) return stop();
      field.defaultValue = value;
    }
    void post(handler, values).then(() => trial.end());
  }

  // A cloth is looked at beside the one that lies there now.
  document.addEventListener("change", (event) => {
    const select = /** @type {HTMLSelectElement} */ (event.target);
    if (select.id !== "cloth-kind") return;
    event.stopPropagation();
    const now = select.dataset.now ?? "", other = select.value !== now;
    for (const id of ["before-after", "lay-on"]) /** @type {HTMLElement} */ (document.getElementById(id)).hidden = !other;
    if (!other) return stop();
    /** @type {HTMLImageElement} */ (document.getElementById("cloth-before")).src = `/jobs/${state.job}/on/${now}.png?v=${state.version}`;
    /** @type {HTMLImageElement} */ (document.getElementById("cloth-after")).src = `/jobs/${state.job}/on/${select.value}.png?v=${state.version}`;
    void trial.show("Try", { cloth: select.value });
  });
  state.addEventListener("trial", () => {
    const count = document.getElementById("cloth-after-count");
    if (count && state.plan) count.textContent = state.plan.stitchesBefore(state.plan.count).toLocaleString("en");
  });
  state.addEventListener("selection", stop);

  // Of the sizes of a shape only those are asked that it has.
  const showSizes = () => {
    const shape = /** @type {HTMLInputElement | null} */ (document.querySelector('#shape-form [name="shape"]:checked'))?.value ?? "";
    for (const label of document.querySelectorAll("#shape-form [data-for]")) /** @type {HTMLElement} */ (label).hidden = !(/** @type {HTMLElement} */ (label).dataset.for?.split(" ").includes(shape));
  };
  document.addEventListener("change", (event) => /** @type {HTMLInputElement} */ (event.target).name === "shape" && showSizes());
  state.addEventListener("card", showSizes);
  showSizes();
}
