// @ts-check
/** What every screen needs: the token of posts, theme, keys, questions, sentences. */

const token = document.querySelector('meta[name="thimble-token"]')?.getAttribute("content") ?? "";

/** The headers that a post of ours carries. */
export const postHeaders = { "X-Thimble-Token": token };

/** @param {string} name @param {string} value */
export function remember(name, value) {
  document.cookie = `${name}=${value}; path=/; max-age=31536000; samesite=lax`;
}

/**
 * Shows a sentence for a while; trouble stays until the next.
 * @param {string} sentence
 * @param {boolean} [trouble]
 */
export function say(sentence, trouble = false) {
  const said = document.getElementById("said");
  if (!said) return;
  said.replaceChildren(Object.assign(document.createElement("span"), { textContent: sentence }));
  said.classList.add("shown");
  said.classList.toggle("trouble", trouble);
  fade();
}

let fading = 0;
/** Lets a sentence that is shown go after a while, unless it tells of trouble. */
function fade() {
  clearTimeout(fading);
  const said = document.getElementById("said");
  if (!said?.classList.contains("shown")) return;
  fading = window.setTimeout(() => said.classList.remove("shown"), said.classList.contains("trouble") ? 12000 : said.querySelector("button") ? 10000 : 4000);
}

document.addEventListener("htmx:configRequest", (event) => {
  Object.assign(/** @type {CustomEvent} */ (event).detail.headers, postHeaders);
});
document.addEventListener("htmx:oobAfterSwap", fade);
document.addEventListener("htmx:afterSettle", fade);
document.addEventListener("htmx:responseError", (event) => say(/** @type {CustomEvent} */ (event).detail.xhr.responseText?.slice(0, 300) || "That could not be done.", true));
document.addEventListener("htmx:sendError", () => say("Even Thimble does not answer. Is it still running? Nothing was changed.", true));

// A question before what deletes: htmx asks here instead of in the browser's own box.
document.addEventListener("htmx:confirm", (event) => {
  const detail = /** @type {CustomEvent} */ (event).detail;
  const words = detail.elt.getAttribute("data-ask");
  if (!words) return;
  event.preventDefault();
  const ask = /** @type {HTMLDialogElement} */ (document.getElementById("ask"));
  /** @type {HTMLElement} */ (document.getElementById("ask-words")).textContent = words;
  ask.returnValue = "no";
  ask.showModal();
  document.getElementById("ask-yes")?.focus();
  ask.addEventListener("close", () => ask.returnValue === "yes" && detail.issueRequest(true), { once: true });
});

document.addEventListener("click", (event) => {
  const target = /** @type {Element} */ (event.target);
  if (target.closest("[data-toggle-theme]")) {
    const root = document.documentElement;
    const theme = root.dataset.bsTheme === "dark" ? "light" : "dark";
    root.dataset.bsTheme = theme;
    remember("theme", theme);
    document.dispatchEvent(new CustomEvent("thimble:theme"));
  }
  if (target.closest("[data-show-keys]")) showKeys();
});

function showKeys() {
  /** @type {HTMLDialogElement} */ (document.getElementById("keys")).showModal();
}

/** Whether keys go to what is being typed into. @param {Event} event */
export function typing(event) {
  const target = /** @type {HTMLElement} */ (event.target);
  return target instanceof HTMLElement && (target.closest("dialog") !== null || target.isContentEditable || (target.matches("input, textarea, select") && !target.matches('[type="radio"], [type="checkbox"]')));
}

document.addEventListener("keydown", (event) => {
  if (event.key === "?" && !typing(event)) {
    event.preventDefault();
    showKeys();
  }
});
