import { createHash } from "node:crypto";
import { spawnSync } from "node:child_process";
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "@jest/globals";
import Joi from "joi";
import { packNames, readSums, stampNames, sumsText, trialsName } from "@/core/evidence/pack-names";
import type { LineEvidence } from "@/core/evidence/round-evidence";
import { stampOfPack, verifyPack } from "@/core/evidence/verify-pack";
import type { PackCheckKind, PackProblem } from "@/core/evidence/verify-pack";
import { usualTerms } from "@/core/certification/round-terms";
import { packRound } from "@/operations/evidence/export-round";
import { decideLine } from "@/operations/certification/decide-line";
import { openRound } from "@/operations/certification/open-round";
import { askToClose, commentLine } from "@/operations/certification/run-round";
import { closeRound } from "@/operations/certification/close-round";
import { previewSending, sendOrders } from "@/operations/certification/send-orders";
import { signDocket } from "@/operations/certification/sign-docket";
import { storeFacility } from "@/operations/intake/store-contents";
import { unwatched } from "@/operations/ports/progress";
import { checkStamp } from "@/data/time-stamp-token";
import { timeStampStore } from "@/data/time-stamp-store";
import { authorityCertificate } from "@/standins/authority-certificate";
import { startTimestampAuthority } from "@/standins/timestamp-authority";
import { ArchiveError, filesOfArchive } from "@/papers/evidence/archive";
import { addDays, formatCivilDay, parseCivilDay } from "@/core/time/civil-day";
import type { CivilDay } from "@/core/time/civil-day";
import { readHoursBack } from "../judge/read-hours";
import { orchard } from "../browser/orchard";
import { ownDatabase } from "./own-database";
import type { OwnDatabase } from "./own-database";

const sha256 = (bytes: Uint8Array | string): string => createHash("sha256").update(bytes).digest("hex");
const digests = { text: sha256, bytes: sha256 };

let own: OwnDatabase;
let folder: string;
let files: ReadonlyMap<string, Uint8Array>;
let packHash: string;
let round: number;

beforeAll(async () => {
  folder = mkdtempSync(path.join(tmpdir(), "nomade-pack-"));
  own = await ownDatabase("nomade_pack");
  const { services } = own;
  const [tessa, wilma, dagmar] = [
    await own.account("tessa", "reviewer"),
    await own.account("wilma", "administrator"),
    await own.account("dagmar", "manager", "dagmar"),
  ];
  const document = { ...orchard, areas: (orchard.areas ?? []).map((area) => ({ ...area, owner: "nora" })) };
  await storeFacility(services, JSON.stringify(document), "controller", { signIn: "test" }, unwatched);
  const snapshot = (await services.snapshots.latest())?.id ?? -1;
  const terms = { ...usualTerms, scope: { definitions: "too" as const } };
  round = await openRound(services, tessa, { name: "Spring & all", due: "2026-04-01", snapshot, terms }, unwatched);
  const docket = (await services.rounds.dockets({ round })).find(({ account }) => account === dagmar.id)?.id ?? -1;
  const lines = await services.rounds.lines({ docket });
  await commentLine(services, dagmar, lines[0]?.id ?? -1, "Who asked for this?");
  for (const [i, { id }] of lines.entries())
    await decideLine(services, dagmar, id, { decision: i === 0 ? "withdraw" : "keep", reason: "Works there every week." });
  await signDocket(services, dagmar, docket);
  const sending = await previewSending(services, wilma, round);
  await sendOrders(services, wilma, round, sending?.snapshot ?? -1);
  await askToClose(services, tessa, round, "The owner is away.");
  await closeRound(services, wilma, round);
  const trial = { credential: "c-nora", door: "cellar-door", at: "2026-07-08T20:30Z", lockdown: false, note: "" };
  await services.trials.add({ ...trial, expected: "open" }, { signIn: "tessa" }, services.now());
  await services.trials.add({ ...trial, at: "2026-07-08T10:30Z", expected: "open" }, { signIn: "tessa" }, services.now());
  const pack = await packRound(services, { signIn: "tessa" }, round, unwatched, "auditor-7");
  if (!pack) throw new Error("no pack");
  ({ packHash } = pack);
  files = filesOfArchive(pack.bytes);
});

