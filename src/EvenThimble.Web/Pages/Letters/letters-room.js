// @ts-check
/** The Letters screen: font files chosen or dropped are brought in one after another. */
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
  void bring([...event.dataTransfer.files]);
});
