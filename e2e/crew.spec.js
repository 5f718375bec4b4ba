import { test, expect, asCrew, cell, openBatch } from "./ulpa.js";

// What is due rests on what others have counted.
test.use({ own: "crew", viewport: { width: 820, height: 1180 }, hasTouch: true });

test("a crew walks the round on a tablet", async ({ page }) => {
  await asCrew(page, "Skiff", "9999");
  await expect(page.getByText("that does not match")).toBeVisible();
  await expect(page.getByRole("radio", { name: "Skiff" })).toBeChecked();
  await page.getByLabel("PIN").fill("1302");
  await page.getByRole("button", { name: "Start the round" }).click();
  await expect(page.getByRole("heading", { name: "Thursday’s round" })).toBeVisible();

  // Tick off, undo, put off.
  await page.getByRole("navigation", { name: "Places" }).getByText("Warm shelf").click();
  const stop = page.locator(".stop");
  await expect(stop.getByRole("heading", { name: "Warm shelf" })).toBeVisible();
  const tasks = stop.locator(".task");
  const before = await tasks.count();
  // Ticking is not doing: what has a page of its own asks.
  await stop.getByLabel(/^Done already: Count the seed test of ML-24/).tap();
  await stop.getByRole("button", { name: "Done without writing it down" }).first().tap();
  await expect(tasks).toHaveCount(before - 1);
  await expect(stop.getByText("not written down: Count the seed test of ML-24")).toBeVisible();
  await page.getByRole("button", { name: "Undo" }).tap();
  await expect(tasks).toHaveCount(before);
  await stop.getByRole("button", { name: /^Not today: Tray 11: take the cover off/ }).tap();
  await expect(stop.getByText("Not today: Tray 11: take the cover off")).toBeVisible();

  // Count by touch.
  await openBatch(page, "BAS-02");
  await page.getByRole("link", { name: "Tray 11" }).first().tap();
  await cell(page, "A1").tap();
  await cell(page, "D5").tap();
  await expect(page.locator("[data-up=BAS-02]")).toContainText("11 of 48");
  await page.getByRole("button", { name: "Save the count of the whole tray" }).tap();
  await expect(page.getByText("Count saved: 2 changes.")).toBeVisible();

  // Read a tank on the pad; acid is an adult's.
  await page.getByRole("link", { name: "Solution", exact: true }).tap();
  await page.locator(".work").getByRole("link", { name: "North tower" }).tap();
  const pad = page.getByRole("group", { name: "Number pad" });
  for (const key of ["6", ".", "7", "Delete the last digit", "8", "Next field", "Next field", "Next field", "4", "0"])
    await pad.getByRole("button", { name: key, exact: true }).tap();
  await expect(page.getByLabel("Level", { exact: true })).toHaveValue("40");
  await page.getByRole("button", { name: "Save", exact: true }).tap();
  await expect(page.getByText("Read pH 6.8, level 40 L").first()).toBeVisible();
  await expect(page.getByRole("link", { name: "Ask an adult" })).toBeVisible();
  await page.getByText("Write down what was added").tap();
  await expect(page.getByText("Acid and alkali are written down by the adult")).toBeVisible();
  await expect(page.locator("[name=amount]")).toHaveCount(0);

  // What is not theirs is not theirs.
  for (const path of ["/settings", "/entries/00000000-0000-0000-0000-000000000000/correct"]) {
    const answer = await page.request.get(path);
    expect([403, 404]).toContain(answer.status());
  }
  const dose = await page.request.post(new URL(page.url()).pathname + "/treat", {
    form: { id: crypto.randomUUID(), amount: "5", agent: "phosphoric_acid" },
  });
  expect(dose.status()).toBe(403);
});
