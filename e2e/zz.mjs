import path from "node:path";
import { chromium } from "@playwright/test";
import { start, folder, asInes } from "./ulpa.js";
import { browserArgs } from "./playwright.config.js";
const f = folder();
const demo = await start(path.join(f.dir, "d"), "--fresh");
const browser = await chromium.launch({ executablePath: "/usr/bin/chromium", args: browserArgs });
const shots = JSON.parse(process.argv[2]);
try {
  const page = await browser.newPage({ baseURL: demo.address, viewport: { width: +(process.argv[3] || 1280), height: +(process.argv[4] || 800) } });
  page.on("console", (m) => { if (m.type() !== "log") console.log(page.url(), m.type(), m.text().slice(0, 200)); });
  await asInes(page);
  for (const [name, at, full] of shots) {
    await page.goto(at.split(" ")[0]);
    if (at.includes(" ")) await page.locator(at.slice(at.indexOf(" ") + 1)).first().click();
    await page.waitForTimeout(300);
    await page.screenshot({ path: `/tmp/${name}.png`, fullPage: !!full });
  }
} finally { await browser.close(); await demo.stop(); f.remove(); }
