// Of two answers the older may come after the newer: it is not shown any more, for it shows what is no more.
import { say } from "./notices.js";
import { onHtmx } from "./page.js";

/** The moment of the state that the page shows, in the server's numbers. */
let shown = 0;

onHtmx("beforeSwap", (swap) => {
  if (swap.target.id !== "bench") return;
  const moment = Number(swap.xhr.getResponseHeader("Mitten-Moment"));
  swap.shouldSwap &&= moment >= shown;
  if (swap.shouldSwap) shown = moment;
  else if (swap.xhr.status === 422) say(faultIn(swap.xhr.responseText));
});

/** @param {string} page that was refused */
function faultIn(page) {
  const fault = new DOMParser().parseFromString(page, "text/html").querySelector(".fault");
  return fault?.textContent?.trim() || "A change was refused, and not stored.";
}
