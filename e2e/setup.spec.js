import path from "node:path";
import { test, expect, asInes, asCrew, start, folder } from "./ulpa.js";

const answered = (page) =>
  expect(page.locator("#page"), "the answer has come").not.toHaveAttribute("aria-busy", "true");
const kept = async (page) => {
  await expect(page.locator(".flash")).toContainText("Saved.");
  await answered(page);
};
const fill = async (page, fields, choices = {}) => {
  for (const [label, option] of Object.entries(choices))
    await page.getByLabel(label, { exact: true }).selectOption({ label: option });
  for (const [label, value] of Object.entries(fields)) await page.getByLabel(label, { exact: true }).fill(value);
};
const add = async (page, section, fields, choices = {}) => {
  await page.goto(`/settings/${section}?add=1`);
  for (const more of await page.locator("details.more-fields > summary").all()) await more.click();
  await fill(page, fields, choices);
  await page.getByRole("button", { name: "Add", exact: true }).click();
  await answered(page);
};

// A school from nothing: the key that was printed, its first coordinator, what is still to
// be told, a crew that sows, and the first round with a tank to read.
test("a school begins, and comes to its first round", async ({ browser }) => {
  test.setTimeout(90_000);
  const f = folder();
  const demo = await start(path.join(f.dir, "d"), "--empty", "--port", "18790");
  try {
    const page = await browser.newPage({ baseURL: demo.address, viewport: { width: 820, height: 1180 } });
    await page.goto("/");
    await expect(page.getByRole("heading", { name: "A school begins" })).toBeVisible();
    await fill(page, {
      "The key": /type the key (\w+)/.exec(demo.said)[1],
      "What it is called": "Slackwater School",
      "Its short name": "slackwater",
      "Its time zone": "Europe/London",
      Latitude: "51",
      Longitude: "-3",
      "Your name": "Rui Teal",
      "What you sign in with": "rui",
      "Your password": "kelp marrow trestle",
    });
    await page.getByRole("button", { name: "Begin" }).click();
    await expect(page.getByRole("heading", { name: "Still to be entered" })).toBeVisible();

    await page.getByRole("link", { name: "Who is in" }).click();
    await page.getByText("Add somebody").click();
    await fill(page, { Name: "Wherry", "Password, or PIN of a crew": "8642" }, { Who: "A crew with a PIN" });
    await page.getByRole("button", { name: "Add", exact: true }).click();
    await kept(page);
    await page.goto("/settings/school");
    await page.locator("#day").getByRole("button", { name: "Save" }).click();
    await kept(page);
    await add(page, "closures", { "First day": "2027-05-03", "Last day": "2027-05-03", Why: "May fair" });
    await add(
      page,
      "places",
      { Name: "Mizzen tower", "Tiers or rows of ports": "0", "Ports in each": "3", "Usual temperature": "18" },
      { Kind: "Tower" },
    );
    await expect(page.getByText("must be 1 to 60")).toBeVisible();
    await expect(page.getByLabel("Name", { exact: true })).toHaveValue("Mizzen tower");
    await page.getByLabel("Tiers or rows of ports").fill("5");
    await expect(page.locator(".placepicture circle")).toHaveCount(15);
    await page.getByRole("button", { name: "Add", exact: true }).click();
    await expect(page.getByText("Tower, 5 × 3, 18 °C")).toBeVisible();
    await add(page, "places", { Name: "Potting bench", "Usual temperature": "20" }, { Kind: "Bench" });
    await page.getByRole("button", { name: "Potting bench earlier" }).click();
    await expect(page.locator(".things li").first()).toContainText("Potting bench");
    await add(
      page,
      "tanks",
      {
        Name: "Mizzen tank",
        Holds: "40",
        "Fill to": "36",
        "Runs dry below": "8",
        "pH from": "5.5",
        "pH wanted": "5.8",
        "pH to": "6.3",
        "Strength from": "1",
        "Strength wanted": "1.3",
        "Strength to": "1.6",
        "Tap water’s strength": "0.5",
        "Tap water’s alkalinity": "120",
        "1 mL of each stock in 1 L gives": "0.2",
        "Its strength": "30",
        "Its density": "1.18",
      },
      { At: "Mizzen tower", "Acid on the shelf": "phosphoric acid" },
    );
    await kept(page);
    await add(
      page,
      "trays",
      { Name: "Egg box", Rows: "2", Columns: "6", "Volume of a cell": "35" },
      { Place: "Potting bench" },
    );
    await kept(page);
    await add(
      page,
      "lots",
      {
        Variety: "Spindrift",
        "Lot number, as on the packet": "SD-26",
        "Year packed": "2026",
        "Germination on the label": "90",
        "Seeds in it": "50",
      },
      { Crop: "Kale" },
    );
    await kept(page);

    // The crew comes in on the tablet of this school, sows, and walks its first round.
    await page.locator(".me summary").click();
    await page.getByRole("button", { name: "Sign out", exact: true }).click();
    await page.waitForURL("**/sign-in*");
    await page.goto("/sign-in?school=slackwater");
    await page.getByText("Wherry", { exact: true }).click();
    await page.getByLabel("PIN").fill("8642");
    await page.getByRole("button", { name: "Start the round" }).click();
    await expect(page.getByRole("heading", { level: 1 })).toContainText("round");
    await page.goto("/sow");
    await fill(page, { "Plants wanted": "8" });
    await fill(page, {}, { Tray: "Egg box: 2 × 6, 0 in use", "Seed packet": "Kale, Spindrift: SD-26, 2026, 50 seeds" });
    await page.getByRole("button", { name: /Take the first/ }).click();
    await page.getByRole("button", { name: "Sown: give it a code" }).click();
    await expect(page.getByText("Write KAL-01 on the stick now")).toBeVisible();
    await page.goto("/");
    await expect(page.locator(".stop")).toContainText("Nothing is known of it yet.");
    await page
      .locator(".stop")
      .getByRole("link", { name: /Read Mizzen tank/ })
      .click();
    await fill(page, { pH: "5.8", Strength: "1.3", Temperature: "19", Level: "35" });
    await page.getByRole("button", { name: "Save", exact: true }).click();
    await expect(page.locator(".judge .say")).toHaveText("Nothing to do. Leave it alone.");
  } finally {
    await demo.stop();
    f.remove();
  }
});

