import { spawnSync } from "node:child_process";
import { afterAll, beforeAll, describe, expect, it } from "@jest/globals";
import { generate } from "otplib";
import {
  addAccount,
  askSecondFactor,
  changeAccount,
  endAccount,
  listAccounts,
  makeCertifierAccounts,
  resetAccount,
} from "@/operations/administration/accounts";
import { changePassword, endSession, showOwnAccount } from "@/operations/administration/own-account";
import { confirmSecondFactor, dropSecondFactor, offerSecondFactor } from "@/operations/administration/second-factor";
import { signIn, whoIs } from "@/operations/administration/sign-in";
import { signInByLink, whoseLink } from "@/operations/administration/sign-in-link";
import { openRound } from "@/operations/certification/open-round";
import { usualTerms } from "@/core/certification/round-terms";
import { verifyAll } from "@/operations/evidence/verify-all";
import { storeFacility } from "@/operations/intake/store-contents";
import type { Account } from "@/operations/ports/accounts";
import { unwatched } from "@/operations/ports/progress";
import { orchard } from "../browser/orchard";
import { ownDatabase } from "./own-database";
import type { OwnDatabase } from "./own-database";

let own: OwnDatabase;
let services: OwnDatabase["services"];
let wilma: Account;
let now = Date.parse("2026-03-02T09:00:00.000Z");
const minutes = (n: number): void => void (now += n * 60_000);

beforeAll(async () => {
  own = await ownDatabase("nomade_accounts");
  services = { ...own.services, now: () => new Date(now).toISOString() };
  wilma = await own.account("wilma", "administrator");
  await storeFacility(services, JSON.stringify(orchard), "controller", { signIn: "test" }, unwatched);
});

afterAll(() => own.close());

const from = { source: "10.0.0.1", agent: "a browser" };
const tokenOf = (link: string): string => new URL(link, "http://x").searchParams.get("token") ?? "";
const signedIn = async (name: string, password: string, code = ""): Promise<string> => {
  const done = await signIn(services, { signIn: name, password, code, ...from });
  if (done.outcome !== "signed-in") throw new Error(done.outcome);
  return done.token;
};
const idOf = async (name: string): Promise<number> => (await listAccounts(services, wilma)).accounts.find(({ signIn: of }) => of === name)?.id ?? -1;

