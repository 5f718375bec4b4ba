import { test, expect, asInes, asCrew, openBatch } from "./ulpa.js";

const big = (page) => page.locator(".sumbig");

test("a sum answers while one types, keeps the focus, and its address carries it", async ({ page }) => {
  await asInes(page);
  await page.keyboard.press("g");
  await page.keyboard.press("u");
  await page.getByRole("link", { name: /How much acid or alkali/ }).click();
  await expect(page.getByText("Still example values")).toContainText("Alkalinity");
  const loads = [];
  page.on("framenavigated", (f) => loads.push(f.url()));
  await page.getByLabel("Volume").fill("45");
  await page.getByLabel("pH now").focus();
  await page.keyboard.press("ControlOrMeta+a");
  await page.keyboard.type("6.8");
  await expect(page.locator(".figures")).toContainText("First half");
  await expect(page).toHaveURL(/ph_now=6\.8/);
  await expect(page.getByLabel("pH now")).toBeFocused();
  await expect(page.getByText("Still example values")).not.toContainText("Volume");
  const said = await big(page).textContent();

  await page.getByLabel("pH now").fill("sour");
  await expect(page.getByText('"sour" is not a number')).toBeVisible();
  await expect(page.getByLabel("pH now")).toHaveAttribute("aria-invalid", "true");
  await expect(page.getByLabel("pH now")).toHaveValue("sour");
  await page.getByLabel("pH now").fill("6.8");
  await expect(big(page)).toHaveText(said);

  const link = await page.getByRole("link", { name: "Link to this calculation" }).getAttribute("href");
  await page.goto(link);
  await expect(big(page)).toHaveText(said);
  await expect(page.getByText("Adult only.", { exact: true })).toBeVisible();
  await page.getByText("Show the working").click();
  await expect(page.locator(".working table")).toBeVisible();

  await page.getByText("Units on this page").click();
  await page.getByLabel("Measures").selectOption("us");
  await expect(page.getByLabel("Volume")).toHaveValue(/^11\.88/);
  await expect(page.getByLabel("Temperature")).toHaveValue("77");
  await expect(big(page)).toHaveText(said);
});

test("rows are added as they fill up, and a refusal names its row", async ({ page }) => {
  await asInes(page);
  await page.goto("/sums/emergence");
  for (const [row, day, up] of [
    [4, "9", "27"],
    [5, "11", "28"],
  ]) {
    await page.getByLabel(`Day after sowing, row ${row}`).fill(day);
    await page.getByLabel(`Up so far, row ${row}`).fill(up);
  }
  await expect(page.getByLabel("Up so far, row 7")).toBeVisible();
  await expect(big(page)).toHaveText("93 % are up.");
  await page.getByLabel("Up so far, row 5").fill("12");
  await page.getByLabel("Up so far, row 5").blur();
  await expect(page.getByLabel("Up so far, row 5")).toHaveAttribute("aria-invalid", "true");
});

test("without scripts a sum answers on submit", async ({ browser, baseURL }) => {
  const context = await browser.newContext({ javaScriptEnabled: false, baseURL });
  const page = await context.newPage();
  await page.goto("/sign-in");
  await page.getByLabel("Name or address").fill("ines@ferrywharf.example");
  await page.getByLabel("Password").fill("tide-and-trellis");
  await page.getByRole("button", { name: "Sign in" }).click();
  await expect(page.getByRole("heading", { name: "Thursday’s round" })).toBeVisible();
  await page.goto("/sums/vessel");
  await page.getByLabel("Shape").selectOption("cylinder");
  await page.getByRole("button", { name: "Work it out" }).click();
  await page.getByLabel("Diameter").fill("20");
  await page.getByLabel("Depth").fill("15");
  await page.getByLabel("or litres").fill("");
  await page.getByRole("button", { name: "Work it out" }).click();
  await expect(big(page)).toHaveText("4.71 L at 15 cm.");
  await page.goto("/sums/frost");
  await page.getByLabel("Frost at or below").fill("2");
  await page.getByRole("button", { name: "Work it out" }).click();
  await expect(big(page)).toContainText("frost still follows");
  await context.close();
});