afterAll(async () => {
  rmSync(folder, { recursive: true, force: true });
  await own.close();
});

const textOf = (of: ReadonlyMap<string, Uint8Array>, name: string): string => new TextDecoder().decode(of.get(name));

/** The pack with some files as they would be written by somebody who knows how: its sums are made anew. */
function tampered(
  change: (write: (name: string, as: (text: string) => string) => void, all: Map<string, Uint8Array>) => void,
): ReadonlyMap<string, Uint8Array> {
  const all = new Map(files);
  change((name, as) => all.set(name, new TextEncoder().encode(as(textOf(all, name)))), all);
  const names = [...all.keys()].filter((name) => name !== packNames.sums);
  all.set(packNames.sums, new TextEncoder().encode(sumsText(new Map(names.map((name) => [name, sha256(all.get(name) ?? "")])))));
  return all;
}

const objectsOf = <T>(name: string): T[] =>
  textOf(files, name)
    .trim()
    .split("\n")
    .map((line) => JSON.parse(line) as T);

/** Whole dates of what is resolved. */
const [firstDate, lastDate] = ["2026-03-02", "2027-03-30"];
const dayOf = (date: string): CivilDay => parseCivilDay(date) as CivilDay;

const viennaClock = new Intl.DateTimeFormat("sv-SE", { timeZone: "Europe/Vienna", dateStyle: "short", timeStyle: "short" });
/** Date and minute of the day on a clock in Vienna, by the host's own tables. */
function inVienna(instant: string): readonly [date: string, minute: number] {
  const [date = "", clock = ""] = viennaClock.format(new Date(instant)).split(" ");
  const [hour = 0, minute = 0] = clock.split(":").map(Number);
  return [date, hour * 60 + minute];
}

/** Intervals of instants as minutes of the day, date by date; none of them may lie over a clock change but whole days. */
function onDates(open: readonly (readonly [string, string])[]): Map<string, number[]> {
  const dates = new Map<string, number[]>();
  const put = (date: string, start: number, end: number): void => void (end > start && dates.set(date, [...(dates.get(date) ?? []), start, end]));
  for (const [from, to] of open) {
    const [[first, start], [last, end]] = [inVienna(from), inVienna(to)];
    if (first === last) put(first, start, end);
    else {
      put(first, start, 1440);
      for (let date = addDays(dayOf(first), 1); date < dayOf(last); date = addDays(date, 1)) put(formatCivilDay(date), 0, 1440);
      put(last, 0, end);
    }
  }
  return dates;
}

const firstProblem = (of: ReadonlyMap<string, Uint8Array>): readonly [PackCheckKind, PackProblem["code"], string] | undefined => {
  const found = verifyPack(of, digests).checks.find(({ problem }) => problem);
  return found?.problem && [found.what, found.problem.code, found.problem.at];
};

/** Changes one object of a file of JSON Lines. */
const changed =
  <T>(is: (object: T) => boolean, to: (object: T) => object) =>
  (text: string): string =>
    text
      .split("\n")
      .map((line) => {
        if (line === "") return line;
        const object = JSON.parse(line) as T;
        return is(object) ? JSON.stringify(to(object)) : line;
      })
      .join("\n");

