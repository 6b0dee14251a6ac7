// @ts-check
/** Settings on the cards: what is touched is tried on the cloth, what is entered is kept. A setting names its command, its field and, where it is no input, its value. */
import { post } from "./post.js";

const waitMs = 90;
/** By field: what an arrow key adds. @type {Record<string, number>} */
const steps = { lighter: 5, percent: 5, height: 1, short: 0.1, spacing: 0.02, angle: 5, stitch: 0.1, width: 0.1, "motif-length": 0.5, "tile-scale": 0.1, "tile-angle": 5, compensation: 0.05, copies: 1 };

/** @param {import("./state.js").BenchState} state @param {import("./trial.js").Trial} trial */
export function watchSettings(state, trial) {
  let due = 0;
  /** @param {EventTarget | null} target @returns {HTMLElement | null} */
  const settingOf = (target) => /** @type {Element | null} */ (target)?.closest?.("[data-do][data-field]") ?? null;
  /** @param {HTMLElement} setting */
  const valueOf = (setting) => setting.dataset.value ?? /** @type {HTMLInputElement} */ (setting).value;
  /** @param {HTMLElement} setting @returns {[command: string, values: Record<string, string>]} */
  const wanted = (setting) => {
    const free = /** @type {HTMLInputElement | null} */ (document.getElementById("size-free"))?.checked;
    return [setting.dataset.do ?? "", { field: setting.dataset.field ?? "", value: valueOf(setting), free: String(free === true) }];
  };
  /** @param {HTMLElement} setting */
  const tryOut = (setting) => {
    clearTimeout(due);
    due = window.setTimeout(() => void trial.show(...wanted(setting)), waitMs);
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
      const step = (steps[field.dataset.field ?? ""] ?? 0.1) * (event.key === "ArrowUp" ? 1 : -1);
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
    const [command, values] = wanted(setting);
    const { value } = values;
    if (setting.tagName === "INPUT") {
      const field = /** @type {HTMLInputElement} */ (setting);
      if (value === field.defaultValue) return stop();
      field.defaultValue = value;
    }
    void post(command, values).then(() => trial.end());
  }

  state.addEventListener("selection", stop);
}
