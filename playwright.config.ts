import { defineConfig } from "@playwright/test";

const flags = [
  "--no-sandbox",
  "--disable-background-networking",
  "--disable-component-update",
  "--disable-sync",
  "--disable-quic",
  "--no-first-run",
  "--disable-dev-shm-usage",
];

/** `npm test` starts the database and the server and says where they are. */
export default defineConfig({
  testDir: "./tests/browser",
  // What the first leaves behind, a register and a signed round, is what the others look at.
  projects: [
    { name: "the whole way", testMatch: "whole-way.spec.ts" },
    { name: "what it left", testIgnore: "whole-way.spec.ts", dependencies: ["the whole way"] },
  ],
  timeout: 150_000,
  // A busy machine takes its time; what does not come in this long does not come.
  expect: { timeout: 30_000 },
  workers: 1,
  reporter: [["line"]],
  use: {
    baseURL: process.env.NOMADE_ADDRESS ?? "http://127.0.0.1:3170",
    viewport: { width: 1280, height: 800 },
    colorScheme: "light",
    actionTimeout: 20_000,
    locale: "en-GB",
    timezoneId: "Europe/Vienna",
    contextOptions: { reducedMotion: "reduce" },
    launchOptions: { executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium", args: flags },
  },
});
