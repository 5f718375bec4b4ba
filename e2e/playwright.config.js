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
  use: {
    viewport: { width: 1280, height: 800 },
    locale: "en-GB",
    timezoneId: "Europe/London",
    launchOptions: { executablePath: "/usr/bin/chromium", args: browserArgs },
  },
});
