import { test, expect, asInes, asCrew, cell } from "./ulpa.js";

async function openTank(page, name) {
  await page.goto("/tanks");
  await page.locator(".work").getByRole("link", { name }).click();
}
async function openTray(page, name) {
  await page.goto("/nursery");
  await page.locator(".judge").getByRole("link", { name }).click();
}

test("an implausible reading is asked about and keeps what was typed", async ({ page }) => {
  await asInes(page);
  await openTank(page, "Long table");
  await page.getByLabel("pH", { exact: true }).fill("58");
  await page.getByLabel("Level", { exact: true }).fill("170");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByText("pH cannot be 58. Check the figure. Did you mean 5.8?")).toBeVisible();
  await expect(page.getByLabel("Level", { exact: true })).toHaveValue("170");
  await page.getByLabel("pH", { exact: true }).fill("8.8");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByText("Is this right?")).toBeVisible();
  await page.getByRole("button", { name: "I checked it: save it" }).click();
  await expect(page.getByText("Read pH 8.8, level 170 L").first()).toBeVisible();
  await page.getByLabel("Strength", { exact: true }).fill("strong");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.locator("#f-ec-says")).toContainText("is not a number");
});

test("a form sent twice is stored once", async ({ page }) => {
  await asInes(page);
  await page.goto("/notebook");
  const id = await page.locator(".noteform input[name=id]").inputValue();
  for (let i = 0; i < 2; i++) {
    const answer = await page.request.post("/notebook", {
      form: { id, text: "Swept under the long table twice over" },
    });
    expect(answer.ok()).toBe(true);
  }
  await page.goto("/notebook?q=twice+over");
  await expect(page.locator(".entry")).toHaveCount(1);
});

test("two people mark the same cell", async ({ page, browser, baseURL }) => {
  await asInes(page);
  await openTray(page, "Tray 11");
  const other = await (await browser.newContext({ baseURL })).newPage();
  await asCrew(other, "Dory", "1403");
  await other.goto(page.url());
  await cell(other, "H1").click();
  await other.getByRole("button", { name: "Save the count of the whole tray" }).click();
  await expect(other.getByText("Count saved")).toBeVisible();
  await page.getByText("Empty", { exact: false }).first().click();
  await cell(page, "H1").click();
  await cell(page, "H2").click();
  await page.getByRole("button", { name: "Save the count of the whole tray" }).click();
  await expect(page.getByRole("alert")).toContainText("H1 was marked up by somebody else, and you marked it empty");
  await expect(cell(page, "H2")).toHaveAttribute("data-state", "empty");
  await cell(page, "H1").click();
  await page.getByRole("button", { name: "Save the count of the whole tray" }).click();
  await expect(page.getByText("Count saved: 1 change.")).toBeVisible();
  await expect(cell(page, "H1")).toHaveAttribute("data-state", "sprouted");
  await other.context().close();
});

test("a connection lost in the middle of a save loses nothing and stores once", async ({ page, context }) => {
  await asInes(page);
  await openTray(page, "Tray 8");
  await cell(page, "B1").click();
  await context.setOffline(true);
  await page.getByRole("button", { name: "Save this count" }).click();
  await expect(page.locator("#unsaved")).toContainText("Not saved: the server cannot be reached");
  await expect(cell(page, "B1")).toHaveAttribute("data-state", "sprouted");
  await context.setOffline(false);
  // The answer gets lost: the server stores it, the browser never hears.
  const inert = () => page.locator("#main").evaluate((m) => m.inert);
  let held;
  await page.route("**/count", async (route) => {
    held = await inert();
    await route.fetch({ maxRedirects: 0 });
    await route.abort("connectionreset");
  });
  await page.getByRole("button", { name: "Save this count" }).click();
  await expect(page.locator("#unsaved")).toBeVisible();
  expect(held, "nothing can be typed that the answer would take away").toBe(true);
  expect(await inert(), "without an answer one goes on").toBe(false);
  await expect(page.getByRole("button", { name: "Save this count" })).toBeFocused();
  await page.unroute("**/count");
  await page.getByRole("button", { name: "Save this count" }).click();
  await expect(page.getByText("Count saved: 1 change.")).toBeVisible();
  await page.goto("/notebook?q=LET-06");
  await expect(page.getByText("Counted: 1 came up (B1)")).toHaveCount(1);
});

test("a draft outlives a closed page", async ({ page }) => {
  await asInes(page);
  await openTank(page, "South tower");
  await page.getByLabel("pH", { exact: true }).fill("6.1");
  await page.reload();
  await expect(page.getByLabel("pH", { exact: true })).toHaveValue("6.1");
  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.getByText("Reading saved.")).toBeVisible();
  await page.reload();
  await expect(page.getByLabel("pH", { exact: true })).toHaveValue("");
});

test("every form works as a plain post without scripts", async ({ browser, baseURL }) => {
  const context = await browser.newContext({ baseURL, javaScriptEnabled: false });
  const page = await context.newPage();
  await asInes(page);
  await openTray(page, "Tray 7");
  await page.getByText("Type the cells instead").click();
  await page.getByLabel("Thinned", { exact: true }).last().fill("A1-A3");
  await page.getByRole("button", { name: "Save this count" }).click();
  await expect(page.getByText("Count saved: 3 changes.")).toBeVisible();
  await page.getByRole("link", { name: "Move some on" }).click();
  await page.getByLabel("Chosen", { exact: true }).fill("A1-A2");
  await page
    .getByLabel("Place", { exact: true })
    .selectOption({ label: await page.locator("#f-to option", { hasText: "South tower" }).innerText() });
  await page.getByRole("button", { name: "Show this place" }).click();
  await page.getByLabel("Ports").fill("A1, I1");
  await page.getByRole("button", { name: "Moved", exact: true }).click();
  await expect(page.getByText("A1 already holds a plant of BAS-01")).toBeVisible();
  await expect(page.getByLabel("Chosen", { exact: true })).toHaveValue("A1-A2");
  await page.getByLabel("Ports").fill("");
  await page.getByText("fill from the bottom when no port is chosen").click();
  await page.getByRole("button", { name: "Moved", exact: true }).click();
  await expect(page.getByText("Moved 2 plants.")).toBeVisible();
  await context.close();
});

test("a stranger gets no further than the sign-in page", async ({ page, request, baseURL }) => {
  for (const path of ["/", "/nursery", "/notebook.csv", "/settings", "/nowhere"]) {
    await page.goto(path);
    await expect(page).toHaveURL(/\/sign-in$/);
  }
  for (const path of ["/healthz", "/readyz"]) expect((await request.get(path)).status()).toBe(200);
  const cross = await request.post("/sign-in", {
    headers: { Origin: "https://elsewhere.example", "Sec-Fetch-Site": "cross-site" },
    form: { login: "x", password: "y" },
  });
  expect(cross.status()).toBe(403);
  expect(baseURL).toContain("127.0.0.1");
});
