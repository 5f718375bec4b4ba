import { execFileSync } from "node:child_process";
import net from "node:net";
import path from "node:path";
import { test, expect } from "@playwright/test";
import { start, folder } from "./ulpa.js";

const servers = (dir) =>
  execFileSync("pgrep", ["-fc", `postgres -D ${dir}`], {
    encoding: "utf8",
    stdio: ["ignore", "pipe", "ignore"],
  }).trim();
const none = (dir) => {
  try {
    return servers(dir);
  } catch (e) {
    return String(e.stdout).trim();
  }
};

test("the demo starts, stops, comes back, and survives kill -9 and a taken port", async ({ request }) => {
  test.setTimeout(300_000);
  const f = folder();
  const dir = path.join(f.dir, "d");
  let demo = await start(dir);
  await expect(start(dir)).rejects.toThrow("a demo is already running");
  await demo.kill();
  demo = await start(dir);
  expect((await request.get(demo.address + "/readyz")).status()).toBe(200);
  expect(await demo.stop()).toBe(0);
  expect(demo.said).toContain("Stopped.");
  expect(none(dir), "no server is left running").toBe("0");
  const taken = net.createServer().listen(18750, "127.0.0.1");
  await new Promise((r) => taken.on("listening", r));
  demo = await start(dir, "--port", "18750", "--today", "2027-05-06");
  expect(demo.said).toContain("Port 18750 is taken; using 18751.");
  expect(demo.said).toContain("Thu 6 May 2027");
  await demo.stop();
  taken.close();
  f.remove();
});
