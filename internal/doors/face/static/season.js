// Bars of the season are drawn along, or moved by the arrow keys, to another day. What is
// wanted goes into a plain form, as from the batch's own.
const day = 86400000;
let held = null; // the bar that is moved: its link, from where, and by how many days

const figure = (a) => a.closest("[data-season]");
const bar = (e) => {
  const a = e.target.closest?.("[data-season] .barlink[data-batch]");
  return a || null;
};

function show(days) {
  const { a } = held,
    f = figure(a),
    svg = a.ownerSVGElement,
    words = f.querySelector(".moving");
  held.days = days;
  a.setAttribute("transform", `translate(${days * svg.dataset.day} 0)`);
  a.classList.toggle("held", days !== 0);
  const on = new Date(Date.parse(a.dataset.date) + days * day);
  held.on = on.toISOString().slice(0, 10);
  const said = on.toLocaleDateString(document.documentElement.lang, {
    weekday: "short",
    day: "numeric",
    month: "short",
    timeZone: "UTC",
  });
  words.textContent = f.dataset.words.replace("%s", said);
  words.hidden = days === 0;
}

function leave() {
  if (held) show(0);
  held = null;
}

function send() {
  const { a, days, on } = held,
    form = figure(a).querySelector("form");
  if (!days) return leave();
  form.elements.batch.value = a.dataset.batch;
  form.elements.stage.value = a.dataset.stage;
  form.elements.day.value = on;
  held = null;
  form.requestSubmit();
}

document.addEventListener("pointerdown", (e) => {
  const a = bar(e);
  if (!a || e.button) return;
  held = { a, x: e.clientX, days: 0, drawn: true };
});
document.addEventListener("pointermove", (e) => {
  if (!held?.drawn) return;
  const svg = held.a.ownerSVGElement;
  const scale = svg.viewBox.baseVal.width / svg.getBoundingClientRect().width;
  const days = Math.round(((e.clientX - held.x) * scale) / svg.dataset.day);
  if (days !== held.days) show(days);
});
document.addEventListener("pointerup", () => {
  if (held?.drawn) {
    held.drawn = false;
    held.moved = held.days !== 0;
    if (held.moved) send();
    else held = null;
  }
});
document.addEventListener("pointercancel", leave);
document.addEventListener("dragstart", (e) => {
  if (bar(e)) e.preventDefault();
});
document.addEventListener(
  "click",
  (e) => {
    if (bar(e)?.classList.contains("held")) e.preventDefault();
  },
  true,
);
document.addEventListener("keydown", (e) => {
  const a = bar(e);
  if (!a) return;
  const step = { ArrowLeft: -1, ArrowRight: 1 }[e.key];
  if (step) {
    e.preventDefault();
    if (held?.a !== a) {
      leave();
      held = { a, days: 0 };
    }
    show(held.days + step * (e.shiftKey ? 7 : 1));
  } else if (held?.a === a && held.days && e.key === "Enter") {
    e.preventDefault();
    send();
  } else if (e.key === "Escape") leave();
});
document.addEventListener("focusout", (e) => {
  if (held && !held.drawn && bar(e) === held.a) leave();
});
