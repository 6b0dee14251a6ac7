// @ts-check
/** The keys of the bench, as the registry of commands declares them. */
import { say, typing } from "../../Shared/site.js";

/**
 * What the screen does at a key; false: the key was not meant for it.
 * @typedef {(args: string[], event: KeyboardEvent | MouseEvent & { key?: string }) => void | false} Deed
 * @typedef {{ command?: string, values?: Record<string, string>, needsParts?: boolean, does?: string, with?: string[] }} Entry
 */

/** A press as the registry writes it: "Ctrl+Shift+z". @param {KeyboardEvent} event @param {boolean} [shift] */
function written(event, shift = event.shiftKey) {
  const key = event.key.length === 1 ? event.key.toLowerCase() : event.key;
  return `${event.ctrlKey || event.metaKey ? "Ctrl+" : ""}${shift ? "Shift+" : ""}${key}`;
}

/**
 * Does what keys ask for. Returns the same for a button that names a key, or a command, to be pressed.
 * @param {import("./bench.js").Bench} bench
 * @param {Map<string, Deed>} deeds
 * @param {() => void} beforeCommand
 */
export function watchKeys({ state, tools, post }, deeds, beforeCommand) {
  /** @type {Record<string, Entry>} */
  const keys = JSON.parse(state.root.dataset.keys ?? "{}");

  /** @param {Entry} entry @param {KeyboardEvent | MouseEvent} event */
  const act = (entry, event) => {
    if (entry.does) return deeds.get(entry.does)?.(entry.with ?? [], event);
    if (entry.needsParts && state.selected.size === 0) return say("Nothing is selected. Choose a part on the cloth or on the sewing line first.");
    beforeCommand();
    void post(entry.command ?? "", entry.values);
  };

  document.addEventListener("keydown", (event) => {
    if (typing(event)) return;
    if (tools.key(event)) return event.preventDefault();
    // Signs that need Shift to be typed are signs all the same, and arrows take Shift as a longer step.
    const entry = keys[written(event)] ?? (event.key.length === 1 && !/[a-z]/i.test(event.key) || event.key.startsWith("Arrow") ? keys[written(event, false)] : undefined);
    if (!entry || (event.altKey && !event.key.startsWith("Arrow"))) return;
    if (act(entry, event) !== false) event.preventDefault();
  });

  return (/** @type {string} */ key, /** @type {MouseEvent} */ event) => void act(keys[key] ?? {}, event);
}
