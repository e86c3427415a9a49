import { afterAll, beforeAll, describe, expect, it } from "@jest/globals";
import type { Finding } from "@/core/findings/finding";
import type { FacilityDocument } from "@/core/facility/document";
import type { HolderId } from "@/core/facility/holder-id";
import { decideLine, keepUnremarkable } from "@/operations/certification/decide-line";
import { findingsOf } from "@/operations/findings/findings-of";
import { openRegister } from "@/operations/register/open-register";
import { openRound } from "@/operations/certification/open-round";
import { previewRound } from "@/operations/certification/preview-round";
import type { Account } from "@/operations/ports/accounts";
import { isDescribed } from "@/core/certification/withdrawal/described-change";
import { unwatched } from "@/operations/ports/progress";
import { showDocket } from "@/operations/certification/show-docket";
import type { ShownDocket } from "@/operations/certification/show-docket";
import { listOrders, showRound } from "@/operations/certification/show-rounds";
import { usualTerms } from "@/core/certification/round-terms";
import { countDecisions, signDocket as signatureOf } from "@/core/certification/sign-docket";
import { signingStatement } from "@/core/certification/signing-statement";
import { signDocket } from "@/operations/certification/sign-docket";
import { signIn, signOut, whoIs } from "@/operations/administration/sign-in";
import { storeFacility } from "@/operations/intake/store-contents";
import { lookForFindings } from "@/operations/findings/look-for-findings";
import { orchard } from "../browser/orchard";
import { ownDatabase } from "./own-database";
import type { OwnDatabase } from "./own-database";

let own: OwnDatabase;
let services: OwnDatabase["services"];
let [tessa, dagmar, otto] = [] as unknown as [Account, Account, Account];
let snapshot: number;

/** Beside the orchard's people a card that nobody holds: its line falls to the reviewer. */
const document: FacilityDocument = {
  ...orchard,
  credentials: [...(orchard.credentials ?? []), { id: "c-spare", kind: "card", status: "active", number: "40199", facilityCode: "87" }],
  grants: [...(orchard.grants ?? []), { id: "spare-barn", to: { credential: "c-spare" }, open: { door: "barn-door" }, schedule: "day" }],
};

beforeAll(async () => {
  own = await ownDatabase("nomade_rounds");
  ({ services } = own);
  [tessa, dagmar, otto] = [
    await own.account("tessa", "reviewer"),
    await own.account("dagmar", "manager", "dagmar"),
    await own.account("otto", "owner", "otto"),
  ];
  await storeFacility(services, JSON.stringify(document), "controller", { signIn: "test" }, unwatched);
  await lookForFindings(services);
  snapshot = (await services.snapshots.latest())?.id ?? -1;
});

afterAll(() => own.close());

const open = (): Promise<number> => openRound(services, tessa, { name: "Spring", due: "2026-04-01", snapshot, terms: usualTerms }, unwatched);
const about = (holder: HolderId) => ({ ...usualTerms, scope: { about: holder } });
const docketOf = async (round: number, of: Account): Promise<ShownDocket> => {
  const docket = (await services.rounds.dockets({ round })).find(({ account }) => account === of.id);
  const shown = docket && (await showDocket(services, of, docket.id));
  if (!shown) throw new Error(`${of.signIn} has no docket.`);
  return shown;
};
const words = ({ holderName, line }: ShownDocket["lines"][number]): string => `${holderName}: ${line.subject.name}${line.findings.length > 0 ? " !" : ""}`;

