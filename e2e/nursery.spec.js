import { test, expect, asInes } from "./ulpa.js";

// A tray of seven kinds with a gap for a second sowing, and a box of plugs that was delivered.
test("seven kinds and a gap in one tray, and a delivery", async ({ page }) => {
  test.setTimeout(300_000);
  await asInes(page);
  await page.goto("/trays");
  const tray = await page.locator(".work").getByRole("link", { name: /Sheet of cubes/ }).getAttribute("href");
  await page.goto(tray);
  await page.getByText("Keep cells free for a later sowing").click();
  await page.getByLabel("Cells, as in A1-B6").fill("J1-J10");
  await page.getByLabel("For", { exact: true }).selectOption({ label: "Lettuce" });
  await page.getByLabel("On the day").fill("2027-03-25");
  await page.getByRole("button", { name: "Keep them free" }).click();
  await expect(page.getByText("J1-J10 for lettuce on Thu 25 Mar")).toBeVisible();
  const id = tray.split("/").pop();
  const kinds = ["Lettuce", "Basil", "Chives", "Kale", "Rocket", "Parsley", "Pea"];
  for (const [i, kind] of kinds.entries()) {
    await page.goto("/sow?tray=" + id);
    await page.getByLabel("Seed lot").selectOption({ label: await page.locator("#f-lot option", { hasText: kind + "," }).first().innerText() });
    await page.getByLabel("Plants wanted").fill("5");
    const row = "ABCDEFG"[i];
    await expect(page.getByText("An adult brings the water to pH 5.5")).toBeVisible();
    await page.getByRole("button", { name: "Work it out" }).click();
    await expect(page.locator(".judge .say")).toContainText("cells with");
    await page.getByLabel("Cells, as in A1-B6").fill(`${row}1-${row}5`);
    await page.getByLabel("Seeds in each cell").fill("1");
    await page.getByRole("button", { name: "Sown: give it a code" }).click();
    await expect(page.getByText(/Write [A-Z]{3}-\d\d on the stick now/)).toBeVisible();
  }
  await page.goto(tray + "/sheet");
  await expect(page.locator(".sheet tbody tr")).toHaveCount(8);
  await expect(page.locator(".sheet tbody")).toContainText("Leave them empty.");

  await page.goto("/adopt");
  await page.getByLabel("How it began").selectOption({ label: "plants that were delivered" });
  await page.getByLabel("Crop", { exact: true }).selectOption({ label: "Lettuce" });
  await page.getByLabel("Variety").fill("Skerry");
  await page.getByLabel("yellow").check();
  await page.getByLabel("Dead when they came").fill("3");
  await page.getByLabel("How many plants").fill("21");
  await page.getByRole("button", { name: "Enter it: give it a code" }).click();
  await expect(page.locator(".flash")).toContainText(/Write LET-\d\d on the stick now/);
  await expect(page.locator(".story")).toContainText("21 now");
  await expect(page.locator(".work")).toContainText("dead on arrival");

  await page.getByRole("link", { name: "Something is wrong" }).click();
  await page.getByRole("link", { name: "fallen over at the soil" }).click();
  while (await page.locator(".ask").isVisible()) await page.locator(".ask").getByRole("link", { name: "Yes" }).click();
  await page.getByRole("button", { name: "It is that: write it down" }).first().click();
  await expect(page.locator(".judge")).toContainText("Saw: fallen over at the soil");
});
