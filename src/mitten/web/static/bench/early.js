// What was changed before the scripts were there is sent as soon as they are: nothing looks made and is not stored.
import { onHtmx } from "./page.js";
import { noteWritten } from "./written.js";

/** @typedef {import("./written.js").Field} Field */
const SENT_BY_CHANGE = "form[hx-trigger^=change] :is(input[name]:not([type=hidden]), select[name])";

/** @param {Field} field */
function isChanged(field) {
  if (field instanceof HTMLSelectElement) return field.selectedIndex !== Math.max(chosenAtFirst(field), 0);
  return field.type === "checkbox" || field.type === "radio"
    ? field.checked !== field.defaultChecked
    : field.value !== field.defaultValue;
}

/** @param {HTMLSelectElement} menu */
const chosenAtFirst = (menu) => [...menu.options].findIndex((option) => option.defaultSelected);

/** What is still being typed is told of by the browser, when the hand leaves it. */
const isInHand = (/** @type {Field} */ field) => field instanceof HTMLInputElement && field === document.activeElement;

function sendWhatWasChanged() {
  const changed = /** @type {Field[]} */ ([...document.querySelectorAll(SENT_BY_CHANGE)]).filter(isChanged);
  changed.forEach(noteWritten);
  const told = new Set();
  for (const field of changed) {
    if (isInHand(field) || told.has(field.form)) continue;
    told.add(field.form);
    field.dispatchEvent(new Event("change", { bubbles: true }));
  }
}

/** A slider moves its number by script: one that was moved before goes back to where its number is. */
function putSlidersBack() {
  const sliders = /** @type {NodeListOf<HTMLInputElement>} */ (document.querySelectorAll("input[type=range]:not([name])"));
  for (const slider of sliders) slider.value = slider.defaultValue;
}

onHtmx("load", ({ elt }) => {
  if (elt !== document.body) return;
  putSlidersBack();
  sendWhatWasChanged();
});
