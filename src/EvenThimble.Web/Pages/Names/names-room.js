// @ts-check
/** The names of a job: the files follow what is chosen; what takes long can be stopped. */

const sewForm = /** @type {HTMLFormElement | null} */ (document.getElementById("sew-form"));
sewForm?.addEventListener("change", (event) => {
  // Another machine has other ways and heads.
  if (/** @type {HTMLElement} */ (event.target).id === "sew-machine") for (const name of ["way", "heads"]) sewForm.querySelector(`[name="${name}"]`)?.removeAttribute("name");
  sewForm.action = `${location.pathname}#files`;
  sewForm.requestSubmit();
});

document.addEventListener("click", (event) => {
  const stop = /** @type {HTMLElement | null} */ (/** @type {Element} */ (event.target).closest("[data-stop]"));
  const working = stop?.closest("[data-working]");
  if (!stop || !working) return;
  /** @type {any} */ (window).htmx.trigger(working, "htmx:abort");
  const said = document.createElement("p");
  said.className = "finding note";
  said.textContent = stop.dataset.stop ?? "";
  working.replaceWith(said);
});
