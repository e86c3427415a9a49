/** Who an identity provider says that somebody is. */
export interface SignOnPerson {
  readonly issuer: string;
  readonly subject: string;
  /** Only where the provider says that it was verified. */
  readonly email: string | undefined;
  readonly staffNumber: string | undefined;
  /** Whether it asked for a second factor. */
  readonly hasSecondFactor: boolean;
}

/** What was asked of the provider, which its answer has to fit. */
export interface AskedSignOn {
  readonly state: string;
  readonly nonce: string;
  readonly verifier: string;
}

/** Thrown where the provider cannot be reached, or its answer does not fit what was asked. */
export class SignOnRefused extends Error {}

/** Single sign-on by OpenID Connect: authorization code with PKCE. */
export interface SignOnProvider {
  /** What people call it. */
  readonly name: string;
  /** Where to send somebody, and what to keep until they come back. */
  readonly begin: () => Promise<{ readonly address: string; readonly asked: AskedSignOn }>;
  /** Who came back; `query` is that of the address they came back to. */
  readonly finish: (query: string, asked: AskedSignOn) => Promise<SignOnPerson>;
}
