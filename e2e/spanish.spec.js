import { readFileSync } from "node:fs";
import { test, expect, asInes, views, holds, sizes } from "./ulpa.js";

const { words } = JSON.parse(readFileSync(new URL("../internal/base/words/es.json", import.meta.url)));
// English texts that are said otherwise in Spanish: alone, and those long enough to be told in a sentence.
const english = Object.entries(words)
  .filter(([en, es]) => en !== es && !en.includes("%"))
  .map(([en]) => en.split("##")[0].trim());
const alone = english.filter((w) => !Object.values(words).includes(w));
const long = english.filter((w) => w.split(" ").length > 2);

// What stands on the page in English.
async function leftovers(page) {
  return page.evaluate(
    ({ alone, long }) => {
      const known = new Set(alone);
      for (const place of document.querySelectorAll(".walk-name")) known.delete(place.textContent); // what people call their places
      const left = [];
      const walk = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
      while (walk.nextNode()) {
        const n = walk.currentNode,
          text = n.data.replace(/\s+/g, " ").trim();
        if (!text || n.parentElement.closest("script, style, kbd, [lang]:not(html)")) continue;
        if (known.has(text) || long.some((w) => text.includes(w))) left.push(text);
      }
      for (const el of document.querySelectorAll("[aria-label], [placeholder], [title]"))
        for (const a of ["aria-label", "placeholder", "title"])
          if (known.has(el.getAttribute(a))) left.push(el.getAttribute(a));
      return [...new Set(left)];
    },
    { alone, long },
  );
}

// What does not fit where it stands.
async function cutOff(page) {
  return page.evaluate(() =>
    [
      ...document.querySelectorAll(
        "button, .btn, .areas a, h1, h2, h3, label, th, td, dt, dd, p, li, summary, legend, .when",
      ),
    ]
      .filter(
        (el) =>
          el.checkVisibility() &&
          !el.closest(".visually-hidden, .skip") &&
          getComputedStyle(el).overflowX !== "visible" &&
          el.scrollWidth > el.clientWidth + 1,
      )
      .map((el) => "cut off: " + el.textContent.trim().slice(0, 60)),
  );
}

test("every main view in Spanish, at three sizes: no English of ours, nothing cut off", async ({ page }) => {
  test.setTimeout(600_000);
  await page.goto("/sign-in?school=ferrywharf");
  await page.getByRole("link", { name: "Español" }).click();
  await expect(page.getByRole("heading", { name: "¿Qué equipo?" })).toBeVisible();
  expect(await leftovers(page)).toEqual([]);
  await page.context().clearCookies();
  await asInes(page);
  const all = await views(page);
  await page.locator(".me summary").click();
  await page.getByLabel("Language").selectOption("es");
  await page.getByRole("button", { name: "Use these" }).click();
  await expect(page.locator("html")).toHaveAttribute("lang", "es");
  const found = [];
  for (const [name, path] of Object.entries(all)) {
    await page.setViewportSize({ width: 1280, height: 800 });
    await page.goto(path);
    found.push(...(await leftovers(page)).map((t) => `${name}: ${t}`));
    for (const [width, height] of sizes) {
      await page.setViewportSize({ width, height });
      await holds(page, `${name} at ${width} in Spanish`);
      found.push(...(await cutOff(page)).map((t) => `${name} at ${width}: ${t}`));
    }
  }
  expect(found).toEqual([]);

  // Written in Spanish, with a comma; read as the same figure in English.
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.goto(all.tank);
  await page.getByLabel("pH", { exact: true }).first().fill("6,3");
  await page.getByRole("button", { name: "Guardar", exact: true }).click();
  await expect(page.getByText("Lectura guardada.")).toBeVisible();
  await expect(page.locator(".judge .entries")).toContainText("Midió pH 6,3");
  await page.goto("/notebook?q=Midió");
  await expect(page.locator(".entry").first()).toContainText("Midió pH 6,3");
  await page.request.post("/units", { form: { system: "metric", scale: "ms", language: "en" } });
  await page.goto("/notebook");
  await expect(page.locator(".entry").first()).toContainText("Read pH 6.3");
});
