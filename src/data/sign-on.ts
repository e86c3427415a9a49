import type { Configuration } from "openid-client";
import type { SignOnProvider } from "@/operations/ports/sign-on";
import { SignOnRefused } from "@/operations/ports/sign-on";

export interface SignOnSettings {
  readonly name: string;
  readonly issuer: string;
  readonly clientId: string;
  readonly clientSecret: string | undefined;
  /** The claim that has a staff number. */
  readonly staffNumberClaim: string;
  /** The address that people come back to. */
  readonly back: string;
  /** Whether the provider is this machine itself: there alone it may answer unencrypted. */
  readonly isLoopback: boolean;
}

const patienceSeconds = 10;

const textOf = (value: unknown): string | undefined => (typeof value === "string" && value !== "" ? value : undefined);

/** OpenID Connect Core 1.0 by a library; beyond what it checks by itself, the signature of the ID token is checked against the provider's keys. */
export function signOnProvider(settings: SignOnSettings | undefined): SignOnProvider | undefined {
  if (!settings) return undefined;
  const { name, issuer, clientId, clientSecret, staffNumberClaim, back, isLoopback } = settings;
  // The library is loaded by the first who comes this way.
  const library = () => import("openid-client");
  let known: Promise<Configuration> | undefined;
  const discovered = async (): Promise<Configuration> => {
    const client = await library();
    const authentication = clientSecret === undefined ? client.None() : client.ClientSecretPost(clientSecret);
    const configuration = await client.discovery(new URL(issuer), clientId, {}, authentication, {
      execute: isLoopback ? [client.allowInsecureRequests] : [],
      timeout: patienceSeconds,
    });
    client.enableNonRepudiationChecks(configuration);
    return configuration;
  };
  const configuration = async (): Promise<Configuration> => {
    known ??= discovered();
    try {
      return await known;
    } catch {
      known = undefined;
      throw new SignOnRefused(`The identity provider at ${issuer} did not answer as one.`);
    }
  };
  return {
    name,
    begin: async () => {
      const [client, provider] = [await library(), await configuration()];
      const asked = { state: client.randomState(), nonce: client.randomNonce(), verifier: client.randomPKCECodeVerifier() };
      const address = client.buildAuthorizationUrl(provider, {
        redirect_uri: back,
        scope: "openid email profile",
        state: asked.state,
        nonce: asked.nonce,
        code_challenge: await client.calculatePKCECodeChallenge(asked.verifier),
        code_challenge_method: "S256",
      });
      return { address: address.href, asked };
    },
    finish: async (query, { state, nonce, verifier }) => {
      const [client, provider] = [await library(), await configuration()];
      const tokens = await client
        .authorizationCodeGrant(provider, new URL(query, back), {
          expectedState: state,
          expectedNonce: nonce,
          pkceCodeVerifier: verifier,
          idTokenExpected: true,
        })
        .catch((error: unknown) => {
          throw new SignOnRefused(`The identity provider's answer does not hold: ${error instanceof Error ? error.message : "unknown"}.`);
        });
      const claims = tokens.claims();
      if (!claims) throw new SignOnRefused("The identity provider said nothing of who came.");
      const staffNumber = claims[staffNumberClaim];
      return {
        issuer: claims.iss,
        subject: claims.sub,
        email: claims.email_verified === true ? textOf(claims.email) : undefined,
        staffNumber: typeof staffNumber === "number" ? String(staffNumber) : textOf(staffNumber),
        // RFC 8176: "mfa" says that more than one factor was asked for.
        hasSecondFactor: Array.isArray(claims.amr) && claims.amr.includes("mfa"),
      };
    },
  };
}
