import { readFileSync } from "node:fs";
import { test, expect, asInes, cell, openBatch } from "./ulpa.js";

// One batch from the packet to the closed book, at a desk.
test("a batch from seed to harvest, and what the notebook says of it", async ({ page }) => {
  test.setTimeout(300_000);
  await asInes(page);

  await page.getByRole("link", { name: "Nursery", exact: true }).click();
  await page.getByRole("link", { name: "Sow", exact: true }).click();
  await page.getByLabel("Plants wanted").fill("5");
  await page.getByLabel("Tray", { exact: true }).selectOption({ label: "Tray 1: 6 × 12, 0 in use" });
  await page
    .getByLabel("Seed packet")
    .selectOption({ label: await page.locator("#f-lot option", { hasText: "Tideline Red" }).innerText() });
  await expect(page.getByText(/^\d+ cells, 1 seed in each/)).toBeVisible();
  await page.getByText("Show the working").click();
  await expect(page.getByText(/\(\d+ \+ ½\) ÷ \(\d+ \+ 1\), from what came of such seed here/)).toBeVisible();
  const cells = Number(/^(\d+) cells/.exec(await page.locator(".say").innerText())[1]);
  await page.getByRole("button", { name: /Take the first \d+ free cells/ }).click();
  await expect(page.getByText(`${cells} chosen`)).toBeVisible();
  await page.getByRole("button", { name: "Sown: give it a code" }).click();
  await expect(page.getByText(/Write LET-\d\d on the stick now/)).toBeVisible();
  const code = /LET-\d\d/.exec(await page.locator(".flash").innerText())[0];

  // Count: drawn across with the pointer, and one by the keyboard.
  await page.locator(".work").getByRole("link", { name: "Tray 1" }).click();
  const from = await cell(page, "A1").boundingBox();
  const to = await cell(page, "A5").boundingBox();
  await page.mouse.move(from.x + 10, from.y + 10);
  await page.mouse.down();
  await page.mouse.move(to.x + 10, to.y + 10, { steps: 12 });
  await page.mouse.up();
  await expect(cell(page, "A5")).toHaveAttribute("data-state", "sprouted");
  await cell(page, "A5").focus();
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("s");
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("x");
  await expect(page.locator("[data-up]")).toContainText(`6 of ${cells}`);
  await page.getByRole("button", { name: "Save this count" }).click();
  await expect(page.getByText("Count saved: 7 changes.")).toBeVisible();
  await expect(cell(page, "A7")).toHaveAttribute("data-state", "lost");

  // Ready by leaves.
  await page.locator(".judge").getByRole("link", { name: code }).click();
  await expect(page.locator(".judge .say")).toContainText("Ready about");
  await page.getByText("Look", { exact: true }).click();
  await page.getByLabel("True leaves on most").fill("4");
  await page.getByRole("button", { name: "Save", exact: true }).first().click();
  await expect(page.locator(".judge .say")).toContainText("Ready, 7 days left");

  // Move: four of six go to the tower, one breaks, one stays.
  await page.getByRole("link", { name: "Move plants" }).click();
  await cell(page, "A6").click();
  await page.getByText("Some did not survive the move").click();
  await page.getByLabel("Cells of the lost ones").fill("A5");
  await page.getByLabel("What happened").selectOption("broken");
  await page.getByLabel("Place", { exact: true }).selectOption({ label: "North tower: 4 of 36 ports free" });
  await page.getByRole("button", { name: "Fill from the bottom" }).click();
  await expect(page.locator("#f-ports")).toHaveValue("I1, I2, I3, I4");
  await page.getByRole("button", { name: "Moved", exact: true }).click();
  await expect(page.getByText("Moved 4 plants. Water them in.")).toBeVisible();
  await expect(cell(page, "I4")).toHaveAttribute("data-code", code);

  // The tower's solution: dose, wait, read; what is read too early is not taken for the whole tank.
  await page
    .locator(".judge")
    .getByRole("link", { name: /^North tower/ })
    .first()
    .click();
  await expect(page.locator(".judge .caution")).toContainText("Pour acid into water");
  await page.getByRole("link", { name: "I did this" }).click();
  await page.getByRole("button", { name: "This was added" }).click();
  await expect(page.locator(".judge .say")).toContainText("Wait 15 minutes, then read it");
  await page.getByLabel("pH", { exact: true }).fill("6.6");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.locator(".judge")).toContainText("read before the last dose had mixed");
  await page.getByText("Show the working").click();
  await expect(page.getByText("What the readings showed")).toBeVisible();

  // The one that stayed is hardened, set out and lost; the others are cut, then taken whole.
  await openBatch(page, code);
  await page.getByRole("link", { name: "Move plants" }).click();
  await page
    .getByLabel("Place", { exact: true })
    .selectOption({ label: await page.locator("#f-to option", { hasText: "Cold frame" }).innerText() });
  await page.getByLabel("School days of hardening off").fill("5");
  await page.getByRole("button", { name: "Moved", exact: true }).click();
  await expect(page.getByText("Moved 1 plant.")).toBeVisible();
  await openBatch(page, code);
  await expect(page.getByText(/Day 1 of 5: [\d.]+ hours outside today/)).toBeVisible();
  await page.getByRole("link", { name: "Move plants" }).click();
  await page
    .getByLabel("Place", { exact: true })
    .selectOption({ label: await page.locator("#f-to option", { hasText: "Landing boxes" }).innerText() });
  await page.getByLabel("Chosen").fill("");
  await page.getByRole("button", { name: "Moved", exact: true }).click();
  await page.getByRole("button", { name: "I have read this" }).click();
  await expect(page.getByText("Moved 1 plant.")).toBeVisible();
  await openBatch(page, code);
  const harvest = async (grams, whole) => {
    await page.getByText("Harvest", { exact: true }).last().click();
    await page.getByLabel("Weight").fill(grams);
    await page.locator("#h-where").selectOption({ label: "North tower (4)" });
    if (whole) {
      await page.getByText("Whole plants").click();
      await page.getByLabel("Plants taken whole").fill(whole);
    }
    await page.locator(".act-box[open]").getByRole("button", { name: "Save" }).click();
    await expect(page.locator(".entry").getByText(`Harvested ${grams} g`)).toBeVisible();
  };
  await harvest("120");
  await harvest("640", "4");
  await page.getByRole("button", { name: "Close the batch" }).click();
  await expect(page.getByText("1 plant is still growing")).toBeVisible();
  await page.getByText("Lost some", { exact: true }).click();
  await page.locator("#lose").getByLabel("How many").fill("1");
  await page.getByLabel("To what").selectOption("eaten");
  await page.locator(".act-box[open]").getByRole("button", { name: "Save" }).click();
  await expect(page.getByText("Written down.")).toBeVisible();
  await page.getByRole("button", { name: "Close the batch" }).click();
  await expect(page.locator(".judge .say")).toContainText("Closed.");
  const funnel = page.locator(".funnel").first();
  await expect(funnel).toContainText(/Came up\s*6/);
  await expect(funnel).toContainText(/Harvested whole\s*4[\s\S]*760\sg in 2 harvests/);
  const rest = page.locator(".funnel").nth(1);
  for (const cause of ["broken", "an unknown cause", "eaten", "nothing came up"])
    await expect(rest).toContainText(cause);

  // The notebook: all of it, found by text, put right, and taken along.
  await page.getByRole("link", { name: "All of it, from the beginning" }).click();
  for (const says of [
    "Closed the batch",
    "Harvested 640 g, 4 plants whole",
    "Planted out 1 plant",
    "Began hardening off 1 plant over 5 days",
    "Moved 4 plants; lost 1: broken",
    "Looked: 4 true leaves",
    "Sowed",
  ])
    await expect(page.getByText(says).first()).toBeVisible();
  await page.getByLabel("Find", { exact: true }).fill("640 g");
  await page.getByRole("button", { name: "Find" }).click();
  await expect(page.locator(".entry")).toHaveCount(1);
  await page.getByRole("link", { name: /correct/i }).click();
  await page.getByLabel("Weight").fill("604");
  await page.getByRole("button", { name: "It should say this" }).click();
  await expect(page.getByText("Corrected. The notebook keeps both.")).toBeVisible();
  await expect(page.locator(".entry.struck").filter({ hasText: "640 g" })).toBeVisible();
  const [file] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("link", { name: "Download as CSV" }).click(),
  ]);
  expect(readFileSync(await file.path(), "utf8")).toContain(`${code},`);
});

