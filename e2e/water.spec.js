import { test, expect, asInes, onTo, openBatch } from "./ulpa.js";

test.use({ own: "water" });

// A pen is put into its buffers, and every reading made with it is worth what that showed.
test("a pen that has aged says so where it is read", async ({ page }) => {
  await asInes(page);
  await page.goto("/meters");
  await page
    .locator("main")
    .getByRole("link", { name: /^Blue pen/ })
    .click();
  const pen = page.locator("main .say");
  const before = await pen.innerText();
  await page.locator("#f-buffer0").selectOption("7.00");
  await page.locator("#f-shown0").fill("7.62");
  await page.locator("#f-buffer1").selectOption("4.01");
  await page.locator("#f-shown1").fill("5.4");
  await page.locator("main").getByRole("button", { name: "Save", exact: true }).click();
  await expect(pen).not.toHaveText(before);
  await expect(page.locator("main .entries li").first()).toContainText("worn out");
});

// Two stock bottles from the shelf: a slip is asked about and nothing typed is lost; what was
// weighed leaves the shelf, and comes back when it was not mixed after all.
test("two stock bottles are weighed out and leave the shelf", async ({ page }) => {
  await asInes(page);
  const left = async () => {
    await page.goto("/settings/salts");
    return page.locator("main li, main tr").filter({ hasText: "Epsom salt" }).first().innerText();
  };
  const before = await left();
  await page.goto("/tanks");
  await page.getByRole("link", { name: /^Mix a solution/ }).click();
  await page.getByLabel("Recipe").selectOption({ label: "Leaf crops" });
  await page.getByLabel("Water").selectOption({ label: "School tap" });
  await page.getByLabel("How much").fill("2");
  await page.getByLabel("Stock dilution, 1 to").fill("100");
  await page.getByRole("button", { name: "Work it out" }).click();
  await expect(page.locator("main .say")).toContainText("Two bottles of 2 L");
  const row = (name) => page.locator("tr", { hasText: name });
  await expect(row("Calcium nitrate")).toContainText("oxidiser");
  await expect(row("Calcium nitrate").locator("td", { hasText: /^A$/ })).toBeVisible();
  await expect(row("Epsom salt").locator("td", { hasText: /^B$/ })).toBeVisible();

  const link = await page.getByRole("link", { name: "Labels for the bottles, PDF" }).getAttribute("href");
  const file = await page.request.get(link);
  expect((await file.body()).subarray(0, 5).toString()).toBe("%PDF-");

  await page.getByLabel("Epsom salt", { exact: true }).fill("4260");
  await page.getByLabel("Boric acid", { exact: true }).fill("0.4");
  await page.getByRole("button", { name: "Mixed: take it off the shelf" }).click();
  await expect(page.getByText("write down what was weighed, 0 if none was").first()).toBeVisible();
  await page.getByLabel("What is left empty was weighed exactly as wanted").check();
  await page.getByRole("button", { name: "Mixed: take it off the shelf" }).click();
  await expect(page.getByText(/is far from .* weigh it again/)).toBeVisible();
  await expect(page.getByLabel("Boric acid", { exact: true })).toHaveValue("0.4");
  await page.getByLabel("Epsom salt", { exact: true }).fill("43");
  await page.getByRole("button", { name: "Mixed: take it off the shelf" }).click();
  await expect(page.getByText("Written down, and taken off the shelf.")).toBeVisible();
  await page.locator(".flash").getByRole("button", { name: "Undo" }).click();
  await expect(page.locator(".flash")).toContainText("Undone");
  expect(await left()).toBe(before);
});

