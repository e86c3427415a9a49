// What pages cost a server that is up: one user alone, then ten at once with a second of thinking between their requests. Asks a loopback address only, for
// a bounded time, and prints a table. `npm run bench -- --pages` runs it on a dense register.
import { Buffer } from "node:buffer";
import { gunzipSync } from "node:zlib";
import { performance } from "node:perf_hooks";
import { request } from "node:http";
import { parseArgs } from "node:util";
import { readFileSync } from "node:fs";

const { values } = parseArgs({
  options: {
    port: { type: "string" },
    facility: { type: "string" },
    user: { type: "string", default: "reviewer" },
    seconds: { type: "string", default: "40" },
    users: { type: "string", default: "10" },
    server: { type: "string" },
  },
});
const port = Number(values.port);
const facility = JSON.parse(readFileSync(values.facility ?? "", "utf8"));

/** Mulberry32, as in the generators: every run asks the same. */
function seeded(seed) {
  let state = seed >>> 0;
  return (n) => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) % n;
  };
}

/** One request over loopback; gives status, headers, the body and what it took, with the bytes that came over the wire. */
const ask = (path, { cookie, method = "GET", body, headers = {} } = {}) =>
  new Promise((resolve, reject) => {
    const began = performance.now();
    const sent = request({ host: "127.0.0.1", port, path, method, headers: { "accept-encoding": "gzip", ...(cookie && { cookie }), ...headers } }, (reply) => {
      const chunks = [];
      reply.on("data", (chunk) => chunks.push(chunk));
      reply.on("end", () => {
        const bytes = Buffer.concat(chunks);
        const text = reply.headers["content-encoding"] === "gzip" ? gunzipSync(bytes).toString("utf8") : bytes.toString("utf8");
        resolve({ status: reply.statusCode, headers: reply.headers, text, bytes: bytes.length, ms: performance.now() - began });
      });
    });
    sent.once("error", reject);
    sent.end(body);
  });

/** Signs in by the form as a browser without scripts would. */
async function signIn() {
  const page = await ask("/sign-in");
  const fields = [...page.text.matchAll(/<input type="hidden" name="([^"]*)"(?: value="([^"]*)")?/g)].map(([, name, value = ""]) => [
    name,
    value.replaceAll("&quot;", '"').replaceAll("&amp;", "&"),
  ]);
  const mark = "----nomade-load";
  const body =
    [...fields, ["signIn", values.user], ["password", process.env.NOMADE_PASSWORD ?? ""]]
      .map(([name, value]) => `--${mark}\r\nContent-Disposition: form-data; name="${name}"\r\n\r\n${value}\r\n`)
      .join("") + `--${mark}--\r\n`;
  const done = await ask("/sign-in", {
    method: "POST",
    body,
    headers: { "content-type": `multipart/form-data; boundary=${mark}`, origin: `http://127.0.0.1:${port}`, host: `127.0.0.1:${port}` },
  });
  const cookie = (done.headers["set-cookie"] ?? []).map((one) => one.split(";")[0]).join("; ");
  if (!cookie.includes("nomade-session")) throw new Error(`Nobody could sign in (${done.status}).`);
  return cookie;
}

const kinds = {
  verdict: (pick) => `/inquiry?who=cardholder:${pick("cardholders")}&where=door:${pick("doors")}&when=now`,
  "who can open a door": (pick) => `/inquiry?where=door:${pick("doors")}`,
  "what somebody opens": (pick) => `/inquiry?who=cardholder:${pick("cardholders")}`,
  "what a group opens": (pick) => `/inquiry?who=group:${pick("groups")}`,
  "first part of a sheet of everybody": () => "/inquiry?who=everybody&form=sheet",
  "a group in charts": (pick) => `/inquiry/charts?who=group:${pick("groups")}`,
  "a list": (pick, below) => `/register?kind=cardholder&sort=${below(2) ? "name" : "-name"}`,
  "a search": (_, below) => `/register?kind=cardholder&text=${10 + below(90)}`,
  "a suggestion": (_, below) => `/inquiry/suggest?part=who&text=${1 + below(99)}`,
  "a person's page": (pick) => `/register/cardholder/${pick("cardholders")}`,
};
const targets = {
  verdict: 150,
  "who can open a door": 400,
  "what somebody opens": 400,
  "what a group opens": 400,
  "first part of a sheet of everybody": 800,
  "a group in charts": 800,
  "a list": 300,
  "a search": 300,
  "a suggestion": 300,
  "a person's page": 300,
};

const percentile = (numbers, share) => [...numbers].sort((a, b) => a - b)[Math.min(numbers.length - 1, Math.floor(numbers.length * share))] ?? NaN;
const wait = (ms) => new Promise((resolve) => setTimeout(resolve, ms));

function asker(seed) {
  const below = seeded(seed);
  const pick = (list) => encodeURIComponent(facility[list][below(facility[list].length)].id);
  return (kind) => kinds[kind](pick, below);
}

/** Memory of the server with all its threads, in MiB, as Linux tells it. */
const memory = () =>
  values.server === undefined ? NaN : Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${values.server}/status`, "utf8"))?.[1] ?? NaN) / 1024;

const cookie = await signIn();
const addressOf = asker(1);
for (const kind of Object.keys(kinds)) for (let i = 0; i < 6; i++) await ask(addressOf(kind), { cookie });
const alone = Object.fromEntries(Object.keys(kinds).map((kind) => [kind, []]));
const sizes = Object.fromEntries(Object.keys(kinds).map((kind) => [kind, []]));
for (let turn = 0; turn < 25; turn++)
  for (const kind of Object.keys(kinds)) {
    const reply = await ask(addressOf(kind), { cookie });
    if (reply.status !== 200) throw new Error(`${kind}: ${reply.status}`);
    alone[kind].push(reply.ms);
    sizes[kind].push(reply.bytes);
  }
const together = Object.fromEntries(Object.keys(kinds).map((kind) => [kind, []]));
const end = performance.now() + Number(values.seconds) * 1000;
let most = memory();
await Promise.all(
  Array.from({ length: Number(values.users) }, async (_, user) => {
    const address = asker(100 + user);
    const below = seeded(user);
    for (await wait(below(1000)); performance.now() < end; await wait(1000)) {
      const kind = Object.keys(kinds)[below(Object.keys(kinds).length)];
      together[kind].push((await ask(address(kind), { cookie })).ms);
      most = Math.max(most, memory());
    }
  }),
);
const ms = (n) => `${Math.round(n)} ms`;
console.log(`| page | alone p50 | p95 | wanted p95 | bytes, compressed | ${values.users} users p50 | p95 |\n| --- | ---: | ---: | ---: | ---: | ---: | ---: |`);
for (const kind of Object.keys(kinds))
  console.log(
    `| ${kind} | ${ms(percentile(alone[kind], 0.5))} | ${ms(percentile(alone[kind], 0.95))} | ${targets[kind]} ms | ${Math.round(percentile(sizes[kind], 0.95) / 1024)} KiB | ${ms(percentile(together[kind], 0.5))} | ${ms(percentile(together[kind], 0.95))} |`,
  );
if (Number.isFinite(most)) console.log(`\nThe server with its threads: at most ${Math.round(most)} MiB.`);
