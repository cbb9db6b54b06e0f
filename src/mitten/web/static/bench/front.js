// Another room on Day: what was refused of it is said below its field, which is gone to; what was said of a room that is
// no more in the field goes.
import { byId, onHtmx } from "./page.js";

onHtmx("afterSwap", ({ target, xhr }) => {
  const [field, front] = [byId("room-curve"), byId("front")];
  if (!(field instanceof HTMLInputElement) || !front || !["course", "front"].includes(target.id)) return;
  const isRefused = target.id === "front" && xhr.status === 422;
  field.toggleAttribute("aria-invalid", false);
  if (isRefused) {
    field.setAttribute("aria-invalid", "true");
    field.focus();
  } else if (target.id === "course" && (front.dataset.room ?? "") !== field.value.trim()) front.replaceChildren();
});
