// @ts-check
/** Make ready: counts what is chosen, and lets a download bear the name that was typed. */

const form = /** @type {HTMLFormElement} */ (document.getElementById("hand-over"));
const count = /** @type {HTMLElement} */ (document.getElementById("chosen-count"));

function show() {
  const chosen = /** @type {HTMLInputElement[]} */ ([...form.querySelectorAll('[name="machines"]:checked')]);
  for (const section of form.querySelectorAll("[data-machine]")) section.classList.toggle("chosen", chosen.some((c) => c.value === section.getAttribute("data-machine")));
  const files = chosen.reduce((sum, c) => sum + form.querySelectorAll(`[data-machine="${c.value}"] [data-download]`).length, 0);
  count.textContent = files === 0 ? "Choose one or more machines." : files === 1 ? "One file will be written." : `${files} files will be written.`;
}

form.addEventListener("change", show);
form.addEventListener("click", (event) => {
  const link = /** @type {HTMLAnchorElement | null} */ (/** @type {Element} */ (event.target).closest("[data-download]"));
  if (!link) return;
  const machine = link.dataset.download ?? "";
  const name = /** @type {HTMLInputElement} */ (form.elements.namedItem(`name-${machine}`)).value;
  link.href = `?handler=Download&machine=${encodeURIComponent(machine)}&name=${encodeURIComponent(name)}&hooping=${link.dataset.hooping ?? "1"}`;
});
show();
