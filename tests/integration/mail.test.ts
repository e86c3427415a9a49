import path from "node:path";
import { afterAll, beforeAll, expect, it } from "@jest/globals";
import { mailSender } from "@/data/mail-sender";
import { addAccount } from "@/operations/administration/accounts";
import { signInByLink, whoseLink } from "@/operations/administration/sign-in-link";
import { decideLine } from "@/operations/certification/decide-line";
import { openRound } from "@/operations/certification/open-round";
import { showRound } from "@/operations/certification/show-rounds";
import { signDocket } from "@/operations/certification/sign-docket";
import { usualTerms } from "@/core/certification/round-terms";
import { storeFacility } from "@/operations/intake/store-contents";
import { usableAddress } from "@/operations/mail/usable-address";
import { runClock } from "@/operations/administration/run-clock";
import type { Account } from "@/operations/ports/accounts";
import type { Outbox } from "@/operations/ports/mail";
import { unwatched } from "@/operations/ports/progress";
import { outboxOf } from "@/standins/mail-outbox";
import { startMailServer } from "@/standins/mail-server";
import { orchard } from "../browser/orchard";
import { ownDatabase } from "./own-database";
import type { OwnDatabase } from "./own-database";

let own: OwnDatabase;
let services: OwnDatabase["services"];
let outbox: Outbox;
let server: Awaited<ReturnType<typeof startMailServer>>;
let wilma: Account;
let now = Date.parse("2026-03-02T09:00:00.000Z");
const sender = (port: number) =>
  mailSender({
    host: "127.0.0.1",
    port,
    user: undefined,
    password: undefined,
    from: "Nomade <nomade@hazel.test>",
    address: "https://nomade.hazel.test",
    isLoopback: true,
  });

beforeAll(async () => {
  own = await ownDatabase("nomade_mail");
  const folder = path.join(own.folder, "standin-mail");
  server = await startMailServer(folder, 0);
  outbox = outboxOf(folder);
  services = { ...own.services, now: () => new Date(now).toISOString(), mailSender: sender(server.port) };
  wilma = await own.account("wilma", "administrator");
  const document = {
    ...orchard,
    groups: (orchard.groups ?? []).map((group) => (group.id === "press" ? { ...group, manager: "dagmar" } : group)),
    areas: (orchard.areas ?? []).map((area) => (area.id === "cellar" ? { ...area, owner: "otto" } : area)),
    cardholders: (orchard.cardholders ?? []).map((one) =>
      one.id === "dagmar"
        ? { ...one, manager: "iris" }
        : one.id === "iris"
          ? { ...one, email: "iris@hazel.test" }
          : // An address with a line end in it would send the mail to somebody else, too.
            one.id === "otto"
            ? { ...one, email: "otto@hazel.test\r\nBcc: thief@hazel.test" }
            : one,
    ),
  };
  await storeFacility(services, JSON.stringify(document), "controller", { signIn: "test" }, unwatched);
  await addAccount(services, wilma, {
    signIn: "dagmar",
    name: "Dagmar\r\nX-Evil: yes",
    role: "manager",
    cardholder: "dagmar",
    email: "dagmar@hazel.test",
    language: "de",
  });
  await addAccount(services, wilma, { signIn: "otto", name: "Otto", role: "owner", cardholder: "otto" });
});

afterAll(async () => {
  await server.stop();
  await own.close();
});

const days = (n: number): void => void (now += n * 86_400_000);
let round: number;

it("no address with blanks, brackets or line ends is ever used", () => {
  for (const bad of ["", "a", "a@b c", "a@b\r\nBcc: c@d", "<a@b>", "a@b,c@d", 'a"@b', "a@b@c", "a\u0000@b"])
    expect([bad, usableAddress(bad)]).toEqual([bad, undefined]);
  for (const good of ["a@b", "first.last+tag@sub.example.test", "ü@köln.test"]) expect(usableAddress(good)).toBe(good);
});

