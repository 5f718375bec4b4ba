import { test, expect, asInes, views } from "./ulpa.js";

// What travels over the line for a visit, as the browser counts it.
async function weigher(page) {
  const line = await page.context().newCDPSession(page);
  await line.send("Network.enable");
  let bytes = 0;
  line.on("Network.loadingFinished", (e) => {
    bytes += e.encodedDataLength;
  });
  return {
    line,
    weigh: async (visit) => {
      bytes = 0;
      await visit();
      await page.waitForLoadState("networkidle");
      return bytes;
    },
  };
}

test("a first visit is light, and later ones are lighter", async ({ page }) => {
  const { weigh } = await weigher(page);
  const first = await weigh(async () => {
    await asInes(page);
  });
  expect(first, "sign-in and the round, with fonts, styles and scripts").toBeLessThan(250 * 1024);
  const later = {};
  for (const path of Object.values(await views(page))) {
    later[path] = await weigh(() => page.goto(path));
    expect(later[path], path).toBeLessThan(30 * 1024);
    expect(later[path], path + " came from nowhere").toBeGreaterThan(500);
  }
  console.log(
    `# first visit ${(first / 1024).toFixed(0)} KB; later ones at most ${(Math.max(...Object.values(later)) / 1024).toFixed(1)} KB`,
  );
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
  await page.getByRole("button", { name: "Sign in" }).click();
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
