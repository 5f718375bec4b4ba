// A list in an order is drawn to another by its handles; the buttons beside them do the
// same by keys and without scripts.
let held = null,
  list = null;

function ready() {
  for (const li of document.querySelectorAll("[data-order] > li:not(.drawn)")) {
    li.classList.add("drawn");
    const handle = document.createElement("span");
    handle.className = "handle";
    handle.setAttribute("aria-hidden", "true");
    handle.textContent = "\u2261";
    li.prepend(handle);
  }
}

document.addEventListener("pointerdown", (e) => {
  const handle = e.target.closest?.("[data-order] .handle");
  if (!handle) return;
  e.preventDefault();
  held = handle.closest("li");
  list = held.parentElement;
  held.classList.add("held");
  handle.setPointerCapture(e.pointerId);
});
document.addEventListener("pointermove", (e) => {
  if (!held) return;
  const over = document
    .elementFromPoint(list.getBoundingClientRect().left + 60, e.clientY)
    ?.closest("li");
  if (!over || over === held || over.parentElement !== list) return;
  const { top, height } = over.getBoundingClientRect();
  if (e.clientY < top + height / 2) over.before(held);
  else over.after(held);
});
async function drop() {
  if (!held) return;
  held.classList.remove("held");
  const ids = [...list.children].map((li) => li.dataset.id).join(" "),
    to = list.dataset.order;
  held = null;
  const answer = await fetch(to, {
    method: "POST",
    body: new URLSearchParams({ ids }),
  }).catch(() => null);
  if (!answer?.ok) location.reload(); // what was kept stands there
}
document.addEventListener("pointerup", drop);
document.addEventListener("pointercancel", drop);
document.addEventListener("htmx:after:swap", ready);
ready();
