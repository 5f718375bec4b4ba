import { test, expect, asInes } from "./ulpa.js";

test.use({ own: "sprouts" });

const day = async (page, on) => {
  await page.request.post("/clock", { form: { day: on }, maxRedirects: 0 });
};

// Lentils soaked on a Thursday need somebody over the weekend, and Ulpa says so. To one run
// somebody comes, and it is eaten; to the other nobody does, and it is thrown away.
test("a sprouting week over a weekend", async ({ page }) => {
  test.setTimeout(240_000);
  await asInes(page);
  await page.goto("/nursery");
  await page.getByRole("link", { name: "Sprouts", exact: true }).click();
  await expect(page.getByText("Raw sprouts have caused serious illness").first()).toBeVisible();
  const begin = async () => {
    await page.goto("/sprouts");
    await page
      .getByLabel("Seed, sold for sprouting")
      .selectOption({ label: await page.locator("#pl option", { hasText: "Lentil" }).innerText() });
    await expect(page.locator(".run li").first()).toContainText("Soak for about 8 hours");
    await page.getByLabel("Dry seed, weighed").fill("60");
    await page.getByLabel("Stand on").selectOption({ label: "Nursery bench" });
    await page.getByRole("button", { name: "Soaked: give it a code" }).click();
    const doubt = page.getByRole("alert").filter({ hasText: "Sprouts cannot wait over a weekend" });
    await expect(doubt).toContainText("Sat 20 Mar and Sun 21 Mar");
    await expect(page.getByLabel("Dry seed, weighed")).toHaveValue("60");
    await page.getByRole("button", { name: "Somebody comes on those days" }).click();
    await expect(page.locator(".flash")).toContainText(/Write LSP-\d\d/);
    return page.url();
  };
  const tended = await begin(),
    left = await begin();

  for (const [i, on] of ["2027-03-19", "2027-03-20", "2027-03-21"].entries()) {
    await day(page, on);
    await page.goto("/");
    if (i === 0) {
      await page.goto("/away");
      await expect(page.locator(".last-day li", { hasText: "LSP-01" })).toContainText("Say who rinses");
      await expect(page.locator("#judge li", { hasText: "Sat 20 March" })).toContainText("LSP-01");
    }
    await page.goto(tended);
    await expect(page.locator("#tend").getByLabel("Rinsed and drained")).toBeChecked();
    await page.locator("#tend").getByRole("button", { name: "Save" }).click();
    await expect(page.locator(".judge")).toContainText("Nothing to do now");
  }
  await page.goto(left);
  await expect(page.locator(".judge .say")).toContainText("Throw them away.");
  await page.goto("/harvest");
  await expect(page.getByRole("alert").filter({ hasText: "Not food any more" })).toContainText("LSP-02");
  await page.goto(left);
  await page.locator("summary", { hasText: "Lost some" }).click();
  await page.locator("#lose").getByLabel("How many").fill("1");
  await page.getByLabel("To what").selectOption({ label: "dried out" });
  await page.locator("#lose").getByRole("button", { name: "Save" }).click();
  await expect(page.locator(".judge .say")).toContainText("Nothing is left growing.");

  await day(page, "2027-03-22");
  await page.goto("/");
  await expect(page.locator(".work")).toContainText("cook them through within two days");
  await page.goto(tended);
  await page.locator("summary", { hasText: "Harvest" }).click();
  await page.getByLabel("Weight").fill("380");
  await page.getByLabel("Whole plants").check();
  await page.getByLabel("Plants taken whole").fill("1");
  await page.locator("details", { hasText: "Use a clean knife" }).getByRole("button", { name: "Save" }).click();
  await expect(page.locator(".judge .say")).toContainText("Nothing is left growing.");
});