describe("a round", () => {
  it("gives each certifier the lines of their people, holders with findings first, and the reviewer what nobody certifies", async () => {
    const round = await open();
    expect((await docketOf(round, dagmar)).lines.map(words)).toEqual([
      "Iris Almondfeld: Cider cellar !",
      "Iris Almondfeld: Barn",
      "Leif Rushdahl: Card 87-40104 !",
      "=Otto Rushgaard: Cider cellar !",
      "=Otto Rushgaard: Barn",
      "Nora Mosstrand: Cider cellar",
      "Nora Mosstrand: Barn",
    ]);
    expect((await docketOf(round, tessa)).lines.map(words)).toEqual(["Card 87-40199: Card 87-40199 !", "Card 87-40199: Barn"]);
    // A round of one person's lines, from one of their findings.
    const iris = { kind: "cardholder", id: "iris" } as const;
    const one = await previewRound(services, tessa, about(iris), unwatched);
    expect([one?.about, one?.lines, one?.flagged, one?.dockets.length]).toEqual(["Iris Almondfeld", 2, 1, 1]);
    const ofIris = await openRound(services, tessa, { name: "About Iris", due: "2026-04-01", snapshot, terms: about(iris) }, unwatched);
    const own = await docketOf(ofIris, dagmar);
    expect(own.lines.map(words)).toEqual(["Iris Almondfeld: Cider cellar !", "Iris Almondfeld: Barn"]);
    const fingerprint = own.lines[0]?.line.findings[0]?.fingerprint ?? "";
    expect(await services.rounds.linesTelling(iris, fingerprint)).toMatchObject([
      { line: own.lines[0]?.id, round: { id: ofIris, name: "About Iris" }, certifierName: "Dagmar Holmwold", decision: undefined, signedAt: undefined },
      { round: { id: round, name: "Spring" } },
    ]);
    const spare = await previewRound(services, tessa, about({ kind: "credential", id: "c-spare" }), unwatched);
    expect([spare?.about, spare?.lines, spare?.uncertified]).toEqual(["Card 87-40199", 2, 2]);
    // Nobody of that number, or a card taken for a person, is nobody; never everybody.
    for (const nobody of [
      { kind: "cardholder", id: "c-spare" },
      { kind: "credential", id: "iris" },
    ] as const)
      expect(await previewRound(services, tessa, about(nobody), unwatched)).toMatchObject({ about: undefined, lines: 0 });
    // What was told before it began.
    const preview = await previewRound(services, tessa, usualTerms, unwatched);
    expect([
      preview?.lines,
      preview?.flagged,
      preview?.uncertified,
      preview?.dockets.map(({ certifier, lines, flagged, hasAccount }) => [certifier, lines, flagged, hasAccount]),
    ]).toEqual([9, 4, 2, [["Dagmar Holmwold", 7, 3, true]]]);
  });

  it("takes decisions on a docket of one's own only, with a reason to keep what is flagged, until it is signed", async () => {
    const round = await open();
    const { docket, lines } = await docketOf(round, dagmar);
    const [iris, barn, leif] = lines.map(({ id }) => id) as [number, number, number];
    expect(await decideLine(services, otto, barn, { decision: "keep", reason: "" })).toEqual({ outcome: "refused", why: "not-yours" });
    expect(await decideLine(services, tessa, barn, { decision: "keep", reason: "" })).toEqual({ outcome: "refused", why: "not-yours" });
    expect(await showDocket(services, otto, docket.id)).toBeUndefined();
    expect(await decideLine(services, dagmar, 999_999, { decision: "keep", reason: "" })).toEqual({ outcome: "refused", why: "not-yours" });
    expect(await decideLine(services, dagmar, iris, { decision: "keep", reason: "  " })).toEqual({ outcome: "refused", why: "reason-needed" });
    expect(await signDocket(services, dagmar, docket.id)).toEqual({ outcome: "undecided", count: 7 });

    expect(await decideLine(services, dagmar, iris, { decision: "withdraw", reason: "By day is enough." })).toEqual({ outcome: "decided", count: 1 });
    // Changed their mind, and then again: the last one counts.
    expect(await decideLine(services, dagmar, iris, { decision: "keep", reason: "Presses at night." })).toEqual({ outcome: "decided", count: 1 });
    expect(await decideLine(services, dagmar, iris, { decision: "withdraw", reason: "No longer." })).toEqual({ outcome: "decided", count: 1 });
    expect(await decideLine(services, dagmar, leif, { decision: "withdraw", reason: "Has left." })).toEqual({ outcome: "decided", count: 1 });
    // All of the department open the barn alike: those lines may be kept together, holder by holder.
    for (const id of ["iris", "nora", "otto"])
      expect(await keepUnremarkable(services, dagmar, docket.id, { kind: "cardholder", id })).toEqual({ outcome: "decided", count: 1 });
    expect(await keepUnremarkable(services, dagmar, docket.id, { kind: "cardholder", id: "iris" })).toEqual({ outcome: "decided", count: 0 });
    expect(await signDocket(services, dagmar, docket.id)).toEqual({ outcome: "undecided", count: 2 });
    for (const { id, decision } of (await docketOf(round, dagmar)).lines)
      if (decision === undefined) await decideLine(services, dagmar, id, { decision: "keep", reason: "works here" });

    expect(await signDocket(services, tessa, docket.id)).toEqual({ outcome: "refused", why: "not-yours" });
    // Two clicks at once are one signature.
    const both = await Promise.all([signDocket(services, dagmar, docket.id), signDocket(services, dagmar, docket.id)]);
    expect(both.map(({ outcome }) => outcome).sort()).toEqual(["refused", "signed"]);
    expect(await decideLine(services, dagmar, iris, { decision: "keep", reason: "after all" })).toEqual({ outcome: "refused", why: "docket-signed" });
    expect(await signDocket(services, dagmar, docket.id)).toEqual({ outcome: "refused", why: "already-signed" });

    const signed = await docketOf(round, dagmar);
    expect([signed.docket.decided, signed.docket.withdrawn, signed.docket.statement]).toEqual([7, 2, expect.stringContaining("dagmar")]);
    expect(
      (await listOrders(services, tessa, round))
        .map(({ holderName, subject, described, reason }) => [
          holderName,
          subject.name,
          isDescribed(described) ? `${described.change.do} ${described.change.list}` : "by hand",
          reason,
        ])
        .sort(),
    ).toEqual([
      ["Iris Almondfeld", "Cider cellar", "remove grants", "No longer."],
      ["Leif Rushdahl", "Card 87-40104", "alter credentials", "Has left."],
    ]);
    expect((await showRound(services, tessa, round))?.orders).toBe(2);
  });

  it("bears a hash of just what is stored, however decisions, reasons and signatures race", async () => {
    for (let turn = 0; turn < 10; turn++) {
      const round = await open();
      const { docket, lines } = await docketOf(round, dagmar);
      for (const { id } of lines) await decideLine(services, dagmar, id, { decision: "keep", reason: "needed" });
      const [first] = lines;
      const racing = Array.from({ length: 5 }, (_, i) => decideLine(services, dagmar, first?.id ?? -1, { decision: "keep", reason: `needed ${turn}-${i}` }));
      const [signing] = await Promise.all([signDocket(services, dagmar, docket.id), ...racing]);
      const outcome = signing.outcome === "signed" ? signing : await signDocket(services, dagmar, docket.id);
      if (outcome.outcome !== "signed") throw new Error(JSON.stringify(outcome));
      const stored = await docketOf(round, dagmar);
      const snapshot = await services.snapshots.byId(stored.round.snapshot);
      const again = signatureOf(
        {
          round,
          docket: docket.id,
          snapshot: snapshot?.hash ?? "",
          certifier: dagmar.signIn,
          lines: stored.lines.map(({ id, decision, reason, line }) => ({ id, decision, reason, content: line })),
        },
        () => signingStatement("en", dagmar.name, countDecisions(stored.lines)),
      );
      if (!again.ok) throw new Error("undecided");
      expect([stored.docket.hash, services.digest(again.value.signedText)]).toEqual([outcome.hash, outcome.hash]);
    }
  });

  it("is not signed over a decision that changed after it was looked at", async () => {
    const round = await open();
    const { docket, lines } = await docketOf(round, tessa);
    const reason = "nobody's spare";
    for (const { id } of lines) await decideLine(services, tessa, id, { decision: "keep", reason });
    const [line, ...others] = lines;
    const kept = others.map(({ id }) => ({ line: id, decision: "keep" as const, reason }));
    const signWith = (decision: "keep" | "withdraw", given: string) =>
      services.rounds.sign(
        docket.id,
        { statement: "s", hash: "h", decisions: [{ line: line?.id ?? -1, decision, reason: given }, ...kept] },
        [],
        tessa,
        services.now(),
      );
    expect(await signWith("withdraw", reason)).toBe("changed-meanwhile");
    // A reason is signed as well: one that was written meanwhile is not signed unseen.
    expect(await signWith("keep", "another")).toBe("changed-meanwhile");
    expect((await docketOf(round, tessa)).docket.signedAt).toBeUndefined();
    expect((await signDocket(services, tessa, docket.id)).outcome).toBe("signed");
  });
});

