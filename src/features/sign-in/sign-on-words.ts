import type { SignOnRefusal } from "@/operations/administration/sign-on";

/** Why somebody who came back from the identity provider was not let in, and what to do. */
export const signOnRefusals: Readonly<Record<SignOnRefusal | "no-provider", string>> = {
  "no-provider": "The identity provider does not answer. Try again later, or sign in with name and password.",
  barred: "Too many tries have failed. Try again in a quarter of an hour.",
  over: "This took too long, or was begun in another browser. Begin again.",
  "not-fitting": "The answer of the identity provider does not fit what was asked. Begin again; if it happens once more, tell your administrator.",
  nobody: "Nobody here has the e-mail address or staff number that the identity provider gave. Ask your administrator for an account.",
  several: "More than one person here has the e-mail address or staff number that the identity provider gave. Ask your administrator to set this right.",
  "second-factor": "Your account has a second factor, which the identity provider did not ask for. Sign in with name, password and code.",
};
