import path from "node:path";
import { test, expect, asInes, asCrew, start, folder } from "./ulpa.js";

// A goal that comes too soon, put later; the plan kept; a closure in its way, and the repair.
test("a season is planned, kept and put right", async ({ browser }) => {
  test.setTimeout(90_000);
  const f = folder();
  const demo = await start(path.join(f.dir, "d"), "--fresh", "--port", "18805");
  try {
    const page = await browser.newPage({ baseURL: demo.address, viewport: { width: 1280, height: 1000 } });
    await asInes(page);
    const keep = async () => {
      await page.getByRole("button", { name: "Save this plan" }).click();
      await expect(page.locator(".flash")).toContainText("come up on the round");
      await expect(page.getByText("Not saved yet")).toBeHidden();
    };
    await page.goto("/season");
    await keep();
    await page.getByRole("link", { name: "Add a goal" }).click();
    await page.getByLabel("What it is called").fill("Soup day");
    await page.getByLabel("Crop", { exact: true }).selectOption({ label: "Leaf chard" });
    await page.getByLabel("Plants wanted").fill("6");
    await page.getByLabel("From the day").fill("2027-03-25");
    await page.getByLabel("By the day").fill("2027-03-26");
    await page.getByRole("button", { name: "Add", exact: true }).click();
    await expect(page.locator(".flash")).toContainText("Saved.");
    await page.goto("/season");
    const short = page.locator(".judge li", { hasText: "Soup day, for" });
    await expect(short).toContainText("It could be ready on");
    await page
      .locator(".judge")
      .getByRole("link", { name: /Soup day/ })
      .first()
      .click();
    await page.getByLabel("From the day").fill("2027-06-14");
    await page.getByLabel("By the day").fill("2027-06-25");
    await page.getByRole("button", { name: "Save", exact: true }).click();
    await expect(page.locator(".flash")).toContainText("Saved.");
    await page.goto("/season");
    await expect(short).toBeHidden();
    await page.getByText("What it changes: 1").click();
    await expect(page.locator(".changes li")).toContainText(/^Soup day, leaf chard: sow on/);
    await keep();

    // A bar is moved a day by the keys, as it is by drawing it; then set free again.
    const bar = page.locator(".season a.barlink[data-stage=tray]").first();
    const was = await bar.getAttribute("data-date");
    await bar.focus();
    await page.keyboard.press("ArrowRight");
    await expect(page.locator(".moving")).toContainText("Enter moves it");
    while (
      [0, 6].includes(new Date(Date.parse(was) + 86400000).getUTCDay()) &&
      (await page.locator(".moving").textContent()).match(/Sat|Sun|Mon/) // nobody is here on that Monday
    ) {
      await page.keyboard.press("ArrowRight");
    }
    await page.keyboard.press("Enter");
    await expect(page.locator("#batch")).toContainText("You said: Sow: on");
    await page.getByRole("button", { name: "Undo my changes" }).click();
    await expect(page.locator("#batch")).not.toContainText("You said");
    await page.goto("/season"); // without a batch beside it
    await page.locator(".season a.barlink[data-stage=tray] rect").first().scrollIntoViewIfNeeded();
    const box = await page.locator(".season a.barlink[data-stage=tray] rect").first().boundingBox();
    await page.mouse.move(box.x + 3, box.y + 4);
    await page.mouse.down();
    await page.mouse.move(box.x + 60, box.y + 4, { steps: 6 });
    await expect(page.locator(".moving")).toBeVisible();
    await page.mouse.up();
    await expect(page.locator("#batch")).toBeVisible();
    const back = page.getByRole("button", { name: "Undo my changes" });
    if (await back.count()) {
      // it was let go on an open day
      await back.click();
      await expect(page.locator("#batch")).not.toContainText("You said");
    }
    await page.goto("/season");

    // What cannot be has ways out; one of them is taken, and it can.
    await page.locator(".judge a", { hasText: "What would help" }).first().click();
    const title = await page.locator("#batch h2").textContent();
    await page.locator("#batch .way").first().click();
    await expect(page.locator("#batch h2")).toHaveText(title);
    await expect(page.locator("#batch")).not.toContainText("What would help");
    await page.goto("/season");
    await keep();

    // Nobody is here on the day of a sowing: it is said, and nothing moves until it is kept.
    await page.goto("/settings/closures?add=1");
    await page.getByLabel("First day").fill("2027-03-26");
    await page.getByLabel("Last day").fill("2027-03-26");
    await page.getByLabel("Why").fill("Strike");
    await page.getByRole("button", { name: "Add", exact: true }).click();
    await expect(page.locator(".flash")).toContainText("Saved.");
    await page.goto("/season");
    await page.getByText(/^What it changes/).click();
    await expect(page.locator(".changes li").first()).toContainText("instead of Fri 26 Mar");
    await keep();

    const tablet = await (
      await browser.newContext({ baseURL: demo.address, viewport: { width: 820, height: 1180 } })
    ).newPage();
    await asCrew(tablet, "Skiff", "1302");
    await tablet.goto("/season");
    await expect(tablet.getByRole("heading", { name: "By week" })).toBeVisible();
    await expect(tablet.getByRole("button", { name: "Save this plan" })).toHaveCount(0);
  } finally {
    await demo.stop();
    f.remove();
  }
});
