// @ts-check
/** The roster as a small table: what is typed is kept when its cell is left; Enter goes down, a pasted block spreads over the cells. */

/** @type {any} */
const htmx = /** @type {any} */ (window).htmx;
const people = /** @type {HTMLElement} */ (document.getElementById("people"));

/** @param {Element} target */
const cellOf = (target) => (target instanceof HTMLInputElement && target.dataset.cell !== undefined ? target : null);

/** @param {HTMLInputElement} cell */
const personOf = (cell) => /** @type {HTMLElement} */ (cell.closest("tr")).dataset.person ?? "";

people.addEventListener("change", (event) => {
  const target = /** @type {HTMLElement} */ (event.target);
  const cell = cellOf(target);
  if (cell) {
    htmx.ajax("POST", "?handler=Cell", { source: cell, target: "#roster-checks", swap: "outerHTML", values: { person: personOf(cell), field: cell.dataset.cell, value: cell.value } });
  } else if (target.dataset.fieldName !== undefined) {
    htmx.ajax("POST", "?handler=RenameField", { target: "#people", values: { field: target.dataset.fieldName, name: /** @type {HTMLInputElement} */ (target).value } });
  }
});

people.addEventListener("keydown", async (event) => {
  const cell = cellOf(/** @type {Element} */ (event.target));
  if (!cell || !["Enter", "ArrowDown", "ArrowUp"].includes(event.key)) return;
  event.preventDefault();
  const row = /** @type {HTMLElement} */ (cell.closest("tr"));
  const next = /** @type {HTMLElement | null} */ (event.key === "ArrowUp" ? row.previousElementSibling : row.nextElementSibling);
  const column = event.key === "Enter" && !next ? "0" : cell.dataset.cell;
  cell.blur();
  if (next) return focusOn(next, column);
  if (event.key !== "Enter") return cell.focus();
  await htmx.ajax("POST", "?handler=Add", { target: "#people" });
  const rows = people.querySelectorAll("tr[data-person]");
  focusOn(/** @type {HTMLElement} */ (rows[rows.length - 1]), column);
});

people.addEventListener("paste", async (event) => {
  const cell = cellOf(/** @type {Element} */ (event.target));
  const block = event.clipboardData?.getData("text/plain") ?? "";
  if (!cell || !/[\t\n]/.test(block.replace(/[\r\n]+$/, ""))) return;
  event.preventDefault();
  const [person, column] = [personOf(cell), cell.dataset.cell];
  await htmx.ajax("POST", "?handler=Paste", { target: "#people", values: { person, field: column, block } });
  focusOn(/** @type {HTMLElement | null} */ (people.querySelector(`tr[data-person="${person}"]`)), column);
});

/** @param {HTMLElement | null} row @param {string | undefined} column */
function focusOn(row, column) {
  const cell = /** @type {HTMLInputElement | null} */ (row?.querySelector(`[data-cell="${column}"]`) ?? null);
  cell?.focus();
  cell?.select();
}

// A new line is typed into at once.
document.addEventListener("htmx:afterSettle", (event) => {
  const { elt, requestConfig } = /** @type {CustomEvent} */ (event).detail;
  if (requestConfig?.elt?.id !== "add-person" || elt.id !== "people") return;
  const rows = people.querySelectorAll("tr[data-person]");
  focusOn(/** @type {HTMLElement} */ (rows[rows.length - 1]), "0");
});
