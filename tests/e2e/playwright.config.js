import { defineConfig } from "@playwright/test";

// The browser is Debian's own; nothing is fetched.
export default defineConfig({
  testDir: ".",
  timeout: 240_000,
  // Shared machines stall now and then; what never comes still fails.
  expect: { timeout: 30_000 },
  workers: 1,
  fullyParallel: false,
  globalSetup: "./start.js",
  reporter: [["list"], ["json", { outputFile: "../../.keralith/results/e2e.json" }]],
  outputDir: "../../.keralith/results/e2e",
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
      args: ["--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking", "--disable-component-update", "--disable-sync"],
    },
    screenshot: "only-on-failure",
  },
});