// What the settings list is copied, changed, retired and taken back (every section's forms are
// posted by TestOneOfEverythingIsChanged); a stop is given to a crew, which comes to it first; who
// forgot a password comes in by a code.
test("a place and a packet are changed and retired; nobody is locked out", async ({ browser }) => {
  test.setTimeout(120_000);
  const f = folder();
  const demo = await start(path.join(f.dir, "d"), "--fresh", "--port", "18800");
  try {
    const page = await browser.newPage({ baseURL: demo.address, viewport: { width: 820, height: 1180 } });
    const press = async (name, exact = false) => {
      await page.getByRole("button", { name, exact }).click();
      await kept(page);
    };
    await asInes(page);
    for (const section of ["places", "lots"]) {
      await page.goto(`/settings/${section}`);
      await page
        .getByRole("link", { name: /^Another like this/ })
        .first()
        .click();
      await page.getByRole("textbox").first().waitFor();
      const name = page.getByLabel(section === "lots" ? "Lot number, as on the packet" : "Name", { exact: true });
      await name.fill("Bowline");
      await press("Add", true);
      await page.getByRole("link", { name: "Change Bowline" }).click();
      await name.fill("Sheet bend");
      await press("Save", true);
      await page.getByRole("button", { name: "Retire Sheet bend" }).click();
      await expect(page.getByText("Retired: 1")).toBeVisible();
      await answered(page);
      await page.getByText("Retired: 1").click();
      await page.getByRole("button", { name: /Restore.*Sheet bend/ }).click();
      await page.getByRole("link", { name: "Change Sheet bend" }).click();
      await page.getByText("Delete it for good").click();
      await page.getByRole("button", { name: "Delete Sheet bend" }).click();
      await expect(page.locator(".flash")).toContainText("Deleted.");
    }

    await page.goto("/");
    await page.getByText("Who does what here", { exact: true }).click();
    await page.getByLabel("The whole of Cold frame, until somebody changes this").selectOption("Punt");
    await page.locator(".gifts").getByRole("button", { name: "Save" }).click();
    await expect(page.locator(".stop-head")).toContainText("for Punt");
    await page.goto("/");
    await page.locator(".then a", { hasText: "Jar shelf" }).click();
    await expect(page.locator(".stop-head")).toContainText("for Coracle");
    const tablet = await (await browser.newContext({ baseURL: demo.address })).newPage();
    await asCrew(tablet, "Coracle", "1504");
    await expect(tablet.locator(".lead")).toContainText("Given to you: 1 task.");
    await expect(tablet.locator("#stop-title")).toHaveText("Jar shelf");

    await page.goto("/settings/people");
    await page.getByRole("link", { name: "Change Tam Brill" }).click();
    await page.getByRole("button", { name: "Make a code" }).click();
    const code = await page.locator(".flash b").innerText();
    const other = await (await browser.newContext({ baseURL: demo.address })).newPage();
    await other.goto("/sign-in/code");
    await fill(other, { "The code": code, "Your new password": "sluice marrow pennant" });
    await other.getByRole("button", { name: "Sign in" }).click();
    await expect(other.locator(".me summary")).toContainText("Tam Brill");
    await other.locator(".me summary").click();
    await other.getByRole("button", { name: "Sign out", exact: true }).click();
    await other.waitForURL("**/sign-in*");
    await other.goto("/sign-in");
    await other.getByLabel("Name or address").fill("tam@ferrywharf.example");
    await other.getByLabel("Password").fill("sluice marrow pennant");
    await other.getByRole("button", { name: "Sign in" }).click();
    await expect(other.locator(".me summary")).toContainText("Tam Brill");
  } finally {
    await demo.stop();
    f.remove();
  }
});

