// Trays and towers: tap, draw across, or walk with the arrows. What is chosen
// goes into plain inputs of the same form, so the server sees one thing only.
(() => {
  "use strict";
  const letters = { s: "sprouted", t: "thinned", e: "empty", x: "lost" };
  const lists = ["sprouted", "thinned", "empty", "lost", "sown"];

  // "A1-B3, C2" as names, in the drawing's bounds.
  function parse(text) {
    const out = [];
    for (const part of text.toUpperCase().split(/[\s,;]+/)) {
      const m = /^([A-Z]{1,2})(\d+)(?:-([A-Z]{1,2})(\d+))?$/.exec(part);
      if (!m) continue;
      const row = (s) => [...s].reduce((n, c) => n * 26 + c.charCodeAt(0) - 64, 0) - 1;
      const r = [row(m[1]), row(m[3] || m[1])], c = [Number(m[2]), Number(m[4] || m[2])];
      if (Math.abs(r[0] - r[1]) > 60 || Math.abs(c[0] - c[1]) > 60) continue;
      for (let i = Math.min(...r); i <= Math.max(...r); i++)
        for (let j = Math.min(...c); j <= Math.max(...c); j++) out.push(name(i, j));
    }
    return out;
  }
  function name(row, col) {
    return (row < 26 ? "" : String.fromCharCode(64 + Math.floor(row / 26))) + String.fromCharCode(65 + (row % 26)) + col;
  }

  class Grid {
    constructor(wrap) {
      this.wrap = wrap;
      this.svg = wrap.querySelector("svg");
      this.mode = wrap.dataset.grid;
      this.form = wrap.closest("form");
      this.cells = [...wrap.querySelectorAll(".cell")];
      this.by = new Map(this.cells.map((c) => [c.dataset.cell, c]));
      if (this.cells.length) this.cells[0].setAttribute("tabindex", "0");
      this.svg.addEventListener("keydown", (e) => this.key(e));
      if (this.mode === "show") return;
      this.svg.addEventListener("pointerdown", (e) => this.down(e));
      this.svg.addEventListener("pointermove", (e) => this.across(e));
      this.svg.addEventListener("pointerup", () => { this.drawing = null; });
      this.svg.addEventListener("pointercancel", () => { this.drawing = null; });
      for (const i of this.inputs()) i.addEventListener("input", () => this.show());
      this.show();
    }
    inputs() {
      if (this.mode === "pick") return [document.getElementById(this.wrap.dataset.input)].filter(Boolean);
      return lists.map((n) => this.form.querySelector(`input[type=text][name="${n}"]`)).filter(Boolean);
    }
    tool() { return this.form.querySelector("input[name=tool]:checked").value; }
    // What the inputs hold, drawn.
    show() {
      if (this.mode === "pick") {
        const picked = new Set(parse(this.inputs()[0]?.value || ""));
        for (const c of this.cells) {
          const chosen = "open" in c.dataset && picked.has(c.dataset.cell);
          c.setAttribute("aria-selected", String(chosen));
          if (c.dataset.state === "free") c.querySelector("use").setAttribute("href", chosen ? "#s-sown" : "#s-free");
        }
        const n = this.cells.filter((c) => c.getAttribute("aria-selected") === "true").length;
        for (const p of document.querySelectorAll(`[data-count-of="${this.wrap.dataset.input}"]`)) p.textContent = `${n} chosen`;
        return;
      }
      const state = new Map();
      for (const i of this.inputs()) for (const n of parse(i.value)) state.set(n, i.name);
      for (const c of this.cells) {
        const s = state.get(c.dataset.cell) || c.dataset.was;
        c.classList.toggle("changed", s !== c.dataset.was);
        if (s === c.dataset.state) continue;
        c.dataset.state = s;
        c.querySelector("use").setAttribute("href", "#s-" + s);
        c.setAttribute("aria-label", `${c.dataset.cell}, ${c.dataset.code}, ${s}`);
      }
      const alive = (s) => s === "sprouted" || s === "thinned";
      for (const up of this.form.querySelectorAll("[data-up]")) {
        const mine = this.cells.filter((c) => c.dataset.code === up.dataset.up);
        const more = mine.filter((c) => alive(c.dataset.state) && ["sown", "empty"].includes(c.dataset.was)).length - mine.filter((c) => alive(c.dataset.was) && ["sown", "empty"].includes(c.dataset.state)).length;
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
        const names = parse(i.value).filter((x) => x !== n);
        if (i.name === to || (this.mode === "pick" && to)) names.push(n);
        i.value = names.join(", ");
      }
      this.form?.dispatchEvent(new CustomEvent("ulpa:draft"));
      this.show();
    }
    // What a touch on this cell would do.
    wish(cell) {
      if (this.mode === "pick") return cell.getAttribute("aria-selected") === "true" ? "" : "picked";
      const t = this.tool();
      return cell.dataset.state === t ? "" : t === cell.dataset.was ? "" : t;
    }
    at(e) { return document.elementFromPoint(e.clientX, e.clientY)?.closest(".cell"); }
    down(e) {
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
      const step = { ArrowUp: [-1, 0], ArrowDown: [1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1] }[e.key];
      if (step) {
        const next = this.by.get(name(Number(c.dataset.row) + step[0], Number(c.dataset.col) + step[1] + 1));
        if (next) { c.setAttribute("tabindex", "-1"); next.setAttribute("tabindex", "0"); next.focus(); }
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
    fill() {
      let n = 0;
      for (const i of this.form.querySelectorAll("input[name^=from_]"))
        n += i.name.startsWith("from_stand_") ? Number(i.value) || 0 : parse(i.value).length;
      n -= parse(this.form.querySelector("input[name=lost]")?.value || "").length;
      const up = [...this.cells].sort((a, b) => b.dataset.row - a.dataset.row || a.dataset.col - b.dataset.col);
      this.take(n, up);
    }
    take(n, inOrder) {
      const open = inOrder.filter((c) => "open" in c.dataset);
      this.inputs()[0].value = open.slice(0, Math.max(0, n)).map((c) => c.dataset.cell).join(", ");
      this.form.dispatchEvent(new CustomEvent("ulpa:draft"));
      this.show();
    }
  }

  window.ulpaGrids = (root) => {
    for (const w of root.querySelectorAll("[data-grid]")) {
      if (w.grid) continue;
      w.grid = new Grid(w);
    }
    const grid = (id) => document.getElementById(id).closest("[data-grid]").grid;
    const once = (b) => !b.wired && (b.wired = true);
    for (const b of root.querySelectorAll("[data-fill]"))
      if (once(b)) b.addEventListener("click", () => grid(b.dataset.fill).fill());
    for (const b of root.querySelectorAll("[data-take]"))
      if (once(b)) b.addEventListener("click", () => grid(b.dataset.take).take(Number(b.dataset.n), grid(b.dataset.take).cells));
  };
})();
