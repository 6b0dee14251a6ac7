// @ts-check
/** The Letters task: a click on the cloth says where; what is typed lies there at once, and is kept when it is written or left. */
import { postHeaders, say } from "../../Shared/site.js";
import { pointsTool, square } from "../Screen/points.js";
import { bendTool } from "./bend.js";

const waitMs = 12;
const sample = "Larkmoor";

/** @param {import("../Screen/bench.js").Bench} bench */
export function mount(bench) {
  const { cloth, state, tools, trial } = bench;
  let due = 0;
  /** Whether something was typed that is not written yet. */
  let laying = false;
  /** When the first key was pressed whose thread is not shown yet. @type {number | null} */
  let keyAt = null;
  /** Where the next text is to lie, mm. @type {[number, number] | null} */
  let place = null;

  /** Of letters that touch, the place in the text of the one that is being set by hand. */
  let nudged = "";

  const formNow = () => /** @type {HTMLFormElement | null} */ (document.getElementById("letters-form"));
  const field = (/** @type {string} */ id) => /** @type {HTMLInputElement | null} */ (document.getElementById(id));
  const textOf = () => field("letters-text")?.value ?? "";

  /** @param {HTMLFormElement} form */
  const lay = (form) => {
    clearTimeout(due);
    const values = Object.fromEntries([...new FormData(form)].map(([name, value]) => [name, String(value)]));
    if (values.text.trim() === "") return leave();
    state.coming = form.dataset.colour ?? state.coming;
    keyAt ??= performance.now();
    laying = true;
    due = window.setTimeout(() => void trial.show("write", values), waitMs);
  };
  const leave = () => {
    clearTimeout(due);
    if (laying) trial.end();
    laying = false;
    keyAt = null;
  };
  /** What was typed is written; nothing typed, nothing done. */
  const end = () => {
    const form = formNow();
    if (!laying || !form || textOf().trim() === "") return false;
    clearTimeout(due);
    form.requestSubmit();
    return true;
  };

  document.addEventListener("input", (event) => {
    const form = /** @type {Element} */ (event.target).closest("form");
    if (form?.id !== "letters-form") return;
    if (/** @type {HTMLElement} */ (event.target).id === "font-file") return;
    showFields();
    lay(form);
  });
  document.addEventListener("keydown", (event) => {
    if (event.key !== "Escape" || /** @type {HTMLElement} */ (event.target).id !== "letters-text") return;
    event.preventDefault();
    event.stopPropagation();
    if (!end()) cloth.root.focus({ preventScroll: true });
  }, true);
  // Another card, be it of another task or another lettering: what was only tried goes.
  state.addEventListener("card", () => {
    leave();
    showFields();
    put();
    const letter = /** @type {HTMLInputElement | null} */ (document.querySelector(`#nudge-form [name=letter][value="${nudged}"]`));
    if (letter) letter.checked = true;
  });
  state.addEventListener("kept", () => {
    clearTimeout(due);
    laying = false;
    place = null;
  });

  // How long thread takes to follow a key, for those who measure.
  state.addEventListener("trial", () => {
    const start = keyAt;
    keyAt = null;
    if (start !== null && laying) requestAnimationFrame(() => performance.measure("letters-key", { start }));
  });

  // A click on bare cloth says where; a click outside of what is being typed ends it.
  tools.add({
    name: "letters",
    down(x, y) {
      if (state.task !== "letters" || tools.inHand || !formNow()) return false;
      const at = cloth.toCloth(x, y);
      if (follow(at)) return true;
      if (laying && textOf().trim() !== "") return end();
      if (state.plan?.partsAt(at[0], at[1], Math.max(0.35, 5 / cloth.view.scale)).length || cloth.ringUnder(x, y)) return false;
      place = at;
      if (formNow()?.dataset.piece) state.select([]);
      put();
      cloth.ask();
      return true;
    },
    draw(ctx) {
      if (state.task !== "letters" || laying) return;
      for (const at of drawnLine()) square(ctx, cloth.toScreen(...at), false);
      if (!place) return;
      const [x, y] = cloth.toScreen(place[0], place[1]);
      ctx.save();
      ctx.strokeStyle = "#2f4b7c";
      ctx.lineWidth = 2;
      ctx.beginPath();
      ctx.moveTo(x, y - 16);
      ctx.lineTo(x, y + 16);
      ctx.moveTo(x - 5, y - 16);
      ctx.lineTo(x + 5, y - 16);
      ctx.moveTo(x - 5, y + 16);
      ctx.lineTo(x + 5, y + 16);
      ctx.stroke();
      ctx.restore();
    },
  });

  tools.add(bendTool(bench, () => void end()));

  // A line drawn only to be followed: no thread of its own.
  tools.offer(pointsTool(bench, "guide", {
    hint: "Click the points that the letters are to run along. Enter or a double click ends the line, a click on its first point closes it, Backspace takes back, Escape leaves. Or move with the arrows and set a point with Space.",
    done(points, closed) {
      const [line, isClosed, guides, option] = [field("letters-guide-line"), field("letters-guide-closed"), field("letters-guide"), document.getElementById("letters-drawn")];
      if (!line || !isClosed || !guides || !option) return;
      [line.value, isClosed.value] = [points, String(closed)];
      option.hidden = false;
      guides.value = /** @type {HTMLOptionElement} */ (option).value;
      guides.dispatchEvent(new Event("input", { bubbles: true }));
      field("letters-text")?.focus({ preventScroll: true });
    },
  }));

  /** The points of a line that was drawn for text which is not typed yet. @returns {[number, number][]} */
  const drawnLine = () => laying || field("letters-guide")?.value !== /** @type {HTMLOptionElement | null} */ (document.getElementById("letters-drawn"))?.value || field("letters-course")?.value !== "path" ? []
    : (field("letters-guide-line")?.value ?? "").split(" ").filter(Boolean).map((pair) => /** @type {[number, number]} */ (pair.split(",").map(Number)));

  /** Where letters are to follow a line, a click on one chooses it. @param {[number, number]} at mm */
  function follow(at) {
    const guides = /** @type {HTMLSelectElement | null} */ (document.getElementById("letters-guide"));
    if (!guides || field("letters-course")?.value !== "path" || !state.plan) return false;
    const under = state.plan.partsAt(at[0], at[1], Math.max(0.35, 5 / cloth.view.scale)).map((n) => String(state.planned()[n].id));
    const guide = [...guides.options].find((option) => option.value !== "" && under.includes(option.value));
    if (!guide) return false;
    guides.value = guide.value;
    guides.dispatchEvent(new Event("input", { bubbles: true }));
    return true;
  }

  /** Puts the place that was clicked into the form of a new text, and the keyboard into its field. */
  function put() {
    const form = formNow();
    if (!place || !form || form.dataset.piece || state.task !== "letters") return;
    for (const [id, value] of /** @type {[string, number][]} */ ([["letters-x", place[0]], ["letters-y", place[1]]])) {
      const hidden = field(id);
      if (hidden) hidden.value = value.toFixed(2);
    }
    // The press that is still under way would take the keyboard away again.
    setTimeout(() => field("letters-text")?.focus({ preventScroll: true }));
  }

  /** Of the lines that letters can stand on, only what the chosen one needs is asked. */
  function showFields() {
    const course = field("letters-course")?.value ?? "straight";
    for (const label of /** @type {NodeListOf<HTMLElement>} */ (document.querySelectorAll("#letters-form [data-for]"))) label.hidden = !label.dataset.for?.split(" ").includes(course);
    // Letters of a set are stitched as they came; fonts have no threads of their own.
    const kind = isSet(fontNow()) ? "set" : "font";
    for (const label of /** @type {NodeListOf<HTMLElement>} */ (document.querySelectorAll("#letters-form [data-letters]"))) label.hidden = label.dataset.letters !== kind;
  }
  const fontNow = () => /** @type {HTMLInputElement | null} */ (document.querySelector("#letters-form [name=font]:checked"))?.value ?? "";
  const isSet = (/** @type {string} */ name) => JSON.parse(formNow()?.dataset.sets ?? "[]").includes(name);
  showFields();

  // Fonts are shown in the person's own words once the list is opened.
  const showFonts = () => {
    const list = /** @type {HTMLDetailsElement | null} */ (document.getElementById("letters-fonts"));
    if (!list?.open) return;
    const words = textOf().trim() || sample;
    for (const img of /** @type {NodeListOf<HTMLImageElement>} */ (list.querySelectorAll("img[data-font]"))) img.src = wordOf(img.dataset.font ?? "", words);
    list.querySelector(":checked")?.closest("label")?.scrollIntoView({ block: "nearest" });
  };
  document.addEventListener("toggle", (event) => {
    if (/** @type {HTMLElement} */ (event.target).id === "letters-fonts") showFonts();
  }, true);
  document.addEventListener("htmx:afterSettle", (event) => {
    if (/** @type {HTMLElement} */ (event.target).classList?.contains("font-list")) showFonts();
  });
  document.addEventListener("change", (event) => {
    const input = /** @type {HTMLInputElement} */ (event.target);
    if (input.name === "font" && input.closest("#letters-form")) {
      /** @type {HTMLElement} */ (document.getElementById("letters-font-name")).textContent = input.value;
      const look = /** @type {HTMLImageElement | null} */ (document.getElementById("letters-font-look"));
      if (look) look.src = wordOf(input.value, textOf().trim() || sample);

      // A set comes in a size: until another is wanted, its letters stay as they came.
      const [height, own] = [field("letters-height"), input.closest("label")?.dataset.height];
      if (height && own && !field("letters-width")?.value && !field("letters-block-height")?.value) height.value = own;
      showFields();
    }
    if (input.name === "letter" && input.closest("#nudge-form")) nudged = input.value;
    if (input.id === "font-file" && input.files?.length) void bring(input.files[0]);
  });
  const wordOf = (/** @type {string} */ font, /** @type {string} */ words) => `/letters/word.png?${new URLSearchParams({ font, text: words })}`;

  // A font file may be dropped on the card too.
  const card = () => document.getElementById("task-card");
  document.addEventListener("dragover", (event) => {
    if (state.task === "letters" && card()?.contains(/** @type {Node} */ (event.target)) && event.dataTransfer?.types.includes("Files")) event.preventDefault();
  });
  document.addEventListener("drop", (event) => {
    if (state.task !== "letters" || !card()?.contains(/** @type {Node} */ (event.target)) || !event.dataTransfer?.files.length) return;
    event.preventDefault();
    void bring(event.dataTransfer.files[0]);
  });

  /** @param {File} file */
  async function bring(file) {
    const body = new FormData();
    body.append("file", file, file.name);
    const answer = await fetch("/letters?handler=Bring", { method: "POST", headers: postHeaders, body });
    const told = answer.headers.get("content-type")?.includes("json") ? await answer.json() : { says: "That could not be brought in." };
    say(told.says, !answer.ok);
    if (!answer.ok) return;
    // The list is rendered anew with the font chosen; what was typed stays.
    const form = formNow();
    const list = document.querySelector("#letters-fonts .font-list");
    if (!form || !list) return;
    const label = document.createElement("label");
    label.className = "font-of";
    const input = Object.assign(document.createElement("input"), { type: "radio", name: "font", value: told.name, checked: true });
    const look = Object.assign(document.createElement("img"), { src: wordOf(told.name, textOf().trim() || sample), alt: "", width: 264, height: 56 });
    label.append(input, look, Object.assign(document.createElement("span"), { textContent: told.name }));
    list.prepend(label);
    input.dispatchEvent(new Event("change", { bubbles: true }));
    input.dispatchEvent(new Event("input", { bubbles: true }));
  }
}