// Settings are changed, retired and taken back; a day of the demo goes by. The day is this
// demo's own: others stand on theirs.
test("a place is changed and another like it retired; the day moves on", async ({ browser }) => {
  test.setTimeout(90_000);
  const f = folder();
  const demo = await start(path.join(f.dir, "d"), "--fresh", "--port", "18795");
  try {
    const page = await browser.newPage({ baseURL: demo.address, viewport: { width: 1280, height: 1400 } });
    await asInes(page);
    await page.goto("/settings/places");
    await page.getByRole("link", { name: "Change Warm shelf" }).click();
    await expect(
      page.getByText("Ulpa uses this temperature to work out when to look for their seedlings"),
    ).toBeVisible();
    await page.getByLabel("Usual temperature").fill("24");
    await page.getByRole("button", { name: "Save" }).click();
    await expect(page.getByText("Warm shelf, 24 °C")).toBeVisible();
    await page.getByRole("link", { name: /Another like this.*Warm shelf/ }).click();
    await page.getByLabel("Name", { exact: true }).fill("Top shelf");
    await page.getByRole("button", { name: "Add", exact: true }).click();
    await page.getByRole("button", { name: "Retire Top shelf" }).click();
    await expect(page.getByText("it is off the lists and stays in the records")).toBeVisible();
    await page.getByText("Retired: 1").click();
    await page.getByRole("button", { name: /Restore.*Top shelf/ }).click();
    await expect(page.locator(".flash")).toContainText("Restored.");
    // Drawn to the front of the walk by its handle, as by the buttons beside it. Nothing may
    // still be moving when its place is measured.
    await page.goto("/settings/places");
    await expect(page.getByText("Retired:")).toHaveCount(0);
    const handle = await page.locator(".things li", { hasText: "Top shelf" }).locator(".handle").boundingBox();
    const first = await page.locator(".things li").first().boundingBox();
    await page.mouse.move(handle.x + 20, handle.y + 20);
    await page.mouse.down();
    await page.mouse.move(first.x + 70, first.y + 4, { steps: 12 });
    const kept = page.waitForResponse((r) => r.url().endsWith("/settings/places") && r.status() === 200);
    await page.mouse.up();
    await kept;
    await page.reload();
    await expect(page.locator(".things li").first()).toContainText("Top shelf");
    await page.goto("/");
    await page.getByRole("button", { name: "On to the next day" }).click();
    await expect(page.getByRole("heading", { name: "Friday’s round" })).toBeVisible();
  } finally {
    await demo.stop();
    f.remove();
  }
});
