// What makes the pages quicker to use: keys, drafts that outlive a lost
// connection, and saying plainly when a save did not arrive. Without this file
// every form still works.
document.documentElement.classList.add("js");
const unsaved = () => document.getElementById("unsaved");

function say(text) {
  const t = unsaved();
  t.textContent = text;
  t.hidden = !text;
}

// Drafts: what was typed is kept in this browser until it is stored.
const key = (form) => "ulpa-draft:" + form.dataset.draft;
function keep(form) {
  const values = {};
  for (const el of form.elements) {
    if (
      !el.name ||
      el.type === "password" ||
      el.type === "file" ||
      ["seen", "units", "back"].includes(el.name)
    )
      continue;
    if (el.type === "hidden" && el.name !== "id") continue;
    if ((el.type === "radio" || el.type === "checkbox") && !el.checked)
      continue;
    values[el.name] = el.value;
  }
  try {
    localStorage.setItem(key(form), JSON.stringify({ at: Date.now(), values }));
  } catch {
    /* full or forbidden: the form still holds it */
  }
}
function restore(form) {
  let draft;
  try {
    draft = JSON.parse(localStorage.getItem(key(form)) || "null");
  } catch {
    return;
  }
  // What the server has just sent back stands, with the id that it gave the form.
  if (form.querySelector("[aria-invalid], .refused")) {
    keep(form);
    return;
  }
  if (!draft || Date.now() - draft.at > 12 * 3600 * 1000) return;
  for (const [name, value] of Object.entries(draft.values)) {
    const el = form.elements[name];
    if (!el || el instanceof RadioNodeList) continue;
    if (name === "id" || !el.value) el.value = value;
  }
  form.dispatchEvent(new CustomEvent("ulpa:restored"));
}
const forget = (form) => {
  try {
    localStorage.removeItem(key(form));
  } catch {
    /* nothing to forget */
  }
};

function ready(root) {
  for (const form of root.querySelectorAll("form[data-draft]")) {
    restore(form);
    form.addEventListener("input", () => keep(form));
    form.addEventListener("ulpa:draft", () => keep(form));
  }
  for (const a of root.querySelectorAll("[data-open]"))
    a.addEventListener("click", () => {
      document.getElementById(a.dataset.open).open = true;
    });
  for (const d of root.querySelectorAll("[data-asks]")) d.classList.add("asks");
}

document.addEventListener("change", (e) => {
  if (e.target.matches("[data-ask]"))
    e.target.form.querySelector("[data-asks]")?.click();
  if (e.target.matches("input[data-shrink]")) shrink(e.target);
});

// A tablet's picture is scaled down before it is sent; the house does it too, so that nothing
// rests on this.
async function shrink(el) {
  const file = el.files[0];
  if (!file || file.size < 400_000) return;
  try {
    const full = await createImageBitmap(file, {
      imageOrientation: "from-image",
    });
    const k = Math.min(
      1,
      el.dataset.shrink / Math.max(full.width, full.height),
    );
    const canvas = Object.assign(document.createElement("canvas"), {
      width: full.width * k,
      height: full.height * k,
    });
    canvas.getContext("2d").drawImage(full, 0, 0, canvas.width, canvas.height);
    const blob = await new Promise((r) => canvas.toBlob(r, "image/jpeg", 0.85));
    const one = new DataTransfer();
    one.items.add(new File([blob], "picture.jpg", { type: "image/jpeg" }));
    if (el.files[0] === file) el.files = one.files;
  } catch {
    /* it goes as it is */
  }
}