test("units switch everywhere, per person", async ({ page }) => {
  await asInes(page);
  await page.locator(".me summary").click();
  await page.getByText("Gallons, °F, in, oz").click();
  await page.getByLabel("Strength in").selectOption("ppm500");
  await page.getByRole("button", { name: "Use these" }).click();
  await page.getByRole("link", { name: "Solution", exact: true }).click();
  await expect(page.locator(".work")).toContainText("Strength in ppm (500 scale)");
  await page.locator(".work").getByRole("link", { name: "South tower" }).click();
  await page.getByLabel("Strength", { exact: true }).fill("750");
  await page.getByLabel("Temperature", { exact: true }).fill("68");
  await page.getByLabel("Level", { exact: true }).fill("15");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByText("Read 750 ppm (500 scale), 68 °F, level 15 gal").first()).toBeVisible();
  await page.locator(".me summary").click();
  await page.getByText("Litres, °C, cm, g").click();
  await page.getByLabel("Strength in").selectOption("ms");
  await page.getByRole("button", { name: "Use these" }).click();
  await expect(page.getByText("Read 1.5 mS/cm, 20 °C, level 56.8 L").first()).toBeVisible();
});

test("a meter's log: looked at first, all or nothing, once", async ({ page }) => {
  await asInes(page);
  await page.goto("/import");
  const log = (text) => ({ name: "log.csv", mimeType: "text/csv", buffer: Buffer.from(text) });
  await page
    .getByLabel("File")
    .setInputFiles(
      log(
        "time,series,value,unit\n2027-03-17 09:00,South tower probe,5.9,pH\n2027-03-17 10:00,South tower probe,59,pH\n",
      ),
    );
  await page.getByRole("button", { name: "Look at it first" }).click();
  await expect(page.getByText("Nothing has been stored.")).toBeVisible();
  await expect(page.getByRole("row", { name: /3 value 59 pH cannot be/ })).toBeVisible();
  const good =
    "time,series,value,unit\n2027-03-17 09:00,South tower probe,5.9,pH\n2027-03-17 10:00,South tower probe,6,pH\n";
  for (const fresh of [2, 0]) {
    await page.goto("/import");
    await page.getByLabel("File").setInputFiles(log(good));
    await page.getByRole("button", { name: "Look at it first" }).click();
    await expect(page.getByRole("row", { name: /South tower probe/ })).toContainText(
      fresh ? "new, belongs to South tower" : "known",
    );
    await page.getByRole("button", { name: "Save them all" }).click();
    await expect(page.getByText(`2 readings, ${fresh} of them new`)).toBeVisible();
  }
});
