import type { Page } from "@playwright/test";
import { expect, test } from "@playwright/test";
import { addAccount, signedIn } from "./people";

/** What cannot be taken as it was meant is refused in words, and nothing is lost by it. */
let reviewer: Page;

test.beforeAll(async ({ browser }) => {
  addAccount("rufus", "Rufus Strict", "reviewer");
  reviewer = await signedIn(browser, "rufus");
});

test("a malformed address is told so, on whatever page", async () => {
  for (const address of ["/register/door/%zz", "/register/%E0%A4%A", "/docket/%", "/%"]) {
    const response = await reviewer.request.get(address);
    expect([address, response.status(), await response.text()]).toEqual([address, 400, expect.stringContaining("A % in this address")]);
  }
  expect(await (await reviewer.request.get("/inquiry?who=%E0%A4%A")).text()).toContain("not understood");
});

test("an upload from nowhere, with a name that cannot be read or with half a million brackets is refused with a sentence", async () => {
  const send = async (data: string, headers: Record<string, string>) => {
    const response = await reviewer.request.post("/intake/upload", { data, headers: { "content-type": "application/octet-stream", ...headers } });
    return {
      status: response.status(),
      headers: response.headers(),
      body: (await response.json()) as { error?: string; preview?: { kind: string; errors: { message: string }[] } },
    };
  };
  expect(await send("{}", { "x-file-name": "x.json", origin: "null" })).toMatchObject({ status: 403, body: { error: "This upload came from another site." } });
  expect(await send("{}", { "x-file-name": "%zz.json" })).toMatchObject({ status: 400, body: { error: expect.stringContaining("%") as unknown } });
  expect((await send("[".repeat(500_000), { "x-file-name": "deep.json" })).body.preview?.kind).toBe("refused");
  const empty = await send("", { "x-file-name": "empty.ics" });
  expect(empty.body.error ?? empty.body.preview?.errors[0]?.message).toMatch(/empty|neither/);
  expect(empty.headers["cache-control"]).toBe("private, no-store");
  expect(empty.headers["x-content-type-options"]).toBe("nosniff");
});

test("parts of a question that are not understood are named, and nothing is answered instead", async () => {
  await reviewer.goto("/inquiry?where=door:cellar-door&colour=red");
  await expect(reviewer.getByRole("heading", { level: 1 })).toHaveText("One part of this question is not understood");
  await expect(reviewer.getByRole("main")).toContainText("colour=red");
  await expect(reviewer.getByRole("table")).toHaveCount(0);
});

test("no page carries notes that it does not show, nor says from where the program's own knowledge comes", async () => {
  for (const address of ["/intake", "/register", "/inquiry", "/findings", "/register/compare?before=1&after=2"])
    expect([address, (await (await reviewer.request.get(address)).text()).match(/notes\\*":\s*\[/)?.[0]]).toEqual([address, undefined]);
  await reviewer.goto("/findings");
  await expect(reviewer.getByRole("complementary")).toContainText("To end it:");
  await expect(reviewer.getByRole("complementary")).not.toContainText("memory");
});

test("a round's due date that cannot be read stays where it was typed, and one in a usual spelling is read", async () => {
  await reviewer.goto("/certification/new");
  await reviewer.getByLabel("Name").fill("Refused round");
  await reviewer.getByLabel("Due").fill("the end of the year");
  await reviewer.getByLabel("Name").click();
  await expect(reviewer.getByLabel("Due")).toHaveValue("the end of the year");
  await reviewer.getByLabel("Due").fill("18 Dec 2099");
  await reviewer.getByLabel("Name").click();
  await expect(reviewer.getByLabel("Due")).toHaveValue("18 Dec 2099");
});

test("in a draft Enter in a reference submits nothing, dates are read as typed, and a doubtful card is asked about", async () => {
  await reviewer.goto("/register/drafts");
  await reviewer.getByLabel("New draft").fill("What is asked");
  await reviewer.getByRole("button", { name: "Begin it" }).click();
  await reviewer.waitForURL(/drafts\/\d+$/);
  const draft = new URL(reviewer.url()).pathname;
  await reviewer.goto(`${draft}/edit?list=credentials`);
  await reviewer.getByRole("combobox", { name: "Cardholder" }).press("Escape");
  await reviewer.getByRole("combobox", { name: "Cardholder" }).press("Enter");
  await expect(reviewer.getByRole("alert").filter({ hasText: "Nothing was written" })).toHaveCount(0);
  await expect(reviewer).toHaveURL(/edit\?list=credentials/);
  await expect(reviewer.getByLabel("Id", { exact: false }).last()).toHaveValue("");
  await reviewer.getByRole("textbox", { name: "Until" }).fill("31.12.2099");
  await reviewer.getByLabel("Number", { exact: true }).fill("4711");
  await expect(reviewer.getByRole("textbox", { name: "Until" })).toHaveValue("31 Dec 2099");
  await reviewer.getByRole("button", { name: "Put it into the draft" }).click();
  await expect(reviewer.getByRole("alert").filter({ hasText: "Is it meant so?" })).toContainText("Nobody holds it");
  await reviewer.getByRole("button", { name: "Put it in all the same" }).click();
  await reviewer.waitForURL(new RegExp(`${draft}$`));
  await expect(reviewer.getByText(/Card 4711/).first()).toBeVisible();

  await reviewer.goto(`${draft}/edit?list=cardholders&key=nora`);
  await reviewer.getByRole("button", { name: "Take it out …" }).click();
  await expect(reviewer.getByText(/better set to “left”/)).toBeVisible();
  await reviewer.getByRole("button", { name: "Take it out", exact: true }).click();
  await expect(reviewer.getByRole("alert").filter({ hasText: "with it." })).toContainText("Credential");
  await reviewer.goto(draft);
  await reviewer.getByRole("button", { name: "Drop" }).click();
  await reviewer.getByRole("button", { name: "Drop it" }).click();
  await expect(reviewer.getByText(/^Dropped/)).toBeVisible();
});
