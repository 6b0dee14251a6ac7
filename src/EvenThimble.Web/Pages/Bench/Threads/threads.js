// @ts-check
/** The Threads task: a thread is seen on the selected parts before it is taken; threads are found by look; the job in threads at hand is seen beside the job as it is. */

/** @param {import("../Screen/bench.js").Bench} bench */
export function mount({ state }) {
  for (const [on, off] of [["pointerover", "pointerout"], ["focusin", "focusout"]]) {
    document.addEventListener(on, (event) => {
      const button = /** @type {HTMLElement | null} */ (/** @type {Element} */ (event.target).closest?.("[data-preview]"));
      if (button && state.selected.size) state.setPreview(button.dataset.preview ?? null);
    });
    document.addEventListener(off, (event) => /** @type {Element} */ (event.target).closest?.("[data-preview]") && state.setPreview(null));
  }
  document.addEventListener("click", (event) => {
    const look = /** @type {HTMLElement | null} */ (/** @type {Element} */ (event.target).closest("[data-look]"))?.dataset.look;
    if (look) lookLike(look);
  });
  document.addEventListener("input", (event) => {
    const target = /** @type {HTMLInputElement} */ (event.target);
    if (target.id !== "look-like") return;
    event.stopPropagation();
    lookLike(target.value);
  });

  // The two pictures lie on the cloth as long as the matches are on the card.
  const showBoth = () => {
    const matches = /** @type {HTMLElement | null} */ (document.querySelector("form#from-rack"));
    const both = document.getElementById("side-by-side");
    if (!matches) return both?.remove();
    if (both?.dataset.shows === matches.dataset.after) return;
    const there = both ?? document.getElementById("cloth")?.appendChild(Object.assign(document.createElement("div"), { id: "side-by-side", className: "side-by-side" }));
    if (!there) return;
    there.dataset.shows = matches.dataset.after;
    there.replaceChildren(
      ...[["as it is", matches.dataset.before], ["sewn so", matches.dataset.after]].map(([words, address]) => {
        const figure = document.createElement("figure");
        const picture = Object.assign(document.createElement("img"), { src: address, alt: `The job ${words}` });
        figure.append(picture, Object.assign(document.createElement("figcaption"), { textContent: words }));
        return figure;
      }),
    );
  };
  for (const event of ["htmx:afterSettle", "thimble:job"]) document.addEventListener(event, showBoth);

  /** @param {string} colour */
  function lookLike(colour) {
    const find = /** @type {HTMLInputElement | null} */ (document.getElementById("find-thread"));
    if (!find) return;
    find.value = colour;
    find.dispatchEvent(new Event("input", { bubbles: true }));
  }
}