// A save that did not arrive: the form stays as it is, and this says so.
document.addEventListener("htmx:error", () =>
  say(document.body.dataset.wordsUnreachable),
);
// One save at a time: while it is on its way nothing can be typed that its answer
// would take away. When there is none, one goes on where one was.
let held = null;
function busy(on, source) {
  document.getElementById("page").setAttribute("aria-busy", String(on));
  if (on && source?.matches?.("form[method=post]:not([data-live])")) {
    held = {
      main: document.getElementById("main"),
      focus: document.activeElement,
    };
    held.main.inert = true;
  } else if (!on && held) {
    held.main.inert = false;
    if (held.focus?.isConnected && document.activeElement === document.body)
      held.focus.focus({ preventScroll: true });
    held = null;
  }
}
document.addEventListener("htmx:before:request", (e) => {
  say("");
  busy(true, e.detail.ctx?.sourceElement);
});
document.addEventListener("htmx:finally:request", () => busy(false));
document.addEventListener("htmx:response:error", (e) => {
  const status =
    e.detail.ctx?.response?.status ?? e.detail.ctx?.response?.raw?.status;
  if (status >= 500) say(document.body.dataset.wordsRefused);
});
// A page that only says "not now" must not take the form away.
document.addEventListener("htmx:before:swap", (e) => {
  const r = e.detail.ctx?.response;
  const status = r?.status ?? r?.raw?.status;
  if (status >= 500) e.preventDefault();
});
document.addEventListener("htmx:after:request", (e) => {
  const form = e.detail.ctx?.sourceElement;
  if (!form?.matches?.("form")) return;
  const r = e.detail.ctx?.response;
  const status = r?.status ?? r?.raw?.status;
  if (form.dataset.draft && status < 400) forget(form);
});
document.addEventListener("htmx:after:swap", (e) => {
  const page = document.getElementById("page");
  if (e.detail.ctx?.sourceElement?.matches?.("[data-asks], [data-live]")) {
    return; // only an answer came: the fields stay as they are, and so does the focus
  }
  ready(page);
  const title = document.querySelector("#main h1");
  if (title) document.title = title.textContent.trim() + " · Ulpa";
  const to =
    page.querySelector("[aria-invalid], .refused") ||
    (document.activeElement === document.body && page.querySelector(".flash"));
  if (to?.matches(".refused")) to.tabIndex = -1;
  if (to?.matches("[aria-invalid], .refused")) {
    to.focus({ preventScroll: true });
    to.scrollIntoView({ block: "center" });
  } else if (document.activeElement === document.body)
    document.getElementById("main").focus({ preventScroll: true });
});

document.addEventListener("click", (e) => {
  if (e.target.closest("[data-print]")) print();
});

// What is found is walked by the arrows, and goes when it is left.
document.addEventListener("keydown", (e) => {
  const box = e.target.closest(".find, .searchrow");
  if (!box) return;
  const found = document.getElementById("found");
  if (e.key === "Escape" && found) {
    found.replaceChildren();
    document.getElementById("find").value = "";
    return;
  }
  if (e.key !== "ArrowDown" && e.key !== "ArrowUp") return;
  const links = [
    ...((box.matches(".find")
      ? found
      : document.getElementById("hits")
    )?.querySelectorAll("a") ?? []),
  ];
  const at =
    links.indexOf(document.activeElement) + (e.key === "ArrowDown" ? 1 : -1);
  if (!links.length || at < -1) return;
  e.preventDefault();
  (links[at] ?? box.querySelector("input[type=search]")).focus();
});
document.addEventListener("focusin", (e) => {
  if (!e.target.closest(".find"))
    document.getElementById("found")?.replaceChildren();
});

// Keys.
let going = false;
document.addEventListener("keydown", (e) => {
  if (
    e.ctrlKey ||
    e.metaKey ||
    e.altKey ||
    e.target.closest("input, textarea, select") ||
    document.querySelector("dialog[open]")
  )
    return;
  if (going) {
    going = false;
    const a = document.querySelector(`.areas a[data-key="${e.key}"]`);
    if (a) {
      e.preventDefault();
      a.click();
    }
    return;
  }
  if (e.key === "/") {
    const f = document.getElementById("q") || document.getElementById("find");
    if (f) {
      e.preventDefault();
      f.focus();
    }
  } else if (e.key === "g") going = true;
  else if (e.key === "?") document.getElementById("keys").showModal();
});
ready(document); // a module runs when the page is there

// What is asked only for some of what another field says is shown only then.
function suit(form) {
  for (const part of form.querySelectorAll("[data-for]")) {
    const [name, ...values] = part.dataset.for.split(" "),
      other = form.elements[name];
    if (other)
      part.hidden =
        !part.querySelector(".wrong") &&
        !values.includes(
          other.type === "checkbox"
            ? other.checked
              ? "on"
              : "off"
            : other.value,
        );
  }
}
const suitAll = () => {
  for (const part of document.querySelectorAll("form:has([data-for])"))
    suit(part);
};
document.addEventListener("change", (e) => {
  if (e.target.form) suit(e.target.form);
});
document.addEventListener("htmx:after:swap", suitAll);
suitAll();