// What a chart shows can be had as figures, by touch and by the keyboard.
test("a tank's charts are figures too", async ({ page }) => {
  await asInes(page);
  await page.goto("/tanks");
  await page
    .locator("main")
    .getByRole("link", { name: /North tower/ })
    .first()
    .click();
  await page.locator("#f-ph").fill("6.9");
  await page.locator("#f-level").fill("40");
  await page.getByRole("button", { name: "Save", exact: true }).first().click();
  await page.getByText("Every figure, in a table").focus();
  await page.keyboard.press("Enter");
  const first = page.locator("#figures tbody tr").first();
  await expect(first.locator("td")).toHaveText(["6.9", "", "40", ""]);
  await expect(first.locator("b.out")).toHaveText("6.9");
});

// Jars are filled one after the other from a can: each is written down, the next is offered,
// and the can counts down.
test("jars are filled one after the other", async ({ page }) => {
  await asInes(page);
  await page.goto("/tanks");
  await page.getByRole("link", { name: "Jar shelf, seen from the side" }).click();
  const here = page.locator(".jarwall a[aria-current]");
  const poured = page.locator("#judge");
  await page.locator(".jarwall a", { hasText: "Jar 9" }).click();
  await expect(here).toContainText("Jar 9");
  await page.locator("#f-water").fill("0.3");
  await page.getByRole("button", { name: /^Poured/ }).click();
  await expect(poured).toContainText("poured today: 0.3 L");
  await page.goto(page.url().split("?")[0] + "?rim_cm=5&foot_cm=3.5&height_cm=5");
  await expect(poured).toContainText("Set the compass to 2.46 cm");
});

// A colour between two fields of the card is a figure with its error, and says what it is
// good for.
test("a colour card is read between two fields", async ({ page }) => {
  await asInes(page);
  await page.goto("/tanks");
  await page.locator("main").getByRole("link", { name: "South tower", exact: true }).click();
  await page.getByText("Read a colour card").click();
  await page.getByLabel("The colour lies between").selectOption({ label: "Colour card: 6 and 6.5" });
  await page.getByLabel("It looks").selectOption({ label: "like the lower one" });
  await page.getByText("by lamplight, not by a window").click();
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.locator("body")).toContainText("pH 6.0 ± 0.4, good enough to see that something is far off");
});

// Fish are fed by their warmth and water, and water that harms them rings before any sum.
test("fish are fed, and alarms come first", async ({ page }) => {
  await asInes(page);
  await page.goto("/tanks");
  await page.getByRole("link", { name: "Fish, their feed and their water" }).click();
  await page
    .locator("main")
    .getByRole("link", { name: /Fish trough/ })
    .click();
  await expect(page.locator("main .say").first()).toContainText(/Feed \d/);
  await page.getByRole("button", { name: "Fed", exact: true }).click();
  await expect(page.locator("main")).toContainText("Fed today");
  await page.getByText("Read the water", { exact: true }).click();
  await page.locator("#f-read-tan").fill("3");
  await page.locator("#f-read-fish_ph").fill("8.1");
  await page.locator('form[action$="/read"]').getByRole("button", { name: "Save" }).click();
  await expect(page.getByRole("alert").first()).toContainText("Un-ionised ammonia");
  await expect(page.locator("main .say").first()).toContainText("Feed nothing today");
  await page.goto("/");
  await expect(page.locator("body")).toContainText("Look after the fish in Fish trough");
  await page.goto("/away");
  await expect(page.locator(".fares a", { hasText: "Fish trough" })).toHaveCount(1);
});