test("a tank’s sums open filled in, and what they come to is offered as what was done", async ({ page }) => {
  await asInes(page);
  await page.goto("/tanks");
  await page.locator(".work").getByRole("link", { name: "North tower" }).first().click();
  await page.getByRole("link", { name: "How much acid or alkali" }).click();
  await expect(page.getByText("Still example values")).toBeHidden();
  await expect(page.locator(".figures tr").filter({ hasText: "First half" })).toContainText("mL");
  await page.getByRole("link", { name: "Write it down for North tower" }).click();
  await expect(page.getByLabel("Acid or alkali")).not.toHaveValue("");
  expect(parseFloat(await page.getByLabel("Acid or alkali").inputValue())).toBeGreaterThan(0);
});

test("a schedule is planned, the round asks for it, and a crew may not plan", async ({ page, browser, baseURL }) => {
  await asInes(page);
  await openBatch(page, "LET-05");
  await page.getByRole("link", { name: "When to sow it again" }).click();
  await expect(big(page)).toContainText("Sow on");
  await page.getByLabel("Ready by").fill("2027-04-28");
  await expect(page.getByText("Ready on Wed 28 April")).toBeVisible();
  await page.getByLabel("Plants wanted").fill("30");
  await page.getByRole("button", { name: "Plan this sowing" }).click();
  await expect(page.locator(".planned")).toContainText("Lettuce, 30 wanted by Wed 28 Apr");
  await page.goto("/");
  await page.locator(".walk").getByRole("link", { name: "Nursery bench" }).click();
  await expect(page.locator(".task-do").filter({ hasText: "Sow lettuce, 30 plants wanted" })).toBeVisible();
  await page.goto("/nursery");
  await page.locator(".planned").getByRole("link").first().click();
  await expect(page.getByLabel("Plants wanted")).toHaveValue("30");
  await expect(page.locator("#judge")).toContainText("Chance");
  const tablet = await browser.newPage({ baseURL });
  await asCrew(tablet, "Dory", "1403");
  await tablet.goto("/sums/seed-rate");
  await expect(tablet.getByText("written down by a member of staff")).toBeVisible();
  await tablet.goto("/crops/lettuce");
  await expect(tablet.getByText("It wants pH")).toBeVisible();
  await expect(tablet.getByRole("link", { name: "change Sow at a depth of" })).toBeHidden();
  await tablet.close();
});

test("a school’s own value goes before the catalogue’s, and is shown beside it", async ({ page }) => {
  await asInes(page);
  await page.goto("/crops?crop=tower");
  await page.getByRole("link", { name: "Tatsoi" }).click();
  await expect(page.getByText("It germinates between")).toBeVisible();
  await page.getByRole("link", { name: "change Sow at a depth of" }).click();
  await page.getByLabel("Sow at a depth of").fill("40");
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByText("must be 0 to 12 cm")).toBeVisible();
  await expect(page.getByLabel("Sow at a depth of")).toHaveValue("40");
  await page.getByLabel("Sow at a depth of").fill("0.8");
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByText("yours; usual 0.5 cm")).toBeVisible();
  await page.getByRole("link", { name: "change Strength, growing" }).click();
  await page.getByLabel("from", { exact: true }).fill("0.9");
  await page.getByLabel("to", { exact: true }).fill("1.5");
  await page.getByRole("button", { name: "Save" }).click();
  await expect(page.getByText("2 of these values are yours")).toBeVisible();
  await page.getByRole("link", { name: "change Sow at a depth of" }).click();
  await page.getByRole("button", { name: "Use the usual again" }).click();
  await expect(page.getByText("yours; usual 0.5 cm")).toBeHidden();
});
