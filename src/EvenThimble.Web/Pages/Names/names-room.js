// @ts-check
/** The names of a job: the files follow what is chosen; writing can be stopped between two files. */

const sewForm = /** @type {HTMLFormElement | null} */ (document.getElementById("sew-form"));
sewForm?.addEventListener("change", (event) => {
  // Another machine has other ways and heads.
  if (/** @type {HTMLElement} */ (event.target).id === "sew-machine") for (const name of ["way", "heads"]) sewForm.querySelector(`[name="${name}"]`)?.removeAttribute("name");
  sewForm.action = `${location.pathname}#files`;
  sewForm.requestSubmit();
});

document.addEventListener("click", (event) => {
  const stop = /** @type {Element} */ (event.target).closest("[data-stop-writing]");
  const still = stop?.closest("#still-to-write");
  if (!still) return;
  /** @type {any} */ (window).htmx.trigger(still, "htmx:abort");
  still.innerHTML = "<p class='finding note'>Stopped. What was written is there; writing again goes on from the beginning.</p>";
});
