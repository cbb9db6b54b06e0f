// Keys act on the part that has the focus, in the drawing or in the list of parts, and on nothing else.
import { remember } from "./focus.js";
import { ask } from "./line.js";
import { at, byId, encoded, frame, query, targetOf } from "./page.js";
import { choose, drawnPart, inDrawing, partForm, refOf } from "./parts.js";
import { step } from "./steps.js";

/** @type {Record<string, [number, number]>} */
const ARROWS = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] };
/** @type {Record<string, string>} */
const ACTS = { d: "copy", o: "align", delete: "remove" };
/** @type {Record<string, number>} */
const POWER = { "[": -1, "]": 1 };
const STEP_M = 0.01;
const LONG_STEP_M = 0.05;

/** @param {Element} target */
const writes = (target) => target.matches("input:not([type=range]):not([type=checkbox]), textarea");
/** @param {Element} target */
const hasKeys = (target) => target.matches("input, select, textarea") || target.closest("details.menu[open]") !== null;

document.addEventListener("keydown", (event) => {
  const target = targetOf(event);
  if (!target || !frame() || event.altKey) return;
  if (event.ctrlKey || event.metaKey) {
    takeBack(event, target);
    return;
  }
  const ref = refOf(target);
  if (ref && actsOnPart(event, target, ref)) event.preventDefault();
  else if (!hasKeys(target) && lettersCount()) pressed(event);
});

/**
 * Do what a key means to a part; whether it means anything.
 * @param {KeyboardEvent} event
 * @param {HTMLElement | SVGElement} target
 * @param {string} ref
 */
function actsOnPart(event, target, ref) {
  const arrow = ARROWS[event.key];
  if (arrow) {
    const part = inDrawing(target);
    if (!part) return false;
    remember(target, ref);
    step(part, arrow, event.shiftKey ? LONG_STEP_M : STEP_M);
    return true;
  }
  if (event.key === "Enter" || event.key === " ") {
    if (!drawnPart(target)) return false;
    remember(target, ref);
    choose(ref);
    return true;
  }
  const isKey = ACTS[event.key.toLowerCase()] || POWER[event.key];
  if (!isKey || !(event.key === "Delete" || lettersCount())) return false;
  remember(target, ref);
  act(ref, event.key);
  return true;
}

/**
 * Undo and redo as everywhere; within a field they are the field's own.
 * @param {KeyboardEvent} event
 * @param {Element} target
 */
function takeBack(event, target) {
  if (event.key.toLowerCase() !== "z" || writes(target)) return;
  const button = byId(event.shiftKey ? "redo" : "undo");
  if (!(button instanceof HTMLButtonElement) || button.disabled) return;
  event.preventDefault();
  button.click();
}

/**
 * @param {string} ref
 * @param {string} key
 */
function act(ref, key) {
  const by = POWER[key];
  if (by) powered(ref, by);
  else ask("POST", at(`do/${ACTS[key.toLowerCase()]}/${encoded(ref)}`) + query(), {});
}

/**
 * A part has its power in its form: one whose form is not shown is chosen first.
 * @param {string} ref
 * @param {number} by
 */
function powered(ref, by) {
  if (partForm()?.dataset.part === ref) {
    stepWatts(by);
    return;
  }
  document.addEventListener("htmx:afterSettle", () => {
    if (partForm()?.dataset.part === ref) stepWatts(by);
  }, { once: true });
  choose(ref);
}

/** @param {number} by */
function stepWatts(by) {
  const watts = /** @type {HTMLSelectElement | null} */ (document.querySelector("#part-form select[name=watts]"));
  const next = (watts?.selectedIndex ?? -1) + by;
  if (!watts || next < 0 || next >= watts.options.length) return;
  watts.selectedIndex = next;
  watts.dispatchEvent(new Event("change", { bubbles: true }));
}

/**
 * What has a key of its own says so in its markup; a list is gone to, everything else is done.
 * @param {KeyboardEvent} event
 */
function pressed(event) {
  const key = event.key.length === 1 ? event.key.toUpperCase() : event.key;
  const meant = /** @type {HTMLElement | null} */ (document.querySelector(`[aria-keyshortcuts="${CSS.escape(key)}"]`));
  if (!meant || meant.closest(".acts")) return;
  event.preventDefault();
  // Another sheet begins at its top, however far down the last one was read.
  if (meant.closest(".rail")) window.scrollTo(0, 0);
  if (meant.matches("select")) meant.focus();
  else meant.click();
}

// Keys of one letter can be switched off, for those who speak to their machine or hit keys unawares.
const LETTERS = "letters-are-commands";
const lettersCount = () => localStorage.getItem(LETTERS) !== "no";

const box = byId("letters");
if (box instanceof HTMLInputElement) box.checked = lettersCount();

document.addEventListener("change", (event) => {
  const target = targetOf(event);
  if (target instanceof HTMLInputElement && target.id === "letters")
    localStorage.setItem(LETTERS, target.checked ? "yes" : "no");
});
