// @ts-check
/** Files dropped anywhere on the shelf, or chosen, are taken in one after another, each with its progress and its sentence. */
import { postHeaders } from "../Shared/site.js";

const largestFile = 64 * 1024 * 1024;
const list = /** @type {HTMLElement} */ (document.getElementById("imports"));
const chooser = /** @type {HTMLInputElement} */ (document.getElementById("files"));

/** @param {Iterable<File>} files */
async function takeIn(files) {
  const waiting = [...files].map((file) => ({ file, line: addLine(file.name) }));
  for (const { file, line } of waiting) await takeInOne(file, line);
  const filters = /** @type {HTMLFormElement} */ (document.getElementById("filters"));
  const query = new URLSearchParams(/** @type {any} */ (new FormData(filters)));
  await window.htmx.ajax("GET", `/?${query}`, { target: "#shelf-lists", swap: "outerHTML" });
}

/** @param {string} name */
function addLine(name) {
  const line = document.createElement("li");
  const title = Object.assign(document.createElement("b"), { textContent: name });
  const progress = Object.assign(document.createElement("progress"), { max: 1, value: 0 });
  progress.setAttribute("aria-label", `Taking in ${name}`);
  line.append(title, progress, Object.assign(document.createElement("span"), { textContent: "waiting" }));
  list.append(line);
  return line;
}

/** @param {File} file @param {HTMLElement} line */
function takeInOne(file, line) {
  return new Promise((done) => {
    /** @param {string} says @param {boolean} good */
    const finish = (says, good) => {
      line.querySelector("progress")?.remove();
      line.classList.add(good ? "good" : "trouble");
      /** @type {HTMLElement} */ (line.querySelector("span")).textContent = says;
      const close = Object.assign(document.createElement("button"), { type: "button", className: "quiet" });
      close.setAttribute("aria-label", `Close the line about ${file.name}`);
      close.append(Object.assign(document.createElement("i"), { className: "bi bi-x-lg" }));
      close.addEventListener("click", () => line.remove());
      line.append(close);
      if (good) setTimeout(() => line.remove(), 6000);
      done(undefined);
    };
    if (file.size > largestFile) return finish("The file is larger than 64 MB, far more than any stitch file. Check that it is the right one.", false);
    const request = new XMLHttpRequest();
    request.open("POST", "/?handler=Import");
    for (const [name, value] of Object.entries(postHeaders)) request.setRequestHeader(name, value);
    request.upload.addEventListener("progress", (event) => {
      const progress = line.querySelector("progress");
      if (progress && event.lengthComputable) progress.value = event.loaded / event.total;
      /** @type {HTMLElement} */ (line.querySelector("span")).textContent = "reading";
    });
    request.addEventListener("error", () => finish("Even Thimble does not answer. Nothing was taken in.", false));
    request.addEventListener("load", () => {
      let says = "That could not be taken in. Load this page again and try once more.";
      try {
        says = JSON.parse(request.responseText).says;
      } catch {
        if (request.responseText && request.responseText.length < 400 && !request.responseText.startsWith("<")) says = request.responseText;
      }
      finish(says, request.status === 200);
    });
    const body = new FormData();
    body.append("file", file, file.name);
    request.send(body);
  });
}

chooser.addEventListener("change", () => {
  if (chooser.files?.length) takeIn(chooser.files);
  chooser.value = "";
});

let depth = 0;
const hasFiles = (/** @type {DragEvent} */ event) => event.dataTransfer?.types.includes("Files") ?? false;
/** @param {boolean} on */
const showDrop = (on) => document.getElementById("drop-here")?.classList.toggle("shown", on);
document.addEventListener("dragenter", (event) => {
  if (!hasFiles(event)) return;
  depth++;
  showDrop(true);
});
document.addEventListener("dragleave", () => {
  depth = Math.max(0, depth - 1);
  if (depth === 0) showDrop(false);
});
document.addEventListener("dragover", (event) => hasFiles(event) && event.preventDefault());
document.addEventListener("drop", (event) => {
  if (!hasFiles(event)) return;
  event.preventDefault();
  depth = 0;
  showDrop(false);
  takeIn(event.dataTransfer?.files ?? []);
});
