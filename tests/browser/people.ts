import { spawnSync } from "node:child_process";
import type { Browser, Page } from "@playwright/test";
import { expect } from "@playwright/test";

export const password = "a-password-for-tests";

/** Runs the command line on the test's database; fails the test where it fails. */
export function nomade(args: readonly string[], env: Record<string, string> = {}): string {
  const done = spawnSync(process.execPath, ["dist/nomade.mjs", ...args], { env: { ...process.env, ...env }, encoding: "utf8" });
  expect(done.status, done.stderr).toBe(0);
  return done.stdout;
}

export function addAccount(signIn: string, name: string, role: string, cardholder?: string, site?: string): void {
  const given = { "--sign-in": signIn, "--name": name, "--role": role, "--cardholder": cardholder, "--site": site };
  nomade(["account", "add", ...Object.entries(given).flatMap(([option, value]) => (value === undefined ? [] : [option, value]))], {
    NOMADE_PASSWORD: password,
  });
}

/** A page of somebody's own, signed in through the form. */
export async function signedIn(browser: Browser, signIn: string, options: Parameters<Browser["newContext"]>[0] = {}): Promise<Page> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, ...options });
  const page = await context.newPage();
  await page.goto("/sign-in");
  await page.getByLabel("Sign-in name").fill(signIn);
  await page.locator("input[name=password]").fill(password);
  await page.getByRole("button", { name: "Sign in" }).click();
  await page.waitForURL((url) => url.pathname !== "/sign-in");
  return page;
}
