// @ts-check
/** The Letters screen: font files, and the files of letter sets, chosen or dropped are brought in one after another. */
import { postHeaders, say } from "../Shared/site.js";

/** @param {Iterable<File>} files */
async function bring(files) {
  let brought = 0;
  for (const file of files) {
    const body = new FormData();
    body.append("file", file, file.name);
    try {
      const answer = await fetch("/letters?handler=Bring", { method: "POST", headers: postHeaders, body });
      const told = answer.headers.get("content-type")?.includes("json") ? await answer.json() : { says: "That could not be brought in." };
      say(`${file.name}: ${told.says}`, !answer.ok);
      if (answer.ok) brought++;
      else return;
    } catch {
      return say("Even Thimble does not answer. Nothing was brought in.", true);
    }
  }
  if (brought) location.assign("/letters");
}

const chooser = /** @type {HTMLInputElement | null} */ (document.getElementById("font-file"));
chooser?.addEventListener("change", () => void bring([...(chooser.files ?? [])]));
document.addEventListener("dragover", (event) => event.dataTransfer?.types.includes("Files") && event.preventDefault());
document.addEventListener("drop", (event) => {
  if (!event.dataTransfer?.files.length) return;
  event.preventDefault();
  const files = [...event.dataTransfer.files];
  const fonts = files.filter((file) => /\.(ttf|otf|woff)$/i.test(file.name));
  if (fonts.length) void bring(fonts);
  else void bringSet(files);
});

/*
 * The files of a letter set come one after another, so that it is seen how far they are, and can be stopped.
 */
const [setFiles, setFolder] = ["set-files", "set-folder"].map((id) => /** @type {HTMLInputElement | null} */ (document.getElementById(id)));
let stopped = false;

/** @param {string} handler @param {Record<string, string>} fields @param {File} [file] @returns {Promise<any>} */
async function ask(handler, fields, file) {
  const body = new FormData();
  for (const [name, value] of Object.entries(fields)) body.append(name, value);
  if (file) body.append("file", file, file.name);
  const answer = await fetch(`/letters?handler=${handler}`, { method: "POST", headers: postHeaders, body });
  const told = answer.headers.get("content-type")?.includes("json") ? await answer.json() : { says: "That could not be brought in. Load this page again and try once more." };
  if (!answer.ok) throw new Error(told.says);
  return told;
}

/** What a set is called: as its folder is, or by the words that most of its files have in their names. @param {File[]} files */
function nameOf(files) {
  const folder = files[0].webkitRelativePath.split("/")[0];
  if (folder) return folder;
  const names = files.map((file) => file.name.replace(/\.[^.]*$/, ""));
  const words = names[0].split(/[\s_.-]+/).filter((word) => word.length > 1 && !/^\d/.test(word) && names.filter((name) => name.split(/[\s_.-]+/).includes(word)).length > names.length / 2);
  return (files.length > 1 && words.join(" ")) || names[0];
}

/** @param {File[]} files */
async function bringSet(files) {
  const progress = /** @type {HTMLElement} */ (document.getElementById("set-progress"));
  const [bar, words, stop] = [progress.querySelector("progress"), progress.querySelector("span"), progress.querySelector("button")];
  if (!files.length || !bar || !words || !stop) return;
  [stopped, progress.hidden] = [false, false];
  stop.onclick = () => (stopped = true);
  try {
    const { token } = await ask("Begin", { begin: "set" });
    for (const [i, file] of files.entries()) {
      [bar.value, words.textContent] = [i / files.length, `${i} of ${files.length}`];
      await ask("Lay", { token, path: file.webkitRelativePath || file.name }, file);
      if (stopped) return say("Stopped. Nothing was brought in.", false);
    }
    [bar.value, words.textContent] = [1, "looking at the letters"];
    const made = await ask("Finish", { token, name: nameOf(files) });
    location.assign(`/letters/sets/${made.id}`);
  } catch (error) {
    say(error instanceof TypeError ? "Even Thimble does not answer. Nothing was brought in." : /** @type {Error} */ (error).message, true);
  } finally {
    progress.hidden = true;
  }
}

for (const input of [setFiles, setFolder])
  input?.addEventListener("change", () => {
    void bringSet([...(input.files ?? [])]);
    input.value = "";
  });