describe("an evidence pack", () => {
  it("verifies without a database, in the program and on the command line", () => {
    expect(verifyPack(files, digests)).toMatchObject({ sound: true, packHash });
    const file = path.join(folder, "pack.zip");
    return own.services.record.page({ what: "round.exported" }, 1).then(async ([entry]) => {
      expect(entry?.content).toContain(packHash);
      const pack = await packRound(own.services, { signIn: "tessa" }, round, unwatched, "auditor-7");
      writeFileSync(file, pack?.bytes ?? "");
      const done = spawnSync(process.execPath, ["dist/nomade.mjs", "verify", file], { env: { PATH: process.env.PATH, NODE_ENV: "test" }, encoding: "utf8" });
      expect([done.status, JSON.parse(done.stdout)]).toMatchObject([0, { sound: true }]);
      expect(done.stderr).toContain("sampled lines, worked out again from the document: ");
    });
  });

  it("tells how to verify it in commands that run as they stand, whatever the seed is", async () => {
    const seed = 'auditor\'s "7" <&> $HOME `id` \\';
    const pack = await packRound(own.services, { signIn: "tessa" }, round, unwatched, seed);
    const page = textOf(filesOfArchive(pack?.bytes ?? new Uint8Array()), packNames.readme);
    const signs: Readonly<Record<string, string>> = { "&lt;": "<", "&gt;": ">", "&amp;": "&", "&quot;": '"' };
    const read = page.replace(/&(lt|gt|amp|quot);/g, (sign) => signs[sign] ?? sign);
    const [, word = ""] = /printf '%s:%s' (.*) "\$line"/.exec(read) ?? [];
    expect(spawnSync("sh", ["-c", `printf '%s' ${word}`], { encoding: "utf8" }).stdout).toBe(seed);
  });

  it("is checked in a clean folder with sha256sum alone, and its sample is what a shell draws with the seed", () => {
    const clean = path.join(folder, "clean");
    mkdirSync(path.join(clean, "signed"), { recursive: true });
    for (const [name, bytes] of files) writeFileSync(path.join(clean, name), bytes);
    const sums = spawnSync("sha256sum", ["--check", packNames.sums], { cwd: clean, encoding: "utf8" });
    expect([
      sums.status,
      sums.stdout
        .trim()
        .split("\n")
        .every((line) => line.endsWith(": OK")),
    ]).toEqual([0, true]);
    const manifest = JSON.parse(textOf(files, packNames.manifest)) as { snapshot: { hash: string }; sample: { seed: string } };
    expect(spawnSync("sha256sum", [packNames.document], { cwd: clean, encoding: "utf8" }).stdout.split(" ")[0]).toBe(manifest.snapshot.hash);
    const lines = objectsOf<LineEvidence>(packNames.lines).filter(({ content }) => !("definition" in content) && content.subject.kind !== "credential");
    const drawn = lines
      .map(({ line }) => {
        const shell = spawnSync("sh", ["-c", `printf '%s:%s' "$1" "$2" | sha256sum`, "sh", manifest.sample.seed, String(line)], { encoding: "utf8" });
        return { line, by: shell.stdout.slice(0, 64) };
      })
      .sort((a, b) => (a.by < b.by ? -1 : 1))
      .slice(0, 25)
      .map(({ line }) => line);
    const sample = objectsOf<{ line: number }>(packNames.sample).map(({ line }) => line);
    expect(sample).toEqual(drawn);
    // Twenty of them, or all, worked out again by the command line from the document of the pack: every date of 13 months as the words of the line have it.
    let compared = 0;
    for (const { line, content } of lines.filter((one) => sample.slice(0, 20).includes(one.line))) {
      if ("definition" in content) continue;
      const who = content.cardholder === undefined ? ["--credential", content.credential ?? ""] : ["--cardholder", content.cardholder];
      for (const { doors, words } of content.hours) {
        const said = readHoursBack(words, dayOf(firstDate), dayOf(lastDate), (date) => (formatCivilDay(date).endsWith("-05-01") ? "public" : undefined));
        for (const { id } of doors) {
          const args = ["resolve", path.join(clean, packNames.document), "--by", who[0] === "--cardholder" ? "cardholder" : "credential", ...who, "--door", id];
          const resolved = spawnSync(process.execPath, ["dist/nomade.mjs", ...args, "--from", "2026-03-01T06:00:00Z", "--to", "2027-04-01T05:00:00Z"], {
            encoding: "utf8",
          });
          const opens = resolved.stdout.trim().split("\n").filter(Boolean);
          expect([line, id, resolved.status, opens.length]).toEqual([line, id, 0, 1]);
          const byDate = onDates((JSON.parse(opens[0] ?? "{}") as { open: readonly (readonly [string, string])[] }).open);
          for (let date = dayOf(firstDate); date <= dayOf(lastDate); date = addDays(date, 1)) {
            expect([line, id, formatCivilDay(date), byDate.get(formatCivilDay(date)) ?? []]).toEqual([line, id, formatCivilDay(date), said.get(date) ?? []]);
            compared += 1;
          }
        }
      }
    }
    expect(compared).toBeGreaterThan(390);
  });

  it("has a time stamp over the record where an authority is set, which OpenSSL checks as the page tells, and that is found altered", async () => {
    const authority = await startTimestampAuthority(path.join(folder, "authority"), 0);
    const certificate = path.join(folder, "authority", authorityCertificate);
    const timeStamps = timeStampStore({ folder: path.join(folder, "stamps"), address: `http://127.0.0.1:${authority.port}/`, certificate });
    const pack = await packRound({ ...own.services, timeStamps }, { signIn: "tessa" }, round, unwatched, "auditor-7");
    await authority.stop();
    const stamped = filesOfArchive(pack?.bytes ?? new Uint8Array());
    const check = async (of: ReadonlyMap<string, Uint8Array>) => {
      const stamp = stampOfPack(of);
      const checked = stamp && (await checkStamp(stamp.response, stamp.text, stamp.certificates));
      const found = verifyPack(of, digests, stamp && { at: checked?.ok ? checked.at : undefined });
      return [found.sound, found.checks.find(({ what }) => what === "time-stamp")];
    };
    expect(await check(stamped)).toEqual([true, { what: "time-stamp", count: 1 }]);
    // The commands of the page, as they stand.
    const clean = path.join(folder, "stamped");
    for (const [name, bytes] of stamped) {
      mkdirSync(path.dirname(path.join(clean, name)), { recursive: true });
      writeFileSync(path.join(clean, name), bytes);
    }
    const [, verify = ""] = /<pre>(openssl ts -verify[^\n]*)/.exec(textOf(stamped, packNames.readme)) ?? [];
    const done = spawnSync("sh", ["-c", verify], { cwd: clean, encoding: "utf8" });
    expect(done.stdout + done.stderr).toContain("Verification: OK");
    const file = path.join(folder, "stamped.zip");
    writeFileSync(file, pack?.bytes ?? "");
    const cli = spawnSync(process.execPath, ["dist/nomade.mjs", "verify", file], { env: { PATH: process.env.PATH, NODE_ENV: "test" }, encoding: "utf8" });
    expect([cli.status, cli.stderr]).toEqual([0, expect.stringContaining("time stamps over the record: 1, sound")]);
    const otherwise = (change: (all: Map<string, Uint8Array>) => void): Map<string, Uint8Array> => {
      const all = new Map(stamped);
      change(all);
      all.delete(packNames.sums);
      return all.set(packNames.sums, new TextEncoder().encode(sumsText(new Map([...all].map(([name, bytes]) => [name, sha256(bytes)])))));
    };
    for (const [code, change] of [
      ["missing", (all: Map<string, Uint8Array>) => void all.delete(stampNames.response)],
      ["not-recorded", (all: Map<string, Uint8Array>) => void all.set(stampNames.head, new TextEncoder().encode('{"hash":"00","number":1}'))],
      ["unstamped", (all: Map<string, Uint8Array>) => void all.set(stampNames.response, new TextEncoder().encode("torn"))],
      ["unstamped", (all: Map<string, Uint8Array>) => void all.set(stampNames.certificates, new TextEncoder().encode("none"))],
    ] as const)
      expect(await check(otherwise(change))).toMatchObject([false, { problem: { code } }]);
  });

  it("gives each way of tampering away, also where the sums are made anew, and names what does not hold", () => {
    const entries = objectsOf<{ number: number; what: string }>(packNames.record);
    const broken = new Map(files);
    broken.set(packNames.report, new TextEncoder().encode("another report"));
    expect(firstProblem(broken)).toEqual(["files", "altered", packNames.report]);
    const short = new Map(files);
    short.delete(packNames.findings);
    expect(firstProblem(short)).toEqual(["files", "missing", packNames.findings]);
    const more = new Map(files).set("extra.txt", new Uint8Array());
    expect(firstProblem(more)).toEqual(["files", "unknown-file", "extra.txt"]);

    // Trials are run once more: by day the watch does not come in, whatever was expected.
    const [byNight, byDay] = objectsOf<{ isAsExpected: boolean; verdict: string; reason: string }>(trialsName);
    expect([byNight, byDay]).toMatchObject([
      { isAsExpected: true, verdict: "open", reason: "open" },
      { isAsExpected: false, verdict: "closed", reason: "closed-schedule" },
    ]);
    const asWished = changed<{ trial: number }>(
      ({ trial }) => trial === 2,
      (one) => ({ ...one, isAsExpected: true, reason: "open", verdict: "open" }),
    );
    expect(firstProblem(tampered((write) => write(trialsName, asWished)))?.[2]).toMatch(/^trial(s\.jsonl| 2)$/);

    const broke = (name: string, as: (text: string) => string) => firstProblem(tampered((write) => write(name, as)));
    expect(broke(packNames.document, (text) => text.replace("Cider cellar", "Cider barrel"))).toEqual(["document", "altered", packNames.document]);

    const signing = entries.find(({ what }) => what === "docket.signed")?.number;
    const entry = (to: (entry: { number: number }) => object) => changed<{ number: number }>(({ number }) => number === signing, to);
    const lastCut = (text: string) => `${text.trim().split("\n").slice(0, -1).join("\n")}\n`;
    const fourthCut = (text: string) => text.split("\n").toSpliced(3, 1).join("\n");
    expect(
      broke(
        packNames.record,
        entry((one) => ({ ...one, who: "somebody" })),
      ),
    ).toEqual(["record", "hash", `entry ${signing}`]);
    expect(
      broke(
        packNames.record,
        entry((one) => ({ ...one, content: "{}" })),
      ),
    ).toEqual(["record", "values", `entry ${signing}`]);
    expect(broke(packNames.record, lastCut)).toEqual(["record", "head", `entry ${entries.at(-1)?.number}`]);
    expect(broke(packNames.record, fourthCut)).toEqual(["record", "number", `entry ${entries[3]?.number}`]);

    const signed = [...files.keys()].find((name) => name.startsWith("signed/")) ?? "";
    const docket = `docket ${/\d+/.exec(signed)?.[0]}`;
    expect(broke(signed, (text) => text.replace("withdraw", "keep"))).toEqual(["signatures", "not-signed-text", docket]);
    // Whoever makes text and hash fit each other does not make them fit the record.
    const forged = tampered((write, all) => {
      write(signed, (text) => text.replace('"decision":"withdraw"', '"decision":"keep"'));
      const hash = sha256(all.get(signed) ?? "");
      const isSigned = (of: { hash?: string }) => of.hash !== undefined;
      write(
        packNames.dockets,
        changed(isSigned, (of) => ({ ...of, hash })),
      );
    });
    expect(firstProblem(forged)).toEqual(["signatures", "otherwise-recorded", docket]);

    const withdrawn = objectsOf<LineEvidence>(packNames.lines).find(({ decision }) => decision === "withdraw")?.line;
    const line = (to: (line: LineEvidence) => object) => changed<LineEvidence>((of) => of.line === withdrawn, to);
    expect(
      broke(
        packNames.lines,
        line((of) => ({ ...of, decision: "keep" })),
      ),
    ).toEqual(["decisions", "otherwise-decided", `line ${withdrawn}`]);
    expect(
      broke(
        packNames.lines,
        line((of) => ({ ...of, reason: "Another." })),
      ),
    ).toEqual(["decisions", "otherwise-decided", `line ${withdrawn}`]);
    const [order] = objectsOf<{ order: number }>(packNames.orders);
    const everyOrder = changed<{ lines: number[] }>(
      () => true,
      (of) => ({ ...of, lines: [999_999] }),
    );
    expect(broke(packNames.orders, everyOrder)).toEqual(["orders", "not-withdrawn", `order ${order?.order}`]);
    expect(broke(packNames.findings, () => "")?.slice(0, 2)).toEqual(["findings", "unknown-finding"]);

    const anew = (name: string) => ["machine-files", "otherwise-worked-out", name];
    expect(broke(packNames.manifest, (text) => text.replace('"signed":1', '"signed":2'))).toEqual(anew(packNames.manifest));
    expect(broke(packNames.oscal, (text) => text.replace("not-satisfied", "satisfied"))).toEqual(anew(packNames.oscal));
    expect(broke(packNames.sample, lastCut)).toEqual(["machine-files", "other-sample", packNames.sample]);
    expect(broke(packNames.lines, () => "no JSON")).toEqual(["document", "unreadable", packNames.lines]);
  });

  it("is no pack where it is no archive", () => {
    expect(() => filesOfArchive(new TextEncoder().encode("PK and nothing more"))).toThrow(ArchiveError);
    expect(verifyPack(new Map(), digests).sound).toBe(false);
    expect(readSums("no sum\n")).toBeUndefined();
  });

  it("has assessment results in the form that OSCAL gives them", () => {
    // Of the parts that are used, in our own words (from memory of NIST's OSCAL 1.1 assessment results); no package carries its schema.
    const uuid = Joi.string()
      .pattern(/^[0-9A-Fa-f]{8}-[0-9A-Fa-f]{4}-[45][0-9A-Fa-f]{3}-[89ABab][0-9A-Fa-f]{3}-[0-9A-Fa-f]{12}$/)
      .required();
    const text = Joi.string().min(1).required();
    const time = Joi.string().isoDate().required();
    const props = Joi.array()
      .min(1)
      .items(
        Joi.object({
          name: Joi.string()
            .pattern(/^[\p{L}_][\p{L}\p{N}.\-_]*$/u)
            .required(),
          ns: Joi.string().uri(),
          value: Joi.string()
            .pattern(/^\S(.*\S)?$/)
            .required(),
        }),
      );
    const schema = Joi.object({
      "assessment-results": Joi.object({
        uuid,
        metadata: Joi.object({ title: text, "last-modified": time, version: text, "oscal-version": text, props }).required(),
        "import-ap": Joi.object({ href: text, remarks: Joi.string() }).required(),
        results: Joi.array()
          .min(1)
          .items(
            Joi.object({
              uuid,
              title: text,
              description: text,
              start: time,
              end: Joi.string().isoDate(),
              "reviewed-controls": Joi.object({
                "control-selections": Joi.array()
                  .min(1)
                  .items(
                    Joi.object({
                      "include-controls": Joi.array()
                        .min(1)
                        .items(
                          Joi.object({
                            "control-id": Joi.string()
                              .pattern(/^[a-z]{2}-\d+(\.\d+)?$/)
                              .required(),
                          }),
                        ),
                    }),
                  )
                  .required(),
              }).required(),
              observations: Joi.array()
                .min(1)
                .items(
                  Joi.object({
                    uuid,
                    title: Joi.string(),
                    description: text,
                    methods: Joi.array()
                      .min(1)
                      .items(Joi.valid("EXAMINE", "INTERVIEW", "TEST", "UNKNOWN"))
                      .required(),
                    types: Joi.array().min(1).items(Joi.string()),
                    props,
                    "relevant-evidence": Joi.array()
                      .min(1)
                      .items(Joi.object({ href: Joi.string(), description: text })),
                    collected: time,
                  }),
                ),
              findings: Joi.array()
                .min(1)
                .items(
                  Joi.object({
                    uuid,
                    title: text,
                    description: text,
                    target: Joi.object({
                      type: Joi.valid("statement-id", "objective-id").required(),
                      "target-id": text,
                      status: Joi.object({ state: Joi.valid("satisfied", "not-satisfied").required() }).required(),
                    }).required(),
                    "related-observations": Joi.array()
                      .min(1)
                      .items(Joi.object({ "observation-uuid": uuid })),
                  }),
                ),
            }),
          )
          .required(),
      }).required(),
    });
    const results: unknown = JSON.parse(textOf(files, packNames.oscal));
    expect(schema.validate(results, { abortEarly: false }).error?.details).toBeUndefined();
    // One docket was closed without a signature: the controls are not satisfied.
    expect(textOf(files, packNames.oscal)).toContain("not-satisfied");
  });

  it("has a report that is a PDF with pages, and a page that needs nothing from outside", () => {
    const report = Buffer.from(files.get(packNames.report) ?? []);
    expect([report.subarray(0, 5).toString(), report.length > 10_000]).toEqual(["%PDF-", true]);
    const page = textOf(files, packNames.readme);
    expect(page).toContain("Spring &amp; all");
    expect(page).not.toMatch(/<script|https?:\/\//);
  });
});