describe("what speaks against somebody", () => {
  const ids = (found: readonly Pick<Finding, "rule" | "subject">[]): string[] =>
    found.map(({ rule, subject }) => `${rule} ${subject.kind} ${subject.id}`).sort();

  it("is found by cardholder and by card, by both at once, and for nobody is nothing", async () => {
    const page = (filter: Parameters<typeof services.findings.page>[1]) => services.findings.page(snapshot, filter, "2026-03-01", 100);
    const all = await page({});
    expect(all.length).toBeGreaterThan(1);
    const of = (cardholders: readonly string[], credentials: readonly string[]) =>
      ids(
        all.filter(({ cardholder, subject }) => cardholders.includes(cardholder ?? "") || (subject.kind === "credential" && credentials.includes(subject.id))),
      );
    for (const [cardholders, credentials] of [
      [["iris"], []],
      [["iris", "leif"], []],
      [[], ["c-leif"]],
      [["iris"], ["c-leif", "c-nora"]],
    ] as const)
      expect(ids(await page({ cardholders, credentials }))).toEqual(of(cardholders, credentials));
    expect(await page({ cardholders: [], credentials: [] })).toEqual([]);
    expect(ids(await page({ rule: "around-the-clock", cardholders: ["iris", "leif"] }))).toEqual(["around-the-clock cardholder iris"]);
    expect((await page({})).map(({ risk }) => risk)).toEqual(all.map(({ risk }) => risk).sort((a, b) => b - a));
  });

  it("is told of a card also where it is asked for by itself, and where it is said of its holder", async () => {
    const register = await openRegister(services, snapshot);
    if (!register) throw new Error("There is a snapshot.");
    const holders = [
      { kind: "cardholder", id: "iris" },
      { kind: "credential", id: "c-leif" },
      { kind: "credential", id: "c-spare" },
    ] as const;
    const against = await findingsOf(services, register, holders);
    expect(holders.map((holder) => ids(against(holder)))).toEqual([
      ["around-the-clock cardholder iris", "by-exception cardholder iris"],
      ["leaver-live cardholder leif"],
      ["stock-active credential c-spare"],
    ]);
    expect(against({ kind: "cardholder", id: "nora" })).toEqual([]);
  });
});

