// A number pad for wet hands, where fingers are what points: it types into the
// field that was touched last. Without this file the tablet's own keyboard comes.
class Pad extends HTMLElement {
  connectedCallback() {
    const form = this.closest("form");
    const fields = [...form.querySelectorAll("input[inputmode=decimal]")];
    if (!fields.length || !matchMedia("(pointer: coarse)").matches) return;
    let at = fields.find((f) => f.matches("[aria-invalid]")) || fields[0];
    for (const f of fields) {
      f.inputMode = "none";
      f.addEventListener("focus", () => {
        at = f;
      });
    }
    this.hidden = false;
    form.classList.add("with-pad");
    this.addEventListener("pointerdown", (e) => e.preventDefault()); // the field keeps the focus
    this.addEventListener("click", (e) => {
      const key = e.target.closest("[data-key]")?.dataset.key;
      if (!key) return;
      if (key === "next") at = fields[(fields.indexOf(at) + 1) % fields.length];
      else {
        at.value = key === "back" ? at.value.slice(0, -1) : at.value + key;
        at.dispatchEvent(new Event("input", { bubbles: true }));
      }
      if (e.detail) at.focus({ preventScroll: true }); // pressed, and not by a key
    });
  }
}

customElements.define("ulpa-pad", Pad);
