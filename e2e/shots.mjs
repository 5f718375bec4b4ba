// Takes the pictures of docs/screenshots from a fresh demo.
import path from "node:path";
import { mkdirSync } from "node:fs";
import { chromium } from "@playwright/test";
import { start, folder, asInes, asCrew } from "./ulpa.js";
import { browserArgs } from "./playwright.config.js";

const out = path.resolve(import.meta.dirname, "../docs/screenshots");
mkdirSync(out, { recursive: true });
const f = folder();
const demo = await start(path.join(f.dir, "d"), "--fresh");
const browser = await chromium.launch({ executablePath: "/usr/bin/chromium", args: browserArgs });
try {
  const desk = await browser.newPage({ baseURL: demo.address, viewport: { width: 1280, height: 800 } });
  await desk.goto("/sign-in?school=ferrywharf");
  await asInes(desk);
  const link = async (from, within, text) => {
    await desk.goto(from);
    return desk.locator(within).getByRole("link", { name: text }).first().getAttribute("href");
  };
  const tank = await link("/tanks", ".work", "North tower");
  const lettuce = await link("/nursery", ".work", "LET-05");
  const views = {
    round: "/",
    season: "/season",
    beds: "/season/beds",
    nursery: "/nursery",
    tray: await link("/nursery", ".judge", "Tray 11"),
    batch: lettuce,
    move: lettuce + "/move",
    raft: (await link("/places", ".work", "Long table")).replace("places", "rafts"),
    tank,
    jars: await link("/tanks", ".work", "Jar shelf, seen from the side"),
    away: "/away",
    fish: await link("/fish", ".work", "Fish trough"),
    notebook: "/notebook",
    seeds: "/seeds",
    trouble: (await link("/nursery", ".work", "CHV-01")) + "/trouble",
  };
  for (const [name, at] of Object.entries(views)) {
    await desk.goto(at);
    await desk.screenshot({ path: path.join(out, name + ".png") });
  }
  await desk.goto(tank);
  await desk.getByRole("link", { name: "How much acid or alkali" }).click();
  await desk.screenshot({ path: path.join(out, "sum.png") });
  await desk.goto("/sow");
  await desk.getByLabel("Plants wanted").fill("24");
  await desk.getByLabel("Tray", { exact: true }).selectOption({ index: 1 });
  await desk.getByLabel("Seed packet").selectOption({ index: 4 });
  await desk.getByRole("button", { name: /Take the first/ }).click();
  await desk.evaluate(() => scrollTo(0, 0));
  await desk.screenshot({ path: path.join(out, "sow.png") });
  await desk.goto("/sprouts");
  await desk
    .getByLabel("Seed, sold for sprouting")
    .selectOption({ label: await desk.locator("#pl option", { hasText: "Lentil" }).innerText() });
  await desk.locator(".run").waitFor();
  await desk.locator(".run li").last().scrollIntoViewIfNeeded();
  await desk.screenshot({ path: path.join(out, "sprouts.png") });
  await desk.close();
  const tablet = await browser.newPage({
    baseURL: demo.address,
    viewport: { width: 820, height: 1180 },
    hasTouch: true,
  });
  await asCrew(tablet, "Skiff", "1302");
  await tablet.screenshot({ path: path.join(out, "tablet-round.png") });
} finally {
  await browser.close();
  await demo.stop();
  f.remove();
}
