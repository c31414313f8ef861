/** printLists prints what is marked for it alone. */
export function printLists() {
  document.body.dataset.printing = "lists";
  window.addEventListener("afterprint", () => delete document.body.dataset.printing, { once: true });
  window.print();
}
