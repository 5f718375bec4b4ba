import { execFileSync } from "node:child_process";
import path from "node:path";
import { test, expect } from "@playwright/test";
import { start, folder, asInes } from "./ulpa.js";

// The database goes away in the middle of the work and comes back: the page
// says so, what was typed stays, and it is stored once when sent again.
test("a power cut under the database", async ({ browser }) => {
  test.setTimeout(300_000);
  const f = folder();
  const demo = await start(path.join(f.dir, "d"), "--fresh");
  try {
    await cutAndMend(browser, demo, f);
  } finally {
    await demo.stop();
    f.remove();
  }
});

async function cutAndMend(browser, demo, f) {
  const page = await (await browser.newContext({ baseURL: demo.address })).newPage();
  await asInes(page);
  await page.goto("/tanks");
  await page.locator(".work").getByRole("link", { name: "South tower" }).click();
  await page.getByLabel("pH", { exact: true }).fill("6.2");
  await page.getByLabel("Level", { exact: true }).fill("44");

  const data = path.join(f.dir, "d/postgres/data");
  const pg = (...args) => {
    const bin = execFileSync("sh", ["-c", "ls -d /usr/lib/postgresql/*/bin | tail -1"], { encoding: "utf8" }).trim();
    const cmd = [path.join(bin, "pg_ctl"), "-D", data, "-s", "-w", ...args];
    const root = process.getuid() === 0;
    execFileSync(root ? "runuser" : cmd[0], root ? ["-u", "postgres", "--", ...cmd] : cmd.slice(1), {
      cwd: "/",
      stdio: "ignore",
    });
  };
  const options = execFileSync("cat", [path.join(data, "postmaster.opts")], { encoding: "utf8" })
    .replace(/^\S+\s*/, "")
    .replaceAll('"', "")
    .trim();
  pg("-m", "immediate", "stop");

  await page.getByRole("button", { name: "Save", exact: true }).click();
  await expect(page.locator("#unsaved")).toContainText("Not saved");
  await expect(page.getByLabel("pH", { exact: true })).toHaveValue("6.2");
  await expect(page.getByLabel("Level", { exact: true })).toHaveValue("44");
  expect((await page.request.get("/readyz")).status()).toBe(503);
  expect((await page.request.get("/healthz")).status()).toBe(200);
  const other = await page.request.get("/nursery");
  expect(other.status()).toBe(503);
  expect(await other.text()).toContain("Try again in a moment");

  pg("-l", path.join(f.dir, "d/postgres/log"), "-o", options.replace(/-D\s*\S+/, ""), "start");
  await expect.poll(async () => (await page.request.get("/readyz")).status(), { timeout: 20_000 }).toBe(200);
  const kept = page.getByText("Read pH 6.2, level 44 L");
  await expect(async () => {
    // sent as often as it takes, stored once
    if ((await kept.count()) === 0) await page.getByRole("button", { name: "Save", exact: true }).click();
    await expect(kept).toHaveCount(1, { timeout: 3000 });
  }).toPass({ timeout: 30_000 });
  await page.reload();
  await expect(kept).toHaveCount(1);
  await page.context().close();
}