// A board of the raft comes round: harvested whole by one figure, lifted out and floated in
// at the other end, planted by one tap; and it says afterwards what it bore.
test("a board goes round", async ({ page }) => {
  await asInes(page);
  await page.goto("/places");
  await page.locator("main").getByRole("link", { name: "Long table", exact: true }).click();
  await page.getByRole("link", { name: "The boards, and what comes next" }).click();
  const todo = page.locator(".boards-do li");
  const cut = todo.filter({ hasText: "Harvest 9 plants from board 1" });
  await cut.getByLabel("Weighed").fill("1,210 grams");
  await cut.getByRole("button", { name: "Harvested whole" }).click();
  await expect(page.locator(".boards-do .says")).toBeVisible();
  await expect(cut.getByLabel("Weighed")).toHaveValue("1,210 grams");
  await cut.getByLabel("Weighed").fill("1210");
  await cut.getByRole("button", { name: "Harvested whole" }).click();
  await expect(page.locator(".flash")).toContainText("Harvest saved");
  const turn = todo.filter({ hasText: "Lift out board 1" });
  await turn.getByLabel("Board 1 was scrubbed").check();
  await turn.getByRole("button", { name: "They float like this now" }).click();
  const boards = page.locator(".trough li");
  await expect(boards.first()).toContainText("Board 1");
  const plant = todo.filter({ hasText: "PAK-01 on board 3" });
  await plant.getByRole("button", { name: "Planted" }).click();
  await expect(boards.filter({ hasText: "Board 3" })).toContainText("PAK-01");
  await page.locator(".flash").getByRole("button", { name: "Undo" }).click();
  await expect(boards.filter({ hasText: "Board 3" })).toContainText("empty");
  const raft = page.url();
  await openBatch(page, "PAK-01");
  await page.getByRole("link", { name: "Move plants" }).click();
  await page
    .getByLabel("Place", { exact: true })
    .selectOption({ label: await page.locator("#f-to option", { hasText: "Long table" }).innerText() });
  await page.getByRole("button", { name: "Board 3: 12 free" }).click();
  await expect(page.locator("#f-ports")).toHaveValue(/^A7, A8, A9, B7/);
  await page.getByRole("button", { name: "Board 2: 12 free" }).click();
  await expect(page.locator('[data-count-of="f-ports"]')).toContainText("22 chosen");
  await page.goto(raft);
  await boards.first().getByRole("link").click();
  await expect(page.getByRole("row", { name: /LET-02/ })).toContainText("9 harvested");
  await expect(page.locator("main .lead")).toContainText("Last scrubbed on Thu 18 March");
});

// The last day before a long weekend: the list says what to do in its order, what was done
// leaves it, and after the weekend what was foretold stands beside what was found.
test("a closure's last day, and what it came to", async ({ page }) => {
  await asInes(page);
  await onTo(page, "On to the next day");
  await page.goto("/");
  await page.getByRole("link", { name: "What to do on the last day" }).click();
  await expect(page.locator("main .lead")).toContainText("Nobody is here for 3 days");
  const list = page.locator(".last-day li");
  const jars = list.filter({ hasText: "Pour" }).filter({ hasText: "Jar 3" });
  await expect(jars).toHaveCount(1);
  await expect(list.last()).toContainText("before the last bell");
  await expect(page.locator("#judge")).toContainText("Sun 21 March");
  await jars.getByRole("link", { name: "Jar 3", exact: true }).click();
  await page.locator("details.treat > summary").click();
  const water = page.locator("#f-treat-water");
  await expect(water).not.toHaveValue("");
  const poured = Number(await water.inputValue());
  await page.getByRole("button", { name: "This was added" }).click();
  await expect(page.locator(".flash")).toContainText("Written down");
  await page.goto("/away");
  await expect(list.filter({ hasText: /Jar 3[,.]/ })).toHaveCount(0);
  expect(poured).toBeGreaterThan(0.05);
  await page.locator('input[type="date"]').first().fill("2027-03-23");
  await onTo(page, "Move to that day");
  await page.goto("/away");
  await page.locator(".fares, .typed").getByRole("link", { name: "North tower", exact: true }).first().click();
  await page.locator("#f-ph").fill("6.9");
  await page.locator("#f-level").fill("40");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.locator(".flash")).toContainText("Reading saved");
  await page.goto("/away");
  const found = page.locator("tr", { hasText: "North tower" }).filter({ hasText: "Level" });
  await expect(found).toContainText("40 L");
  await expect(page.getByRole("heading", { name: "Fri 19 Mar to Tue 23 Mar" })).toBeVisible();
});
