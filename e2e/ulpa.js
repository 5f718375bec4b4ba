// Starts the real binary on its demo, and signs people in.
import { execFileSync, spawn } from "node:child_process";
import { chmodSync, mkdtempSync, rmSync } from "node:fs";
import path from "node:path";
import { test as base, expect } from "@playwright/test";

export { expect };
export const binary = path.resolve(import.meta.dirname, "../bin/ulpa");

// start runs the demo in a folder and waits until it says its address.
export function start(dir, ...flags) {
  const child = spawn(binary, ["demo", "--dir", dir, "--port", "18700", ...flags], {
    stdio: ["ignore", "pipe", "pipe"],
  });
  const demo = { child, said: "", address: "", ended: new Promise((r) => child.on("exit", r)) };
  const up = new Promise((resolve, reject) => {
    const hear = (b) => {
      demo.said += b;
      const m = /^ {2}(http:\S+)$/m.exec(demo.said);
      if (m && demo.said.includes("Ctrl-C")) {
        demo.address = m[1];
        resolve(demo);
      }
    };
    child.stdout.on("data", hear);
    child.stderr.on("data", hear);
    child.on("exit", (code) => reject(new Error(`ulpa ended with ${code}: ${demo.said}`)));
  });
  demo.stop = async () => {
    child.kill("SIGINT");
    return demo.ended;
  };
  demo.kill = async () => {
    child.kill("SIGKILL");
    return demo.ended;
  };
  return up;
}

export function folder() {
  const dir = mkdtempSync("/tmp/ulpa-e2e-");
  chmodSync(dir, 0o755); // under root PostgreSQL's own user must get in
  return { dir, remove: () => rmSync(dir, { recursive: true, force: true }) };
}

// A demo for each worker. A file that rests on what others may have changed asks for a fresh
// one: test.use({ own: "its name" }).
export const test = base.extend({
  own: ["", { scope: "worker", option: true }],
  demo: [
    async ({ own: _ }, use) => {
      const f = folder();
      const demo = await start(path.join(f.dir, "d"), "--fresh");
      await use(demo);
      await demo.stop();
      f.remove();
    },
    { scope: "worker", auto: true },
  ],
  baseURL: async ({ demo }, use) => use(demo.address),
});

export async function asInes(page) {
  await page.goto("/sign-in");
  await page.getByLabel("Name or address").fill("ines@ferrywharf.example");
  await page.getByLabel("Password").fill("tide-and-trellis");
  await page.getByRole("button", { name: "Sign in" }).click();
  await expect(page.getByRole("heading", { name: "Thursday’s round" })).toBeVisible();
}

export async function asCrew(page, name, pin) {
  await page.goto("/sign-in?school=ferrywharf");
  await page.getByText(name, { exact: true }).click();
  await page.getByLabel("PIN").fill(pin);
  await page.getByRole("button", { name: "Start the round" }).click();
}

// onTo follows the demo's button to another day. The form is swapped in without a new page, so
// that a click does not wait for it: what goes on at once would cut it short.
export async function onTo(page, name) {
  const moved = page.waitForResponse((r) => r.request().method() === "POST" && new URL(r.url()).pathname === "/clock");
  await page.getByRole("button", { name }).click();
  await (await moved).finished();
}

export const cell = (page, name) => page.locator(`.grid .cell[data-cell="${name}"]`);

// openBatch follows the nursery's list to a batch.
export async function openBatch(page, code) {
  await page.goto("/nursery");
  await page.locator(".work").getByRole("link", { name: code }).first().click();
  await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
}

export const sizes = [
  [1280, 800],
  [820, 1180],
  [390, 844],
];

// Every page, by name: the main views, and what links lead to of what else is answered.
export async function views(page) {
  const all = await named(page);
  const missing = new Map(
    execFileSync(binary, ["routes"], { encoding: "utf8" })
      .split("\n")
      .filter(
        (r) =>
          r.startsWith("GET /") &&
          !/^GET \/(static|api|healthz|readyz|sign-in|begin|calendar|b\/|s\/)|(csv|ics|pdf|large|small)$/.test(r),
      )
      .map((r) => [r.slice(4), new RegExp(`^${r.slice(4).replace(/:\w+/g, "[^/?]+")}$`)]),
  );
  const seen = new Set(Object.values(all)),
    ahead = [...seen];
  const told = (path) => {
    for (const [route, is] of missing) if (is.test(path.split("?")[0])) return missing.delete(route) && route;
  };
  ahead.forEach(told);
  while (missing.size > 0 && ahead.length > 0) {
    const html = await (await page.request.get(ahead.shift())).text();
    for (const [, path] of html.matchAll(/href="(\/[^"#]*)"/g)) {
      if (seen.has(path) || /^\/static|csv|\.ics/.test(path)) continue;
      seen.add(path);
      const route = told(path);
      if (route) {
        all[route] = path.replaceAll("&amp;", "&");
        ahead.push(all[route]);
      }
    }
  }
  expect([...missing.keys()], "pages that no link leads to").toEqual([]);
  return all;
}

// The main views, in the state that tells most.
async function named(page) {
  const first = async (path, within, text) => {
    await page.goto(path);
    return page.locator(within).getByRole("link", { name: text }).first().getAttribute("href");
  };
  const batch = await first("/nursery", ".work", "LET-05");
  return {
    round: "/",
    season: "/season",
    nursery: "/nursery",
    sow: "/sow",
    batch,
    hardening: await first("/nursery", ".work", "KAL-01"),
    move: batch + "/move",
    tray: await first("/nursery", ".judge", "Tray 11"),
    places: "/places",
    tower: await first("/places", ".work", "North tower"),
    bed: await first("/places", ".work", "Landing boxes"),
    raft: (await first("/places", ".work", "Long table")).replace("places", "rafts"),
    solution: "/tanks",
    tank: await first("/tanks", ".work", "North tower"),
    sums: "/sums",
    sum: "/sums/ph-adjust",
    recipe: "/sums/recipe",
    schedule: "/sums/back-schedule",
    frost: "/sums/frost",
    crops: "/crops",
    crop: "/crops/basil",
    import: "/import",
    harvest: "/harvest",
    notebook: "/notebook",
    settings: "/settings",
    trail: "/trail",
  };
}

// Nothing is wider than the page, whatever is unfolded on it.
export async function holds(page, name) {
  const over = await page.evaluate(() => {
    const folded = document.querySelectorAll("details:not([open])");
    for (const d of folded) d.open = true;
    const over = document.documentElement.scrollWidth - innerWidth;
    for (const d of folded) d.open = false;
    return over;
  });
  expect(over, `${name} scrolls sideways`).toBeLessThanOrEqual(0);
}

// What travels over the line for a visit, as the browser counts it.
export async function weigher(page) {
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
      await visit(); // which waits until all that the page asks for has come
      return bytes;
    },
  };
}
