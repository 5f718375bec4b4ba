// Trays and towers: tap, draw across, or walk with the arrows. What is chosen
// goes into plain inputs of the same form, so the server sees one thing only.
import { name, parse, put, raised, wish } from "./cells.mjs";

const letters = { s: "sprouted", t: "thinned", e: "empty", x: "lost" };
const lists = ["sprouted", "thinned", "empty", "lost", "sown"];

class Grid extends HTMLElement {
  connectedCallback() {
    if (this.svg) return; // moved, not made
    this.svg = this.querySelector("svg");
    this.mode = this.dataset.grid;
    this.form = this.closest("form");
    this.cells = [...this.querySelectorAll(".cell")];
    this.by = new Map(this.cells.map((c) => [c.dataset.cell, c]));
    if (this.cells.length) this.cells[0].setAttribute("tabindex", "0");
    this.svg.addEventListener("keydown", (e) => this.key(e));
    if (this.mode === "show" || (this.mode === "mark" && !this.form)) return; // an empty tray has nothing to mark
    this.svg.addEventListener("pointerdown", (e) => this.down(e));
    this.svg.addEventListener("click", (e) => {
      const c = this.pushed && e.pointerType !== "mouse" && this.at(e);
      if (c && this.svg.contains(c)) this.set(c, this.wish(c));
    });
    this.svg.addEventListener("pointermove", (e) => this.across(e));
    this.svg.addEventListener("pointerup", () => {
      this.drawing = null;
    });
    this.svg.addEventListener("pointercancel", () => {
      this.drawing = null;
    });
    for (const i of this.inputs())
      i.addEventListener("input", () => this.show());
    this.form?.addEventListener("ulpa:restored", () => this.show());
    this.show();
  }
  inputs() {
    if (this.mode === "pick")
      return [document.getElementById(this.dataset.input)].filter(Boolean);
    return lists
      .map((n) => this.form.querySelector(`input[type=text][name="${n}"]`))
      .filter(Boolean);
  }
  tool() {
    return this.form.querySelector("input[name=tool]:checked").value;
  }
  // A state in the reader's language, as the server says it.
  word(state) {
    return (
      this.dataset["words" + state[0].toUpperCase() + state.slice(1)] ?? state
    );
  }
  // What the inputs hold, drawn.
  show() {
    if (this.mode === "pick") {
      const picked = new Set(parse(this.inputs()[0]?.value || ""));
      for (const c of this.cells) {
        const chosen = "open" in c.dataset && picked.has(c.dataset.cell);
        c.setAttribute("aria-selected", String(chosen));
        if (c.dataset.state === "free" || c.dataset.state === "kept")
          c.querySelector("use").setAttribute(
            "href",
            chosen ? "#s-sown" : "#s-free",
          );
      }
      const n = this.cells.filter(
        (c) => c.getAttribute("aria-selected") === "true",
      ).length;
      for (const p of document.querySelectorAll(
        `[data-count-of="${this.dataset.input}"]`,
      ))
        p.textContent = p.dataset.wordsChosen.replace("%d", n);
      return;
    }
    const state = new Map();
    for (const i of this.inputs())
      for (const n of parse(i.value)) state.set(n, i.name);
    for (const c of this.cells) {
      const s = state.get(c.dataset.cell) || c.dataset.was;
      c.classList.toggle("changed", s !== c.dataset.was);
      if (s === c.dataset.state) continue;
      c.dataset.state = s;
      c.querySelector("use").setAttribute("href", "#s-" + s);
      c.setAttribute(
        "aria-label",
        `${c.dataset.cell}, ${c.dataset.code}, ${this.word(s)}`,
      );
    }
    for (const up of this.form.querySelectorAll("[data-up]")) {
      const more = raised(
        this.cells
          .filter((c) => c.dataset.code === up.dataset.up)
          .map((c) => ({ was: c.dataset.was, is: c.dataset.state })),
      );
      const b = up.querySelector("b");
      b.dataset.base ??= b.textContent;
      b.textContent = String(Number(b.dataset.base) + more);
    }
  }
  // set puts a cell into a list, or takes it out of all of them.
  set(cell, to) {
    if (!("open" in cell.dataset)) return;
    const n = cell.dataset.cell;
    for (const i of this.inputs()) {
      i.value = put(
        i.value,
        n,
        i.name === to || (this.mode === "pick" && to !== ""),
      );
    }
    this.form?.dispatchEvent(new CustomEvent("ulpa:draft"));
    this.show();
  }
  // What a touch on this cell would do.
  wish(cell) {
    if (this.mode === "pick")
      return cell.getAttribute("aria-selected") === "true" ? "" : "picked";
    return wish(this.tool(), cell.dataset.state, cell.dataset.was);
  }
  at(e) {
    return document.elementFromPoint(e.clientX, e.clientY)?.closest(".cell");
  }
  // On a phone the drawing is wider than the screen: a finger pushes it, and a tap marks.
  get pushed() {
    return matchMedia("(max-width: 700px)").matches;
  }
  down(e) {
    if (this.pushed && e.pointerType !== "mouse") return;
    const c = this.at(e);
    if (!c || !this.svg.contains(c)) return;
    e.preventDefault();
    c.focus();
    this.drawing = { wish: this.wish(c), seen: new Set([c]) };
    this.set(c, this.drawing.wish);
  }
  across(e) {
    if (!this.drawing) return;
    const c = this.at(e);
    if (!c || !this.svg.contains(c) || this.drawing.seen.has(c)) return;
    this.drawing.seen.add(c);
    this.set(c, this.drawing.wish);
  }
  key(e) {
    const c = e.target.closest(".cell");
    if (!c || e.ctrlKey || e.metaKey || e.altKey) return;
    const step = {
      ArrowUp: [-1, 0],
      ArrowDown: [1, 0],
      ArrowLeft: [0, -1],
      ArrowRight: [0, 1],
    }[e.key];
    if (step) {
      const next = this.by.get(
        name(Number(c.dataset.row) + step[0], Number(c.dataset.col) + step[1]),
      );
      if (next) {
        c.setAttribute("tabindex", "-1");
        next.setAttribute("tabindex", "0");
        next.focus();
      }
      e.preventDefault();
    } else if (this.mode !== "show" && (e.key === " " || e.key === "Enter")) {
      this.set(c, this.wish(c));
      e.preventDefault();
    } else if (this.mode === "mark" && letters[e.key]) {
      this.set(c, c.dataset.was === letters[e.key] ? "" : letters[e.key]);
      e.preventDefault();
      e.stopPropagation();
    }
  }
  // Free ports from the bottom up, as many as plants are chosen.
  // The tiers that are named come first, in their order; without any, it is from the bottom.
  // Of named columns, a board of them, those go to what is chosen that are still without a place.
  fill(tiers, columns) {
    let n = 0;
    for (const i of this.form.querySelectorAll("input[name^=from_]"))
      n += i.name.startsWith("from_stand_")
        ? Number(i.value) || 0
        : parse(i.value).length;
    n -= parse(this.form.querySelector("input[name=lost]")?.value || "").length;
    const rank = (c) => (tiers ? tiers.indexOf(c.dataset.row) : -c.dataset.row);
    const up = [...this.cells]
      .filter((c) => !columns || columns.includes(c.dataset.col))
      .sort((a, b) => rank(a) - rank(b) || a.dataset.col - b.dataset.col);
    const had = columns
      ? parse(this.inputs()[0].value)
          .map((name) => this.by.get(name))
          .filter(Boolean)
      : [];
    this.take(
      n,
      had.length < n ? [...had, ...up.filter((c) => !had.includes(c))] : up,
    );
  }
  take(n, inOrder) {
    const open = inOrder.filter((c) => "open" in c.dataset);
    this.inputs()[0].value = open
      .slice(0, Math.max(0, n))
      .map((c) => c.dataset.cell)
      .join(", ");
    this.form.dispatchEvent(new CustomEvent("ulpa:draft"));
    this.show();
  }
}

customElements.define("ulpa-grid", Grid);

// Buttons that choose for somebody, wherever they stand.
document.addEventListener("click", (e) => {
  const b = e.target.closest("[data-fill], [data-take]");
  const grid =
    b &&
    document
      .getElementById(b.dataset.fill || b.dataset.take)
      ?.closest("ulpa-grid");
  if (!grid) return;
  if (b.dataset.fill)
    grid.fill(b.dataset.tiers?.split(" "), b.dataset.columns?.split(" "));
  else grid.take(Number(b.dataset.n), grid.cells);
});
