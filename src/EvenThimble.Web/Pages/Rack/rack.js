// @ts-check
/** The rack: a number, Enter, the next; a colour to look for. */

const number = /** @type {HTMLInputElement} */ (document.getElementById("cone-number"));

// What was taken makes room for the next; what was refused stays to be put right.
document.addEventListener("htmx:afterRequest", (event) => {
  const { elt, xhr } = /** @type {CustomEvent} */ (event).detail;
  const taken = xhr.status >= 200 && xhr.status < 300;
  if (elt.id === "enter-cone") {
    if (taken) number.value = "";
    number.focus();
    number.select();
  }
  if (elt.id === "paste-cones" && taken) /** @type {HTMLTextAreaElement} */ (document.getElementById("cone-lines")).value = "";
});

document.getElementById("cone-look")?.addEventListener("input", (event) => {
  event.stopPropagation();
  const find = /** @type {HTMLInputElement} */ (document.getElementById("find-cone"));
  find.value = /** @type {HTMLInputElement} */ (event.target).value;
  find.dispatchEvent(new Event("input", { bubbles: true }));
});

// Which maker's numbers are typed is remembered.
const maker = /** @type {HTMLSelectElement} */ (document.getElementById("entry-maker"));
const key = "thimble-entry-maker";
const before = localStorage.getItem(key);
if (before !== null && [...maker.options].some((option) => option.value === before)) maker.value = before;
maker.addEventListener("change", () => localStorage.setItem(key, maker.value));