it("invites each certifier once, in their language, with a link that signs in once and leads to the docket", async () => {
  const snapshot = (await services.snapshots.latest())?.id ?? -1;
  round = await openRound(
    services,
    wilma,
    { name: "Spring\r\nSubject: other", due: "2026-03-16", snapshot, terms: { ...usualTerms, by: "both", escalate: [3] } },
    unwatched,
  );
  expect(await runClock(services)).toEqual({ sent: 1, failed: 0 });
  expect(await runClock(services)).toEqual({ sent: 0, failed: 0 });
  const [mail, ...more] = await outbox.list(10);
  expect(more).toEqual([]);
  expect(mail?.to).toContain("dagmar@hazel.test");
  expect([mail?.to.includes("\n"), mail?.subject]).toEqual([false, "Bitte sehen Sie bis 16. März 2026 an, wer welche Türen öffnen darf"]);
  expect(mail?.words).toMatch(/Das dauert etwa (eine Minute|\S+ Minuten)\./);
  // Nothing personal beyond names: no door, no hours, nobody whose access it is.
  expect(mail?.words).not.toMatch(/Cellar|Barn|Nora|08–18/);
  const link = /https:\/\/nomade\.hazel\.test\/sign-in\/link\?token=(\S+)/.exec(mail?.words ?? "")?.[1] ?? "";
  const who = { token: link, code: "", source: "s", agent: "a" };
  expect((await whoseLink(services, link))?.account.signIn).toBe("dagmar");
  const docket = (await services.rounds.dockets({ round })).find(({ certifier }) => certifier === "dagmar");
  expect(await signInByLink(services, who)).toMatchObject({ outcome: "signed-in", path: `/docket/${docket?.id ?? 0}` });
  expect(await signInByLink(services, who)).toEqual({ outcome: "refused" });
  // The database has no link in it: only its hash.
  expect(JSON.stringify(await services.mails.ofRound(round))).not.toContain(link);
});

it("reminds on the days of the plan, only with the latest of those that were missed, and tells the manager when it is overdue", async () => {
  days(8);
  expect(await runClock(services)).toEqual({ sent: 1, failed: 0 });
  expect((await outbox.list(1))[0]?.subject).toBe("Noch zu entscheiden bis 16. März 2026: Spring Subject: other");
  expect(await runClock(services)).toEqual({ sent: 0, failed: 0 });
  // Due on 16 March, now it is the 20th: of each docket its certifier's own manager is told, nobody is reminded any more.
  days(10);
  expect(await runClock(services)).toEqual({ sent: 2, failed: 0 });
  const told = await outbox.list(2);
  const escalation = told.find(({ to }) => to.includes("iris"));
  expect(told.find(({ to }) => to.includes("dagmar"))?.subject).toBe("Überfällig, war fällig am 16. März 2026: =Otto Rushgaard, Spring Subject: other");
  expect([escalation?.to, escalation?.subject.startsWith("Overdue, was due on 16 Mar 2026: ")]).toEqual(['"Iris Almondfeld" <iris@hazel.test>', true]);
  expect(escalation?.words).not.toContain("https://");
});

it("what could not be sent is told with why, and tried again later", async () => {
  const broken = { ...services, mailSender: sender(1) };
  const dagmar = (await services.accounts.byCardholder("dagmar")) as Account;
  const docket = (await services.rounds.dockets({ round })).find(({ certifier }) => certifier === "dagmar")?.id ?? -1;
  for (const { id } of await services.rounds.lines({ docket })) await decideLine(services, dagmar, id, { decision: "keep", reason: "Comes in every day." });
  expect((await signDocket(services, dagmar, docket, "de")).outcome).toBe("signed");
  expect(await runClock(broken)).toEqual({ sent: 0, failed: 1 });
  const state = async () => (await showRound(services, wilma, round))?.mails?.find(({ kind }) => kind === "receipt");
  expect(await state()).toMatchObject({ tries: 1, sentAt: undefined, lastError: expect.stringContaining("ECONNREFUSED") as unknown as string });
  // Not before its time, and then by the server that is there again.
  expect(await runClock(services)).toEqual({ sent: 0, failed: 0 });
  now += 61_000;
  expect(await runClock(services)).toEqual({ sent: 1, failed: 0 });
  expect((await state())?.lastError).toBeUndefined();
  const [receipt] = await outbox.list(1);
  const signed = (await services.rounds.dockets({ id: docket }))[0];
  expect(receipt?.words.replace(/=?\s+/g, "")).toContain(signed?.hash);
  const entries = await services.record.page({ what: "docket.signed" }, 1);
  expect(receipt?.words).toContain(`Eintrag ${entries[0]?.number ?? 0}`);
  // A signed docket asks for nothing more.
  days(30);
  expect(await runClock(services)).toEqual({ sent: 0, failed: 0 });
});

it("sends nothing and queues nothing where no mail server is set", async () => {
  const without = { ...services, mailSender: mailSender(undefined) };
  expect(await runClock(without)).toEqual({ sent: 0, failed: 0 });
  expect((await showRound(without, wilma, round))?.mails).toBeUndefined();
});