describe("an account", () => {
  let link = "";

  it("is made without a password, for a cardholder of the register who has none yet; certifiers need one", async () => {
    const asked = { signIn: "dagmar", name: "Dagmar Holmwold", role: "manager" as const };
    expect(await addAccount(services, wilma, asked)).toEqual({ outcome: "refused", why: "needs-cardholder" });
    expect(await addAccount(services, wilma, { ...asked, cardholder: "nobody" })).toEqual({ outcome: "refused", why: "no-cardholder" });
    const made = await addAccount(services, wilma, { ...asked, cardholder: "dagmar" });
    expect(made.outcome).toBe("done");
    link = made.outcome === "done" ? (made.link ?? "") : "";
    expect(await addAccount(services, wilma, { ...asked, cardholder: "dagmar" })).toEqual({ outcome: "refused", why: "name-taken" });
    expect(await addAccount(services, wilma, { ...asked, signIn: "again", cardholder: "dagmar" })).toEqual({ outcome: "refused", why: "cardholder-taken" });
    // Nobody signs in by a password that is not there.
    expect((await signIn(services, { signIn: "dagmar", password: "", ...from })).outcome).toBe("refused");
  });

  it("is opened by its link once, and that link tells nothing when it is over", async () => {
    expect((await whoseLink(services, tokenOf(link)))?.account.name).toBe("Dagmar Holmwold");
    const tries = await Promise.all(Array.from({ length: 4 }, () => signInByLink(services, { token: tokenOf(link), code: "", ...from })));
    expect(tries.map(({ outcome }) => outcome).sort()).toEqual(["refused", "refused", "refused", "signed-in"]);
    expect([await whoseLink(services, tokenOf(link)), await whoseLink(services, "no token")]).toEqual([undefined, undefined]);
    const token = tries.flatMap((one) => (one.outcome === "signed-in" ? [one.token] : []))[0] ?? "";
    const dagmar = await whoIs(services, token);
    if (!dagmar) throw new Error("nobody");
    expect(await changePassword(services, dagmar, token, { present: "", next: "short", ...from })).toBe("short");
    expect(await changePassword(services, dagmar, token, { present: "", next: "cider and apples", ...from })).toBe("changed");
    expect(await whoIs(services, await signedIn("dagmar", "cider and apples"))).toMatchObject({ signIn: "dagmar", role: "manager" });
  });

  it("changes its password only with the present one, and all other sessions end", async () => {
    const [first, second] = [await signedIn("dagmar", "cider and apples"), await signedIn("dagmar", "cider and apples")];
    const dagmar = (await whoIs(services, first)) as Account;
    const next = "apples and cider again";
    expect(await changePassword(services, dagmar, first, { present: "wrong", next, ...from })).toBe("wrong");
    expect(await changePassword(services, dagmar, first, { present: "cider and apples", next: "cider and apples", ...from })).toBe("same");
    expect(await changePassword(services, dagmar, first, { present: "cider and apples", next, ...from })).toBe("changed");
    expect([(await whoIs(services, first))?.signIn, await whoIs(services, second)]).toEqual(["dagmar", undefined]);
    const third = await signedIn("dagmar", next);
    const shown = await showOwnAccount(services, dagmar, third);
    expect(shown?.sessions.map(({ isThis, agent }) => [isThis, agent]).sort()).toEqual([
      [false, "a browser"],
      [true, "a browser"],
    ]);
    const other = shown?.sessions.find(({ isThis }) => !isThis)?.id ?? "";
    expect([await endSession(services, wilma, other), await endSession(services, dagmar, other)]).toEqual([false, true]);
    expect(await whoIs(services, first)).toBeUndefined();
    // After twelve hours a session ends, however much it is used.
    for (let hour = 0; hour < 11; hour++) {
      minutes(60);
      expect(await whoIs(services, third)).toBeDefined();
    }
    minutes(61);
    expect(await whoIs(services, third)).toBeUndefined();
  });

  it("has a second factor of RFC 6238: each code works once, a recovery code once, and tries are limited", async () => {
    const password = "apples and cider again";
    const token = await signedIn("dagmar", password);
    const dagmar = (await whoIs(services, token)) as Account;
    const { secret, uri } = await offerSecondFactor(services, dagmar);
    expect(uri).toContain("otpauth://totp/");
    const code = (): Promise<string> => generate({ secret, epoch: Math.floor(now / 1000) });
    expect(await confirmSecondFactor(services, dagmar, token, secret, "000000")).toBeUndefined();
    const recovery = await confirmSecondFactor(services, dagmar, token, secret, await code());
    expect(recovery?.length).toBe(10);
    expect(new Set(recovery).size).toBe(10);
    // The secret stands in the database sealed, recovery codes as hashes.
    const kept = await services.accounts.secondFactor(dagmar.id);
    expect(JSON.stringify(kept)).not.toContain(secret);
    for (const one of recovery ?? []) expect(JSON.stringify(kept)).not.toContain(one);
    const tries = async (given: string) => (await signIn(services, { signIn: "dagmar", password, code: given, ...from })).outcome;
    expect([await tries(""), await tries(await code())]).toEqual(["code-needed", "code-needed"]);
    minutes(1);
    expect(await tries(await code())).toBe("signed-in");
    expect(await tries(await code())).toBe("code-needed");
    expect([await tries(recovery?.[0] ?? ""), await tries(recovery?.[0] ?? "")]).toEqual(["signed-in", "code-needed"]);
    // Asking for the code in between does not make the limit forget wrong ones.
    for (let i = 0; i < 4; i++) await tries(i % 2 === 0 ? "123456" : "");
    expect(await tries(recovery?.[1] ?? "")).toBe("barred");
    minutes(16);
    const again = await signedIn("dagmar", password, recovery?.[1]);
    expect([await dropSecondFactor(services, dagmar, again, "123456"), await dropSecondFactor(services, dagmar, again, recovery?.[2] ?? "")]).toEqual([
      false,
      true,
    ]);
    expect(await tries("")).toBe("signed-in");
  });

  it("has to set one up first where its role asks for it", async () => {
    const token = await signedIn("dagmar", "apples and cider again");
    await askSecondFactor(services, wilma, "manager", true);
    const dagmar = await whoIs(services, token);
    expect(dagmar?.setUp).toBe("second-factor");
    if (!dagmar) return;
    const { secret } = await offerSecondFactor(services, dagmar);
    const codes = await confirmSecondFactor(services, dagmar, token, secret, await generate({ secret, epoch: Math.floor(now / 1000) }));
    expect((await whoIs(services, token))?.setUp).toBeUndefined();
    expect(await dropSecondFactor(services, dagmar, token, codes?.[0] ?? "")).toBe(false);
    await askSecondFactor(services, wilma, "manager", false);
  });

  it("is reset or ended at once, with all its sessions and links; the only administrator stays", async () => {
    const id = await idOf("dagmar");
    const token = (await signInByLink(services, {
      token: tokenOf(((await resetAccount(services, wilma, id)) as { link: string }).link),
      code: "",
      ...from,
    })) as { token: string };
    expect((await whoIs(services, token.token))?.signIn).toBe("dagmar");
    const reset = (await resetAccount(services, wilma, id)) as { readonly link: string };
    expect(await whoIs(services, token.token)).toBeUndefined();
    expect((await signIn(services, { signIn: "dagmar", password: "apples and cider again", ...from })).outcome).toBe("refused");
    expect(await endAccount(services, wilma, id, true)).toEqual({ outcome: "done" });
    expect(await whoseLink(services, tokenOf(reset.link))).toBeUndefined();
    expect((await services.accounts.all()).map(({ signIn: name }) => name)).toEqual(["wilma"]);
    expect(await endAccount(services, wilma, id, false)).toEqual({ outcome: "done" });
    expect([await endAccount(services, wilma, wilma.id, true), await resetAccount(services, wilma, wilma.id)]).toEqual([
      { outcome: "refused", why: "yourself" },
      { outcome: "refused", why: "yourself" },
    ]);
    const toReviewer = { name: "wilma", role: "reviewer" as const, cardholder: undefined, email: undefined, language: undefined };
    expect(await changeAccount(services, wilma, wilma.id, toReviewer)).toEqual({ outcome: "refused", why: "last-administrator" });
    const link = (await resetAccount(services, wilma, id)) as { readonly link: string };
    const session = (await signInByLink(services, { token: tokenOf(link.link), code: "", ...from })) as { readonly token: string };
    const changed = { name: "Dagmar", role: "owner" as const, cardholder: "dagmar", email: "dagmar@hazel.test", language: "de" as const };
    expect(await changeAccount(services, wilma, id, changed)).toEqual({ outcome: "done" });
    // What somebody could see by their former role is not to be seen in an old session.
    expect(await whoIs(services, session.token)).toBeUndefined();
    expect(await verifyAll(services)).toMatchObject({ sound: true, problems: [] });
    await own.asOwner("UPDATE accounts SET role = 'administrator' WHERE sign_in = 'dagmar'");
    expect((await verifyAll(services)).problems.join(" ")).toContain("Account dagmar is not as entry");
    await own.asOwner("UPDATE accounts SET role = 'owner' WHERE sign_in = 'dagmar'");
  });

  it("is made for all certifiers of a round at once who have none", async () => {
    const document = {
      ...orchard,
      asOf: "2026-03-05T06:00:00Z",
      areas: (orchard.areas ?? []).map((area) => ({ ...area, owner: area.id === "cellar" ? "otto" : "nora" })),
      cardholders: (orchard.cardholders ?? []).map((one) => (one.id === "otto" ? { ...one, email: "otto@hazel.test" } : one)),
    };
    await storeFacility(services, JSON.stringify(document), "controller", { signIn: "test" }, unwatched);
    const snapshot = (await services.snapshots.latest())?.id ?? -1;
    const round = await openRound(services, wilma, { name: "Owners", due: "2026-04-01", snapshot, terms: { ...usualTerms, by: "both" } }, unwatched);
    const made = await makeCertifierAccounts(services, wilma, round);
    expect(made?.map(({ name, signIn: as }) => [name, as]).sort()).toEqual([
      ["=Otto Rushgaard", "otto@hazel.test"],
      ["Nora Mosstrand", "nora.mosstrand.nora"],
    ]);
    expect((await services.rounds.dockets({ round })).every(({ account }) => account !== undefined)).toBe(true);
    expect((await signInByLink(services, { token: tokenOf(made?.[0]?.link ?? ""), code: "", ...from })).outcome).toBe("signed-in");
    expect(await makeCertifierAccounts(services, wilma, round)).toEqual([]);
  });

  it("is listed, reset and ended on the command line when nobody can sign in any more", async () => {
    const nomade = (...args: readonly string[]) => {
      const { status, stdout, stderr } = spawnSync(process.execPath, ["dist/nomade.mjs", "account", ...args], { env: { ...process.env }, encoding: "utf8" });
      const lines = stdout.split("\n").filter((line) => line !== "");
      return { status, stderr, lines: lines.map((line) => JSON.parse(line) as Readonly<Record<string, unknown>>) };
    };
    const listed = nomade("list").lines;
    expect(listed.map((one) => one.signIn)).toEqual(expect.arrayContaining(["wilma", "dagmar", "otto@hazel.test"]));
    expect(JSON.stringify(listed)).not.toContain("argon2");
    const [reset] = nomade("reset", "--sign-in", "wilma").lines;
    const sign = { token: tokenOf(String(reset?.link)), code: "", source: from.source, agent: from.agent };
    expect(await signInByLink({ ...services, now: () => String(reset?.reset) }, sign)).toMatchObject({ outcome: "signed-in" });
    expect(nomade("end", "--sign-in", "dagmar").status).toBe(0);
    expect(await services.accounts.bySignIn("dagmar")).toBeUndefined();
    expect(nomade("end", "--sign-in", "dagmar")).toMatchObject({ status: 1, stderr: "There is no account dagmar that is not ended.\n" });
    expect(await verifyAll(services)).toMatchObject({ sound: true, problems: [] });
  });
});
