// The bench: parts follow the pointer and the arrow keys with fresh figures, and are stored when they are let go.
import "./bench/early.js";
import "./bench/keys.js";
import "./bench/menus.js";
import "./bench/readout.js";
import "./bench/front.js";
import { reopen, restoreFocus, showFault } from "./bench/focus.js";
import { say, speak } from "./bench/notices.js";
import "./bench/order.js";
import { onHtmx } from "./bench/page.js";
import { drawnAnew } from "./bench/preview.js";
import { keepRoom } from "./bench/room.js";
import { previewSteps } from "./bench/steps.js";
import { isWriting, restoreWritten } from "./bench/written.js";

// What the keeper had in hand when the bench was replaced is in the hand again.
onHtmx("afterSwap", ({ target, xhr }) => {
  say("");
  speak();
  reopen();
  if (target.id !== "bench") return;
  drawnAnew();
  keepRoom();
  restoreWritten();
  restoreFocus();
  if (xhr.status === 422) showFault(isWriting());
  previewSteps();
});
