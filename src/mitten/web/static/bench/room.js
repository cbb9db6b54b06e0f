// The room by its own slider: a condition that is no season's.
import { ask } from "./line.js";
import { at, byId, frame, query, targetOf } from "./page.js";
import { preview } from "./preview.js";

/** What the slider was last set to is asked for when the hand rests, and again if it moved on meanwhile. */
const REST_MS = 250;
/** @type {{condition: string, shown: string} | null} */
let wanted = null;
/** @type {number | undefined} */
let timer;

const slider = () => /** @type {HTMLInputElement | null} */ (byId("room-c"));

/** @param {HTMLInputElement} room */
const conditionOf = (room) => `room=${room.value},${/** @type {HTMLInputElement} */ (byId("room-time")).value}`;

document.addEventListener("input", (event) => {
  const room = targetOf(event);
  if (!(room instanceof HTMLInputElement) || room.id !== "room-c") return;
  const out = byId("room-out");
  const celsius = Number(room.value);
  const words = room.dataset.us === "yes" ? `${(celsius * 1.8 + 32).toFixed(1)} °F` : `${celsius.toFixed(1)} °C`;
  if (out) out.textContent = words;
  preview(`${at("sketch")}?${new URLSearchParams({ condition: conditionOf(room) })}`, null);
});

document.addEventListener("change", (event) => {
  const room = slider();
  if (!room || !targetOf(event)?.closest("#room-form")) return;
  wanted = { condition: conditionOf(room), shown: room.value };
  clearTimeout(timer);
  timer = setTimeout(askForRoom, REST_MS);
});

function askForRoom() {
  if (!wanted) return;
  const mine = wanted;
  const asked = new URLSearchParams(query());
  asked.set("condition", mine.condition);
  const url = `${frame().dataset.path}?${asked}`;
  ask("GET", url).then(() => {
    if (wanted !== mine) return;
    wanted = null;
    history.replaceState(history.state, "", url);
  });
}

/** A slider that was moved while an answer was on its way stays where it is. */
export function keepRoom() {
  const room = slider();
  if (room && wanted) room.value = wanted.shown;
}
