import AxeBuilder from "@axe-core/playwright";
import { test, expect, asInes, cell, openBatch, views, holds, sizes, weigher } from "./ulpa.js";

test.use({ own: "looks" }); // what is advised on paper hangs on what others have dosed

// Each page is opened once for all that is asked of pages: what the browser complains of, what it
// weighs, accessibility, every size, and paper.
test("every page: quiet, light, WCAG 2.2 AA, nothing sideways at three sizes, nothing from outside, usable on paper", async ({
  page,
  baseURL,
}) => {
  test.setTimeout(600_000);
  const outside = [],
    said = [];
  page.on("request", (r) => {
    if (!r.url().startsWith(baseURL) && !r.url().startsWith("data:")) outside.push(r.url());
  });
  page.on("console", (m) => {
    if (/error|warning/.test(m.type())) said.push(`${page.url()} ${m.text()}`);
  });
  page.on("pageerror", (e) => said.push(`${page.url()} ${e}`));
  await page.goto("/sign-in?school=ferrywharf");
  const found = await check(page, "sign-in");
  await page.context().clearCookies();
  await asInes(page);
  const all = await views(page),
    { weigh } = await weigher(page);
  let heaviest = 0;
  for (const [name, path] of Object.entries(all)) {
    await page.setViewportSize({ width: 1280, height: 800 });
    const weight = await weigh(() => page.goto(path));
    heaviest = Math.max(heaviest, weight);
    expect(weight, path).toBeLessThan(30 * 1024);
    expect(weight, path + " came from nowhere").toBeGreaterThan(500);
    for (const [width, height] of sizes) {
      await page.setViewportSize({ width, height });
      await holds(page, `${name} at ${width}`);
      if (width === 1280 || (width === 390 && ["round", "tray", "tank", "move"].includes(name)))
        found.push(...(await check(page, `${name} at ${width}`)));
    }
    await page.emulateMedia({ media: "print" });
    await page.setViewportSize({ width: 720, height: 1000 });
    const wide = await page.evaluate(() => document.documentElement.scrollWidth - innerWidth);
    expect(wide, `${name} on paper`).toBeLessThanOrEqual(0);
    expect(
      await page.locator(".bar:visible, .walk:visible, .btn:visible").count(),
      `${name} has nothing to press`,
    ).toBe(0);
    await page.emulateMedia({ media: "screen" });
  }
  console.log(`# pages seen again weigh at most ${(heaviest / 1024).toFixed(1)} KB`);
  await page.request.post("/units", { form: { system: "us", scale: "ppm500" } }); // longer words
  for (const name of ["round", "batch", "tray", "tower", "solution", "tank", "sum", "recipe"]) {
    await page.goto(all[name]);
    await expect(page.locator('.me input[name="system"][value="us"]')).toBeChecked();
    for (const [width, height] of sizes) {
      await page.setViewportSize({ width, height });
      await holds(page, `${name} at ${width} in US units`);
    }
  }
  await page.request.post("/units", { form: { system: "metric", scale: "ms" } });
  expect(found).toEqual([]);
  expect(outside).toEqual([]);
  expect(said).toEqual([]);
});

async function check(page, name) {
  // Of what stands many times beside itself (rows of a list, cells of a tray) four are looked at.
  await page.evaluate(() => {
    for (const x of document.querySelectorAll("body *")) {
      const seen = {};
      for (const kid of x.children) {
        const like = kid.tagName + kid.getAttribute("class");
        seen[like] = (seen[like] ?? 0) + 1;
        kid.toggleAttribute("data-alike", seen[like] > 4);
      }
    }
  });
  // There are no frames, whose sake a second page would be opened for each look; and
  // what is in order need not be told.
  const { violations } = await new AxeBuilder({ page })
    .exclude("[data-alike]")
    .options({ resultTypes: ["violations"] })
    .setLegacyMode(true)
    .withTags(["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa", "best-practice"])
    .analyze();
  return violations.map(
    (v) =>
      `${name}: ${v.id} ${v.nodes
        .slice(0, 3)
        .map((n) => n.html.slice(0, 160))
        .join(" | ")}`,
  );
}

test("the whole flow by keyboard", async ({ page }) => {
  await asInes(page);
  await page.keyboard.press("?");
  await expect(page.getByRole("dialog")).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(page.getByRole("dialog")).toBeHidden();
  await page.keyboard.press("g");
  await page.keyboard.press("n");
  await expect(page).toHaveURL(/nursery/);
  await page.waitForLoadState(); // before that nobody listens to keys
  await page.keyboard.press("/");
  await expect(page.getByRole("searchbox")).toBeFocused();
  await page.keyboard.type("damping off");
  await page.keyboard.press("Enter");
  await expect(page.locator("#hits")).toContainText("damping off");
  await openBatch(page, "PAK-01");
  await page.getByRole("link", { name: "Move plants" }).focus();
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(/move/);
  await cell(page, "D1").focus();
  await page.keyboard.press("Space");
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("Enter");
  await expect(page.getByText("20 chosen").first()).toBeVisible();
  await expect(cell(page, "E1")).toHaveAttribute("aria-selected", "false");
});

test("what matters is on paper", async ({ page }) => {
  await asInes(page);
  await page.emulateMedia({ media: "print" });
  await expect(page.getByText(/The whole round, Thu 18 March/)).toBeVisible();
  await expect(page.locator(".print-only")).toContainText("Move PAK-01");
  await expect(page.locator(".bar")).toBeHidden();
  await page.emulateMedia({ media: "screen" });
  const all = await views(page);
  await page.emulateMedia({ media: "print" });
  await page.goto(all.tray);
  await expect(page.locator(".grid")).toBeVisible();
  await expect(page.locator(".legend")).toContainText("BAS-02");
  await expect(page.locator(".tools")).toBeHidden();
  await page.goto(all.tank); // advice goes to the tank with its cautions
  await expect(page.locator(".judge")).toContainText("Pour acid into water");
  await page.goto(all.hardening); // the ramp to its last day, and the notes
  await expect(page.locator(".judge .entry").first()).toBeVisible();
});
