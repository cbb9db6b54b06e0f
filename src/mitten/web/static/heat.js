// While a slider moves, its number follows and the drawing with it; nothing is stored until it is released.
// One request is in flight at a time, and only the latest waiting one follows it.
let busy = false;
let waiting = null;

async function preview(form) {
  if (busy) {
    waiting = form;
    return;
  }
  busy = true;
  try {
    const answer = await fetch(form.dataset.preview, { method: "POST", body: new URLSearchParams(new FormData(form)) });
    const drawing = document.getElementById("drawing");
    if (answer.ok && drawing && form.isConnected) drawing.innerHTML = await answer.text();
  } finally {
    busy = false;
    const next = waiting;
    waiting = null;
    if (next && next.isConnected) preview(next);
  }
}

document.addEventListener("input", (event) => {
  const slider = event.target;
  if (slider.type !== "range" || !slider.dataset.for) return;
  document.getElementById(slider.dataset.for).value = slider.value;
  preview(slider.form);
});
