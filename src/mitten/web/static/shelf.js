// A design file may be dropped anywhere on the shelf: it goes the way of a chosen one.
const input = () => document.getElementById("design-file");

document.addEventListener("dragover", (event) => {
  if (!input() || ![...event.dataTransfer.types].includes("Files")) return;
  event.preventDefault();
  document.body.classList.add("dropping");
});

document.addEventListener("dragleave", (event) => {
  if (!event.relatedTarget) document.body.classList.remove("dropping");
});

document.addEventListener("drop", (event) => {
  document.body.classList.remove("dropping");
  if (!input() || event.dataTransfer.files.length === 0) return;
  event.preventDefault();
  input().files = event.dataTransfer.files;
  input().form.requestSubmit();
});

// A select marked so sends its form as soon as it is changed.
document.addEventListener("change", (event) => {
  if (event.target.matches("[data-submits]")) event.target.form.requestSubmit();
});

document.addEventListener("click", (event) => {
  if (event.target.id === "print") window.print();
});
