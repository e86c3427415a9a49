import { expect, test } from "@playwright/test";
import { startIdentityProvider } from "@/standins/identity-provider";
import { freePort, startServer } from "./own-server";
import { nomade, password } from "./people";

test("somebody signs in by the identity provider, and is told in words why they are not let in", async ({ page }) => {
  const port = await freePort();
  const back = `http://127.0.0.1:${port}/sign-in/on/back`;
  const known = { password, staffNumber: undefined };
  const people = [
    { ...known, signIn: "odo", name: "Odo Onsign", email: "odo@hazel.test" },
    { ...known, signIn: "nobody", name: "Nobody", email: "nobody@hazel.test" },
  ];
  const provider = await startIdentityProvider({ port: 0, clientId: "nomade", back, people });
  nomade(["account", "add", "--sign-in", "odo@hazel.test", "--name", "Odo Onsign", "--role", "auditor", "--email", "odo@hazel.test"], {
    NOMADE_PASSWORD: password,
  });
  const { address, kill } = await startServer(port, {
    NOMADE_OIDC_ISSUER: provider.issuer,
    NOMADE_OIDC_CLIENT_ID: "nomade",
    NOMADE_OIDC_NAME: "the house",
    NOMADE_ADDRESS: `http://127.0.0.1:${port}`,
  });
  try {
    const goThrough = async (name: string): Promise<void> => {
      await page.goto(`${address}/sign-in`);
      await page.getByRole("link", { name: "Sign in with the house" }).click();
      await page.getByLabel("Name").fill(name);
      await page.getByLabel("Password").fill(password);
      await page.getByRole("button", { name: "Go on" }).click();
    };
    await goThrough("nobody");
    await expect(page.getByRole("main").getByRole("alert")).toContainText("Nobody here has the e-mail address or staff number");
    await goThrough("odo");
    await page.waitForURL(`${address}/inquiry`);
    await expect(page.getByText("Odo Onsign, auditor")).toBeVisible();
    // Whoever follows the address once more, or comes from another browser, begins anew.
    await page.goto(`${back}?code=x&state=y`);
    await expect(page.getByRole("main").getByRole("alert")).toContainText("Begin again");
  } finally {
    kill();
    await provider.stop();
  }
});
