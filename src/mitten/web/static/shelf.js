// A design file may be dropped anywhere on the shelf: it goes the way of a chosen one.
// This file is no module, so that it listens before the page is there: what is dropped at once counts too.

const designFile = () => /** @type {HTMLInputElement | null} */ (document.getElementById("design-file"));

document.addEventListener("dragover", (event) => {
  if (!designFile() || !event.dataTransfer?.types.includes("Files")) return;
  event.preventDefault();
  document.body.classList.add("dropping");
});

document.addEventListener("dragleave", (event) => {
  if (!event.relatedTarget) document.body.classList.remove("dropping");
});

document.addEventListener("drop", (event) => {
  document.body.classList.remove("dropping");
  const [input, files] = [designFile(), event.dataTransfer?.files];
  if (!input || !files?.length) return;
  event.preventDefault();
  input.files = files;
  input.form?.requestSubmit();
});

// A select marked so sends its form as soon as it is changed.
document.addEventListener("change", ({ target }) => {
  if (target instanceof HTMLSelectElement && target.matches("[data-submits]")) target.form?.requestSubmit();
});

document.addEventListener("click", ({ target }) => {
  if (target instanceof Element && target.id === "print") window.print();
});
