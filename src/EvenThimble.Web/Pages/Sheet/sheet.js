// @ts-check
/** The sheet beside the machine: what was sewn is ticked off and stays so; links ask for the paper that was chosen last. */

const article = /** @type {HTMLElement} */ (document.querySelector(".sewing-sheet"));
const boxes = /** @type {HTMLInputElement[]} */ ([...document.querySelectorAll("[data-tick]")]);
const paper = /** @type {HTMLSelectElement} */ (document.getElementById("paper"));
const mirrored = /** @type {HTMLInputElement} */ (document.getElementById("mirrored"));
const marksOnly = /** @type {HTMLInputElement} */ (document.getElementById("marks-only"));
const ticksKey = `ticks-${article.dataset.ticks}`;

function show() {
  const done = boxes.filter((box) => box.checked);
  for (const box of boxes) box.closest("tr")?.classList.toggle("done", box.checked);
  boxes.find((box) => !box.checked)?.closest("tr")?.classList.add("next");
  for (const row of document.querySelectorAll("tr.next")) row.classList.toggle("next", row.querySelector("[data-tick]") === boxes.find((box) => !box.checked));
  /** @type {HTMLElement} */ (document.getElementById("ticked")).textContent = `${done.length} of ${boxes.length} done`;
}

function keep() {
  localStorage.setItem(ticksKey, boxes.filter((box) => box.checked).map((box) => box.dataset.tick).join());
  show();
}

const kept = new Set((localStorage.getItem(ticksKey) ?? "").split(","));
for (const box of boxes) box.checked = kept.has(box.dataset.tick ?? "");
article.addEventListener("change", keep);
// On a tablet the whole line is the box.
article.addEventListener("click", (event) => {
  const row = /** @type {Element} */ (event.target).closest("tr[data-step]");
  if (!row || event.target instanceof HTMLInputElement) return;
  const box = /** @type {HTMLInputElement} */ (row.querySelector("[data-tick]"));
  box.checked = !box.checked;
  keep();
});
document.getElementById("begin-again")?.addEventListener("click", () => {
  for (const box of boxes) box.checked = false;
  keep();
});

function links() {
  localStorage.setItem("paper", paper.value);
  for (const link of /** @type {NodeListOf<HTMLAnchorElement>} */ (document.querySelectorAll("[data-paper]"))) {
    const query = new URLSearchParams({ handler: link.dataset.template ? "Template" : "Paper", paper: paper.value });
    if (link.dataset.template) {
      query.set("of", link.dataset.template);
      if (mirrored.checked) query.set("mirrored", "true");
      if (marksOnly.checked) query.set("marksOnly", "true");
    }
    link.href = `?${query}`;
  }
}

paper.value = localStorage.getItem("paper") ?? "a4";
for (const control of [paper, mirrored, marksOnly]) control.addEventListener("change", links);
links();
show();
