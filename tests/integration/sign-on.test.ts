import { afterAll, beforeAll, describe, expect, it, jest } from "@jest/globals";
import { signOnProvider } from "@/data/sign-on";
import { beginSignOn, finishSignOn } from "@/operations/administration/sign-on";
import { signInTries } from "@/operations/administration/sign-in-tries";
import { whoIs } from "@/operations/administration/sign-in";
import { storeFacility } from "@/operations/intake/store-contents";
import { unwatched } from "@/operations/ports/progress";
import type { Services } from "@/operations/services";
import { startIdentityProvider } from "@/standins/identity-provider";
import type { ProviderSettings } from "@/standins/identity-provider";
import { orchard } from "../browser/orchard";
import { ownDatabase } from "./own-database";
import type { OwnDatabase } from "./own-database";

const back = "http://127.0.0.1:3170/sign-in/on/back";
const password = "a password of the provider";
const people = [
  { signIn: "d", name: "Dagmar", password, email: "Dagmar@Orchard.example" },
  { signIn: "n", name: "Nora", password, staffNumber: "N-7" },
  { signIn: "t", name: "Tessa", password, email: "tessa@orchard.example" },
  { signIn: "x", name: "Nobody here", password, email: "x@elsewhere.example" },
  { signIn: "two", name: "Two", password, email: "both@orchard.example" },
  { signIn: "empty", name: "Without anything", password, email: "", staffNumber: "" },
];

let own: OwnDatabase;

beforeAll(async () => {
  // Each refusal is told on the server as well.
  jest.spyOn(console, "error").mockImplementation(() => undefined);
  own = await ownDatabase("nomade_sign_on");
  const given: Readonly<Record<string, object>> = {
    dagmar: { email: "dagmar@orchard.example" },
    nora: { staffNumber: "N-7" },
    iris: { email: "both@orchard.example" },
    otto: { email: "both@orchard.example" },
  };
  const cardholders = (orchard.cardholders ?? []).map((one) => ({ ...one, ...given[one.id] }));
  await storeFacility(own.services, JSON.stringify({ ...orchard, cardholders }), "controller", { signIn: "test" }, unwatched);
  await own.account("dagmar", "manager", "dagmar");
  await own.account("nora", "manager", "nora");
  await own.account("iris", "manager", "iris");
  const tessa = { signIn: "tessa", name: "Tessa", role: "reviewer" as const, cardholder: undefined, passwordHash: "none", email: "tessa@orchard.example" };
  await own.services.accounts.put(tessa, { signIn: "test" }, own.services.now());
});
afterAll(() => own.close());

/** The services with a provider of their own, which may lie. */
async function withProvider<T>(twist: Pick<ProviderSettings, "alterClaims" | "alterToken">, use: (services: Services) => Promise<T>): Promise<T> {
  const provider = await startIdentityProvider({ port: 0, clientId: "nomade", back, people, ...twist });
  const signOn = signOnProvider({
    name: "test",
    issuer: provider.issuer,
    clientId: "nomade",
    clientSecret: undefined,
    staffNumberClaim: "staff_number",
    back,
    isLoopback: true,
  });
  try {
    return await use({ ...own.services, tries: signInTries(), signOn });
  } finally {
    await provider.stop();
  }
}

/** What a browser does at the provider: fills its form; gives the query of the address that it is sent back to. */
async function atProvider(address: string, name: string, asked: { readonly factor?: boolean; readonly password?: string } = {}): Promise<string> {
  const page = await (await fetch(address)).text();
  const form = new URLSearchParams(
    [...page.matchAll(/type="hidden" name="(\w+)" value="([^"]*)"/g)].map(([, key = "", value = ""]) => [key, value.replaceAll("&amp;", "&")]),
  );
  form.set("name", name);
  form.set("password", asked.password ?? password);
  if (asked.factor) form.set("factor", "yes");
  const answer = await fetch(new URL("/authorize", address), { method: "POST", body: form, redirect: "manual" });
  const location = answer.headers.get("location");
  return location === null ? "" : new URL(location).search;
}

const around = { source: "here", agent: "test" };

async function goThrough(services: Services, name: string, factor = false) {
  const begun = await beginSignOn(services);
  if (!begun) throw new Error("no provider");
  return finishSignOn(services, { kept: begun.kept, query: await atProvider(begun.address, name, { factor }), ...around });
}

const refused = (why: string) => ({ outcome: "refused", why });

