import { test, expect, asInes, asCrew, cell } from "./ulpa.js";

// No swap of one page for another has the browser complain of anything; looks.spec.js asks the pages.
test("nothing in the console", async ({ page }) => {
  const said = [];
  // A form that is refused is answered by 422, which the browser notes.
  page.on("console", (m) => {
    if (/error|warning/.test(m.type()) && !/status of 422/.test(m.text())) said.push(`${page.url()} ${m.text()}`);
  });
  page.on("pageerror", (e) => said.push(`${page.url()} ${e}`));
  await asInes(page);
  // An empty tray; forms that are refused and kept; a sum while one types.
  await page.goto("/settings/trays?add=1");
  await page.getByLabel("Name", { exact: true }).fill("Console tray");
  await page.getByRole("button", { name: "Add", exact: true }).click();
  await expect(page.locator(".says").first()).toBeVisible();
  await page.getByLabel("Rows").fill("2");
  await page.getByLabel("Columns").fill("3");
  await page.getByLabel("Volume of a cell").fill("40");
  await page.getByRole("button", { name: "Add", exact: true }).click();
  await expect(page.getByText("Saved.")).toBeVisible();
  await page.goto("/nursery");
  await page.getByRole("link", { name: "Console tray" }).first().click();
  await expect(page.locator(".grid")).toBeVisible();
  await page.goto("/settings/places?add=1");
  await page.getByLabel("Kind").selectOption("tower");
  await page.getByLabel("Tiers or rows of ports").fill("5");
  await expect(page.locator(".placepicture circle").first()).toBeVisible();
  await page.goto("/nursery");
  await page.locator(".judge").getByRole("link", { name: "Tray 11" }).first().click();
  await cell(page, "A1").click();
  await page.getByRole("button", { name: "Save the count of the whole tray" }).click();
  await page.waitForLoadState("networkidle");
  await page.goto("/tanks");
  await page.locator(".work").getByRole("link", { name: "South tower" }).first().click();
  await page.getByLabel("pH", { exact: true }).fill("5.9");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.locator(".flash")).toBeVisible();
  await page.getByRole("button", { name: "Undo" }).click();
  await page.waitForLoadState("networkidle");
  await page.goto("/sums/air");
  await page.locator("input[inputmode=decimal]").first().fill("24");
  await page.waitForLoadState("networkidle");
  await page.goto("/");
  await page
    .locator(".stop")
    .getByRole("button", { name: /^Not today/ })
    .first()
    .click();
  await page.waitForLoadState("networkidle");
  await asCrew(page, "Skiff", "1302");
  for (const at of ["/", "/nursery", "/tanks", "/me"]) await page.goto(at);
  expect(said).toEqual([]);
});
