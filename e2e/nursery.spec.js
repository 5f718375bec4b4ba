import { test, expect, asInes, openBatch } from "./ulpa.js";

// A tray of seven kinds with a gap for a second sowing, and a box of plugs that was delivered.
test("seven kinds and a gap in one tray, and a delivery", async ({ page }) => {
  test.setTimeout(300_000);
  await asInes(page);
  await page.goto("/trays");
  const tray = await page
    .locator(".work")
    .getByRole("link", { name: /Sheet of cubes/ })
    .getAttribute("href");
  await page.goto(tray);
  await page.getByText("Reserve cells for a later sowing").click();
  await page.getByLabel("Cells, such as A1-B6").fill("J1-J10");
  await page.getByLabel("For", { exact: true }).selectOption({ label: "Lettuce" });
  await page.getByLabel("On the day").fill("2027-03-25");
  await page.getByRole("button", { name: "Reserve them" }).click();
  await expect(page.getByText("J1-J10 for lettuce on Thu 25 Mar")).toBeVisible();
  const id = tray.split("/").pop();
  const kinds = ["Lettuce", "Basil", "Chives", "Kale", "Rocket", "Parsley", "Pea"];
  for (const [i, kind] of kinds.entries()) {
    await page.goto("/sow?tray=" + id);
    await page.getByLabel("Seed packet").selectOption({
      label: await page
        .locator("#f-lot option", { hasText: kind + "," })
        .first()
        .innerText(),
    });
    await page.getByLabel("Plants wanted").fill("5");
    const row = "ABCDEFG"[i];
    await expect(page.getByText("An adult sets the water to pH 5.5")).toBeVisible();
    await page.getByRole("button", { name: "Work it out" }).click();
    await expect(page.locator(".judge .say")).toContainText("in each");
    await page.getByLabel("Cells, such as A1-B6").fill(`${row}1-${row}5`);
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
  await page.getByRole("button", { name: "This is it: write it down" }).first().click();
  await expect(page.locator(".judge")).toContainText("Saw: fallen over at the soil");
});

// A picture from a tablet stands in the batch's story until an adult deletes it; what is no
// picture is refused, and what was typed stays.
test("a picture is kept, and deleted for good", async ({ page }) => {
  await asInes(page);
  await openBatch(page, "LET-06");
  await page.getByText("Add a picture").click();
  await page
    .getByLabel("Picture")
    .setInputFiles({ name: "x.jpg", mimeType: "image/jpeg", buffer: Buffer.from("not a picture") });
  await page.getByLabel("What it shows").fill("Leaf edges");
  await page.getByRole("button", { name: "Save the picture" }).click();
  await expect(page.getByText("must be a picture: JPEG, PNG or WebP")).toBeVisible();
  await expect(page.getByLabel("What it shows")).toHaveValue("Leaf edges");
  // Noise, so that it is large: the tablet makes it smaller before it goes.
  const drawn = await page.evaluate(async () => {
    const c = Object.assign(document.createElement("canvas"), { width: 560, height: 400 });
    const g = c.getContext("2d"),
      noise = g.createImageData(560, 400);
    for (let i = 0; i < noise.data.length; i++) noise.data[i] = i % 4 === 3 ? 255 : Math.random() * 256;
    g.putImageData(noise, 0, 0);
    const b = await new Promise((r) => c.toBlob(r, "image/png"));
    return Array.from(new Uint8Array(await b.arrayBuffer()));
  });
  await page.getByLabel("Picture").setInputFiles({ name: "y.png", mimeType: "image/png", buffer: Buffer.from(drawn) });
  await expect.poll(() => page.locator("#pic").evaluate((el) => el.files[0].type)).toBe("image/jpeg");
  await page.getByRole("button", { name: "Save the picture" }).click();
  await expect(page.locator(".flash")).toContainText("Picture saved.");
  const shot = page.locator(".shots a");
  await expect(shot).toHaveCount(1);
  await expect.poll(() => shot.locator("img").evaluate((i) => i.naturalWidth)).toBeGreaterThan(100);
  const at = await shot.getAttribute("href");
  await shot.click();
  await expect(page.getByRole("heading", { name: "Leaf edges" })).toBeVisible();
  await expect.poll(() => page.locator("img.shot").evaluate((i) => i.naturalWidth)).toBe(560);
  await page.getByRole("button", { name: "Delete the picture" }).click();
  await expect(page.locator("img.shot")).toHaveCount(0);
  await expect(page.locator(".shots")).toHaveCount(0);
  expect((await page.request.get(at + "/large")).status()).toBe(404);
});

// Seedlings are put into other cells by drawing over them, and potted on with mix for each.
test("plants go on by the drawing, and into pots", async ({ page }) => {
  await asInes(page);
  await page.goto("/trays");
  await page.locator(".work").getByRole("link", { name: "Tray 8" }).click();
  await page.getByRole("link", { name: "Put plants into other cells" }).click();
  const at = async (grid, name) => {
    const b = await page.locator(`#${grid}-grid .cell[data-cell="${name}"]`).boundingBox();
    return [b.x + b.width / 2, b.y + b.height / 2];
  };
  await page.mouse.move(...(await at("from", "A1")));
  await page.mouse.down();
  await page.mouse.move(...(await at("from", "A3")), { steps: 9 });
  await page.mouse.up();
  await expect(page.getByLabel("Chosen")).toHaveValue("A1, A2, A3");
  await page
    .getByLabel("Into", { exact: true })
    .selectOption({ label: await page.locator("#sh-into option", { hasText: "Sheet of cubes" }).innerText() });
  await expect(page.locator("#ask-work h2")).toContainText("Sheet of cubes");
  await page.locator('#to-grid .cell[data-cell="I8"]').click();
  await page.getByRole("button", { name: "Put them there" }).click();
  await expect(page.getByText("1 cells for 3 plants")).toBeVisible();
  for (const c of ["I9", "I10"]) await page.locator(`#to-grid .cell[data-cell="${c}"]`).click();
  await page.getByRole("button", { name: "Put them there" }).click();
  await expect(page.locator('.cell[data-cell="I8"]')).toHaveAttribute("data-state", "sprouted");

  await openBatch(page, "STR-01");
  await page.getByRole("link", { name: "Move plants" }).click();
  await page
    .getByLabel("Place", { exact: true })
    .selectOption({ label: await page.locator("#f-to option", { hasText: "Nursery bench" }).innerText() });
  await page
    .getByLabel("Pots", { exact: true })
    .selectOption({ label: await page.locator("#f-pot option", { hasText: "Large pots" }).innerText() });
  await expect(page.getByText("22 pots, 25.7 L of loose mix.")).toBeVisible();
  await page.getByLabel("How many").fill("10");
  await page.getByLabel("Filled with").selectOption({ index: 1 });
  await expect(page.getByText("10 pots, 11.7 L of loose mix: 1 bag.")).toBeVisible();
  await page.getByRole("button", { name: "Moved", exact: true }).click();
  await expect(page.locator(".flash")).toBeVisible(); // going on at once would cut the act short
  await openBatch(page, "STR-01");
  await expect(page.locator(".work")).toContainText("Nursery bench, in Large pots");
  await expect(page.locator(".work")).toContainText("12 plants");
});