describe("single sign-on with the stand-in provider", () => {
  it("opens the session of the one account that has the e-mail or the staff number, and says so in the record", () =>
    withProvider({}, async (services) => {
      for (const [name, signIn] of [
        ["d", "dagmar"],
        ["n", "nora"],
        ["t", "tessa"],
      ] as const) {
        const done = await goThrough(services, name);
        expect(done.outcome === "signed-in" && (await whoIs(services, done.token))?.signIn).toBe(signIn);
      }
      const [entry] = await services.record.page({ what: "sign-in" }, 1);
      expect([entry?.who, JSON.parse(entry?.content ?? "{}")]).toEqual([
        "tessa",
        { after: { by: "single sign-on", issuer: expect.stringContaining("http://127.0.0.1") } },
      ]);
    }));

  it("lets in nobody whom the register does not know, and none of two who have the same address; each refusal stands in the record", () =>
    withProvider({}, async (services) => {
      expect(await goThrough(services, "x")).toEqual(refused("nobody"));
      // Only one of the two has an account; which of them came cannot be told.
      expect(await goThrough(services, "two")).toEqual(refused("several"));
      expect(await goThrough(services, "empty")).toEqual(refused("nobody"));
      const [entry] = await services.record.page({ what: "sign-in.refused" }, 1);
      expect([entry?.who, entry?.on]).toEqual(["nobody", "no account"]);
    }));

  it("takes an address only where the provider verified it", () =>
    withProvider({ alterClaims: (claims) => ({ ...claims, email_verified: false }) }, async (services) => {
      expect(await goThrough(services, "t")).toEqual(refused("nobody"));
    }));

  it("asks for a second factor of whoever has one", () =>
    withProvider({}, async (services) => {
      const account = (await services.accounts.bySignIn("nora"))?.id ?? -1;
      const factor = { sealed: services.sealer.seal("secret"), recovery: [], lastStep: 0 };
      await services.accounts.setSecondFactor(account, factor, undefined, { signIn: "test" }, services.now());
      expect(await goThrough(services, "n")).toEqual(refused("second-factor"));
      expect((await goThrough(services, "n", true)).outcome).toBe("signed-in");
      await services.accounts.setSecondFactor(account, undefined, undefined, { signIn: "test" }, services.now());
    }));

  it("refuses another state, a query of another try, a missing or altered cookie, and a code that was used", () =>
    withProvider({}, async (services) => {
      const [begun, other] = [await beginSignOn(services), await beginSignOn(services)];
      if (!begun || !other) throw new Error("no provider");
      const query = await atProvider(begun.address, "t");
      const wrongState = new URLSearchParams(query);
      wrongState.set("state", "another");
      expect(await finishSignOn(services, { kept: begun.kept, query: `?${wrongState}`, ...around })).toEqual(refused("not-fitting"));
      // The verifier of another try does not fit the code, and its state is another one.
      expect(await finishSignOn(services, { kept: other.kept, query, ...around })).toEqual(refused("not-fitting"));
      for (const kept of ["", "nothing", `${begun.kept.slice(0, -2)}AA`])
        expect(await finishSignOn(services, { kept, query, ...around })).toEqual(refused("over"));
      const later = { ...services, now: () => new Date(Date.now() + 11 * 60_000).toISOString() };
      expect(await finishSignOn(later, { kept: begun.kept, query, ...around })).toEqual(refused("over"));
      expect((await finishSignOn(services, { kept: begun.kept, query, ...around })).outcome).toBe("signed-in");
      expect(await finishSignOn(services, { kept: begun.kept, query, ...around })).toEqual(refused("not-fitting"));
      for (const nonsense of ["", "?", "?code=x", "?error=access_denied&state=x", "?state=%00"])
        expect(await finishSignOn({ ...services, tries: signInTries() }, { kept: begun.kept, query: nonsense, ...around })).toEqual(refused("not-fitting"));
    }));

  const unsigned = (token: string): string => {
    const [, claims = ""] = token.split(".");
    return `${Buffer.from('{"alg":"none"}').toString("base64url")}.${claims}.`;
  };
  const otherwise = (change: (claims: Record<string, unknown>) => object) => (token: string) => {
    const [head = "", claims = "", signature = ""] = token.split(".");
    const altered = change(JSON.parse(Buffer.from(claims, "base64url").toString()) as Record<string, unknown>);
    return `${head}.${Buffer.from(JSON.stringify(altered)).toString("base64url")}.${signature}`;
  };
  it.each<[string, Pick<ProviderSettings, "alterClaims" | "alterToken">]>([
    ["another nonce", { alterClaims: (claims) => ({ ...claims, nonce: "another" }) }],
    ["no nonce", { alterClaims: ({ nonce: _, ...claims }) => claims }],
    ["another signature", { alterToken: (token) => `${token.slice(0, -8)}AAAAAAAA` }],
    ["no signature", { alterToken: unsigned }],
    ["somebody else in a signed token", { alterToken: otherwise((claims) => ({ ...claims, email: "tessa@orchard.example" })) }],
    ["another issuer", { alterToken: otherwise((claims) => ({ ...claims, iss: "http://127.0.0.1:1" })) }],
    ["a token for somebody else's client", { alterToken: otherwise((claims) => ({ ...claims, aud: "other" })) }],
    ["a token that is over", { alterToken: otherwise((claims) => ({ ...claims, exp: 1 })) }],
    ["no token", { alterToken: () => "nothing" }],
  ])("refuses %s", (_what, twist) =>
    withProvider(twist, async (services) => {
      expect(await goThrough(services, "d")).toEqual(refused("not-fitting"));
    }),
  );

  it("does not lead to a provider that does not answer, and limits the tries of a source", async () => {
    const signOn = signOnProvider({
      name: "gone",
      issuer: "http://127.0.0.1:9",
      clientId: "nomade",
      clientSecret: undefined,
      staffNumberClaim: "s",
      back,
      isLoopback: true,
    });
    expect(await beginSignOn({ ...own.services, signOn })).toBeUndefined();
    await withProvider({}, async (services) => {
      const begun = await beginSignOn(services);
      const outcomes = [];
      for (let i = 0; i < 7; i++) outcomes.push(await finishSignOn(services, { kept: begun?.kept ?? "", query: "?code=x", ...around }));
      expect(outcomes.map((one) => one.outcome === "refused" && one.why)).toEqual([...Array<string>(5).fill("not-fitting"), "barred", "barred"]);
    });
  });
});

describe("the stand-in provider", () => {
  it("knows one client, one address and PKCE, and a wrong password leads nowhere", () =>
    withProvider({}, async (services) => {
      const address = new URL((await beginSignOn(services))?.address ?? "");
      expect(await atProvider(address.href, "t", { password: "wrong" })).toBe("");
      for (const [name, value] of [
        ["client_id", "other"],
        ["redirect_uri", "http://127.0.0.1:1/"],
        ["response_type", "token"],
        ["code_challenge_method", "plain"],
      ] as const) {
        const asked = new URL(address);
        asked.searchParams.set(name, value);
        expect((await fetch(asked)).status).toBe(400);
      }
    }));
});
