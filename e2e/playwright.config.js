import { defineConfig } from "@playwright/test";

export const browserArgs = [
  "--no-sandbox",
  "--disable-gpu",
  "--disable-gpu-compositing",
  "--disable-gpu-rasterization",
  "--disable-software-rasterizer",
  "--disable-quic",
  "--no-first-run",
  "--disable-background-networking",
  "--disable-component-update",
  "--disable-sync",
];

export default defineConfig({
  testDir: ".",
  workers: 2, // each has a school of its own
  // Generous: a busy machine is slow, not wrong.
  timeout: 120_000,
  expect: { timeout: 20_000 },
  retries: 0,
  forbidOnly: !!process.env.CI,
  reporter: [["list"]],
  // The longest begins first, so that nobody waits for it alone at the end.
  projects: [
    { name: "looks", testMatch: "looks.spec.js" },
    { name: "work", testIgnore: "looks.spec.js" },
  ],
  use: {
    viewport: { width: 1280, height: 800 },
    locale: "en-GB",
    timezoneId: "Europe/London",
    launchOptions: { executablePath: "/usr/bin/chromium", args: browserArgs },
  },
});
