import type { Finding } from "./finding";

/** Whether a finding is about a credential: it names it as its subject or in its proof, as of a leaver whose card still opens. */
export const concernsCredential = ({ subject, proof }: Pick<Finding, "subject" | "proof">, credential: string): boolean =>
  (subject.kind === "credential" && subject.id === credential) || (Array.isArray(proof.credentials) && (proof.credentials as readonly string[]).includes(credential));
