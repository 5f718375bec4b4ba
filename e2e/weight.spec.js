import { test, expect, asInes, weigher } from "./ulpa.js";

test("a first visit is light", async ({ page }) => {
  const { weigh } = await weigher(page);
  const first = await weigh(async () => {
    await asInes(page);
    await page.waitForLoadState("networkidle");
  });
  expect(first, "sign-in and the round, with fonts, styles and scripts").toBeLessThan(250 * 1024);
  console.log(`# first visit ${(first / 1024).toFixed(0)} KB`);
});

// Measured, not asserted: the time belongs to the machine, the weight to us.
test("over a slow line the first view comes whole", async ({ page }) => {
  const { line } = await weigher(page);
  await line.send("Network.emulateNetworkConditions", {
    offline: false,
    latency: 150,
    downloadThroughput: 1_600_000 / 8,
    uploadThroughput: 750_000 / 8,
    connectionType: "cellular3g",
  });
  const began = Date.now();
  await page.goto("/sign-in", { waitUntil: "commit" });
  await page.getByLabel("Name or address").fill("ines@ferrywharf.example");
  const usable = Date.now() - began;
  await page.getByLabel("Password").fill("tide-and-trellis");
  await page.getByLabel("Password").press("Enter");
  await expect(page.getByRole("heading", { name: "Thursday’s round" })).toBeVisible();
  const paint = await page.evaluate(() => performance.getEntriesByName("first-contentful-paint")[0]?.startTime);
  console.log(
    `# over 1.6 Mbit/s with 150 ms: usable after ${usable} ms; the round painted ${paint?.toFixed(0)} ms after it was asked for`,
  );
  // Everything that the page needs came from this server.
  const elsewhere = await page.evaluate(
    (own) =>
      performance
        .getEntriesByType("resource")
        .map((r) => r.name)
        .filter((n) => !n.startsWith(own) && !n.startsWith("data:")),
    new URL(page.url()).origin,
  );
  expect(elsewhere).toEqual([]);
});