describe("signing in", () => {
  const at = (time: string) => ({ ...services, now: () => `2026-03-02T${time}:00.000Z` });
  const give = (time: string, password: string) => signIn(at(time), { signIn: "vera", password, source: "10.0.0.1" });

  beforeAll(async () => {
    await services.accounts.put(
      { signIn: "vera", name: "Vera", role: "auditor", cardholder: undefined, passwordHash: await services.passwords.hash("right") },
      { signIn: "test" },
      services.now(),
    );
  });

  it("is refused with a wrong password and with an unknown name, in the same words", async () => {
    expect(await give("08:00", "wrong")).toEqual({ outcome: "refused" });
    expect(await signIn(at("08:00"), { signIn: "nobody", password: "right", source: "10.0.0.1" })).toEqual({ outcome: "refused" });
    expect((await give("08:01", "right")).outcome).toBe("signed-in");
  });

  it("is barred for a quarter of an hour after five wrong passwords in a row, for the right one too", async () => {
    for (let i = 0; i < 5; i++) expect(await give("09:00", "wrong")).toEqual({ outcome: "refused" });
    expect(await give("09:14", "right")).toEqual({ outcome: "barred" });
    expect((await give("09:16", "right")).outcome).toBe("signed-in");
    // The count begins anew.
    for (let i = 0; i < 4; i++) await give("09:20", "wrong");
    expect((await give("09:21", "right")).outcome).toBe("signed-in");
  });

  it("bars a name that nobody has just as one that somebody has, and counts tries that come at once", async () => {
    const tries = await Promise.all(Array.from({ length: 12 }, () => signIn(at("11:00"), { signIn: "no such name", password: "x", source: "10.0.0.2" })));
    expect(tries.map(({ outcome }) => outcome).sort()).toEqual([...Array.from({ length: 7 }, () => "barred"), ...Array.from({ length: 5 }, () => "refused")]);
    const guesses = await Promise.all(Array.from({ length: 12 }, () => give("11:30", "wrong")));
    expect(guesses.filter(({ outcome }) => outcome === "refused")).toHaveLength(5);
    expect(await give("11:31", "right")).toEqual({ outcome: "barred" });
    const recorded = (await services.record.page({}, 40)).filter(({ what }) => what === "sign-in.refused");
    expect(recorded.map(({ who }) => who)).toEqual(expect.arrayContaining(["nobody", "vera"]));
    expect(JSON.stringify(recorded)).not.toContain("no such name");
  });

  it("ends every session with a new password, and twelve hours after it was opened", async () => {
    const [first, second] = [await give("08:00", "right"), await give("08:00", "right")];
    if (first.outcome !== "signed-in" || second.outcome !== "signed-in") throw new Error("The password is right.");
    for (const time of ["12:00", "16:00", "19:59"]) expect((await whoIs(at(time), first.token))?.signIn).toBe("vera");
    expect(await whoIs(at("20:01"), first.token)).toBeUndefined();
    const stale = (await services.accounts.bySignIn("vera"))?.passwordHash ?? "";
    await services.accounts.put(
      { signIn: "vera", name: "Vera", role: "auditor", cardholder: undefined, passwordHash: await services.passwords.hash("right") },
      { signIn: "test" },
      services.now(),
    );
    expect(await whoIs(at("09:00"), second.token)).toBeUndefined();
    // A try that began with the password before opens nothing.
    expect(await services.sessions.open({ tokenHash: "0".repeat(64), account: first.account.id, agent: "" }, stale, at("09:00").now())).toBe(false);
  });

  it("opens a session that ends when it is left, or lies idle for eight hours", async () => {
    const first = await give("10:00", "right");
    const second = await give("10:00", "right");
    if (first.outcome !== "signed-in" || second.outcome !== "signed-in") throw new Error("The password is right.");
    expect(first.token).not.toBe(second.token);
    expect((await whoIs(at("17:59"), first.token))?.signIn).toBe("vera");
    // Used meanwhile, it goes on.
    expect((await whoIs(at("21:59"), first.token))?.signIn).toBe("vera");
    expect(await whoIs(at("18:01"), second.token)).toBeUndefined();
    await signOut(services, first.account, first.token);
    expect(await whoIs(at("23:59"), first.token)).toBeUndefined();
    expect(await whoIs(at("23:59"), "no token at all")).toBeUndefined();
  });
});
