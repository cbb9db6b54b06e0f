// What is under the pointer, in words beside it.
import { isDragging } from "./drag.js";
import { at, byId, drawing, query, targetOf } from "./page.js";

/** @typedef {{view: string, xM: number, upM: number, x: number, y: number}} Spot */

let asking = false;
let isOver = false;
/** @type {Spot | null} */
let asked = null;

/**
 * Where the pointer is on the sheet, and in which of its views.
 * @param {PointerEvent} event
 * @returns {Spot | null}
 */
function spotUnder(event) {
  const sheet = /** @type {SVGSVGElement | null} */ (drawing()?.querySelector("svg.heat-sheet") ?? null);
  const matrix = sheet?.getScreenCTM()?.inverse();
  if (!sheet || !matrix || !targetOf(event)?.closest("#drawing")) return null;
  const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix);
  for (const shown of /** @type {NodeListOf<SVGElement>} */ (sheet.querySelectorAll("[data-view]"))) {
    const [left, base, perM, length, height] = ["left", "base", "perM", "length", "height"]
      .map((name) => Number(shown.dataset[name]));
    const [xM, upM] = [(point.x - left) / perM, (base - point.y) / perM];
    if (xM >= 0 && xM <= length && upM >= 0 && upM <= height)
      return { view: shown.dataset.view ?? "", xM, upM, x: event.clientX, y: event.clientY };
  }
  return null;
}

document.addEventListener("pointermove", async (event) => {
  asked = isDragging() ? null : spotUnder(event);
  isOver = asked !== null;
  if (!isOver) hide();
  if (asking) return;
  asking = true;
  while (asked) {
    const now = asked;
    asked = null;
    await tell(now);
  }
  asking = false;
});

/** @param {Spot} spot */
async function tell(spot) {
  const asks = new URLSearchParams(query());
  asks.set("x_m", spot.xM.toFixed(3));
  asks.set(spot.view === "plan" ? "y_m" : "z_m", spot.upM.toFixed(3));
  try {
    const answer = await fetch(`${at("readout")}?${asks}`);
    if (answer.ok && isOver) show((await answer.json()).words, spot);
  } catch {
    asked = null;
  }
}

/**
 * @param {string} words
 * @param {Spot} spot
 */
function show(words, { x, y }) {
  const box = byId("readout");
  if (!box || !words) return;
  box.textContent = words;
  box.classList.add("shown");
  // Only what is shown has a place.
  const around = box.offsetParent?.getBoundingClientRect();
  if (!around) return;
  const left = Math.min(x - around.left + 14, around.width - box.offsetWidth - 4);
  box.style.left = `${Math.max(left, 0)}px`;
  box.style.top = `${y - around.top + 16}px`;
}

function hide() {
  byId("readout")?.classList.remove("shown");
}
