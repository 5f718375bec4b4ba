import { test, expect, asInes } from "./ulpa.js";

// What a new school does first: places, trays, a tank, seed, closed days; and
// then the first sowing into what was just set up.
test("setting up a place, a tray, a tank and a packet, and sowing into it", async ({ page }) => {
  test.setTimeout(300_000);
  await asInes(page);
  await page.goto("/settings");
  const section = (id) => page.locator(`#${id}`);
  const add = async (id, summary, fields, choices = {}) => {
    await section(id).getByText(summary).click();
    for (const [label, value] of Object.entries(fields)) await section(id).getByLabel(label, { exact: true }).fill(value);
    for (const [label, option] of Object.entries(choices)) await section(id).getByLabel(label, { exact: true }).selectOption({ label: option });
    await section(id).getByRole("button", { name: "Add" }).click();
    await expect(page.locator("#page"), "the answer has come").not.toHaveAttribute("aria-busy", "true");
  };

  await add("places", "Add a place", { Name: "Mizzen tower", "Stop number in the walk": "9", "Tiers or rows of ports": "0", "Ports in each": "3" }, { Kind: "Tower" });
  await expect(section("places").getByText("takes 1 to 60")).toBeVisible();
  await expect(section("places").getByLabel("Name", { exact: true })).toHaveValue("Mizzen tower");
  await section("places").getByLabel("Tiers or rows of ports").fill("5");
  await section("places").getByLabel("Kind").selectOption({ label: "Tower" });
  await section("places").getByRole("button", { name: "Add" }).click();
  await expect(section("places").getByText("tower, 5 × 3")).toBeVisible();

  await add("tanks", "Add a reservoir", {
    Name: "Mizzen tower", Holds: "40", "Fill to": "36", "Dry below": "8", "pH from": "5.5", "pH wanted": "5.8", "pH to": "6.3",
    "Strength from": "1", "Strength wanted": "1.3", "Strength to": "1.6", "Tap water’s strength": "0.5", "Tap water’s alkalinity": "120",
    "1 mL of each stock in 1 L gives": "0.2", "Its strength": "30", "Its density": "1.18",
  }, { At: "Mizzen tower" });
  await expect(page.getByText("Kept.")).toBeVisible();
  await add("trays", "Add a tray", { Name: "Egg box", Rows: "2", Columns: "6", "A cell holds": "35" }, { "Stands in": "Nursery bench" });
  await expect(page.getByText("Kept.")).toBeVisible();
  await add("lots", "Add a packet", { Variety: "Spindrift", "Lot, as on the packet": "SD-26", "Packed in": "2026", "Germination on the label": "90", "Seeds in it": "50" }, { Crop: "Kale" });
  await expect(page.getByText("Kept.")).toBeVisible();
  await add("closures", "Add closed days", { "First day": "2027-05-03", "Last day": "2027-05-03", Why: "May fair" });
  await expect(section("closures").getByText("May fair")).toBeVisible();
  await section("nights").getByLabel("Night of").first().fill("2027-03-25");
  await section("nights").getByLabel("Forecast low").fill("-4");
  await section("nights").getByRole("button", { name: "Keep" }).first().click();
  await expect(page.getByText("Kept.")).toBeVisible();
  await add("people", "Add somebody", { Name: "Wherry", "Password, or PIN of a crew": "8642" }, { Who: "A crew with a PIN" });
  await expect(section("people").getByText("Wherry")).toBeVisible();

  await page.goto("/sow");
  await page.getByLabel("Plants wanted").fill("8");
  await page.getByLabel("Tray", { exact: true }).selectOption({ label: "Egg box: 2 × 6, 0 in use" });
  await page.getByLabel("Seed lot").selectOption({ label: "Kale, Spindrift: SD-26, 2026, 50 seeds" });
  await page.getByRole("button", { name: /Take the first/ }).click();
  await page.getByRole("button", { name: "Sown: give it a code" }).click();
  await expect(page.getByText("Write KAL-02 on the stick now")).toBeVisible();

  // The new tank is on the round, and its first reading makes it known.
  await page.goto("/");
  await page.getByRole("navigation", { name: "Places" }).locator(".walk-name", { hasText: "Mizzen tower" }).click();
  await expect(page.locator(".stop")).toContainText("Nothing is known of it yet.");
  await page.locator(".stop").getByRole("link", { name: /Read Mizzen tower/ }).click();
  for (const [label, value] of Object.entries({ pH: "5.8", Strength: "1.3", Temperature: "19", Level: "35" })) await page.getByLabel(label, { exact: true }).fill(value);
  await page.getByRole("button", { name: "Keep", exact: true }).click();
  await expect(page.locator(".judge .say")).toHaveText("Nothing to do. Leave it alone.");

  // The new crew can sign in, on the tablet of this school.
  await page.locator(".me summary").click();
  await page.getByRole("button", { name: "Sign out", exact: true }).click();
  await page.goto("/sign-in?school=ferrywharf");
  await page.getByText("Wherry", { exact: true }).click();
  await page.getByLabel("PIN").fill("8642");
  await page.getByRole("button", { name: "Start the round" }).click();
  await expect(page.getByRole("heading", { name: "Thursday’s round" })).toBeVisible();
});
