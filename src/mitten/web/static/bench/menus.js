// Menus close when the hand goes elsewhere, and nothing that lies under an open one can be hit or gone to.
import { isDragging, putBack } from "./drag.js";

/** @returns {HTMLDetailsElement[]} */
const openMenus = () => [...document.querySelectorAll("details.menu[open]")].map((menu) => /** @type {HTMLDetailsElement} */ (menu));

function shade() {
  const open = openMenus()[0];
  for (const one of /** @type {NodeListOf<HTMLElement>} */ (
    document.querySelectorAll(".tabs, .sheet-columns, .two-columns, #margin")
  )) one.inert = open !== undefined && !one.contains(open);
}

// A menu tells nobody but itself that it was opened or shut.
document.addEventListener("toggle", shade, true);

document.addEventListener("click", (event) => {
  for (const menu of openMenus()) if (!menu.contains(/** @type {Node} */ (event.target))) menu.open = false;
});

document.addEventListener("keydown", (event) => {
  if (event.key !== "Escape") return;
  if (isDragging()) {
    putBack();
    return;
  }
  const open = openMenus();
  for (const menu of open) {
    menu.open = false;
    menu.querySelector("summary")?.focus();
  }
  // Out of a field, so that keys are commands again.
  if (!open.length && document.activeElement instanceof HTMLElement) document.activeElement.blur();
});
