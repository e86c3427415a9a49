import { capital, plural } from "../numbers";
import { clockText } from "../times";
import type { AccountWords } from "./account-words";

export const english: AccountWords = {
  roles: { administrator: "Administrator", reviewer: "Reviewer", manager: "Manager", owner: "Area owner", auditor: "Auditor" },
  back: "Back to your work",
  clock: clockText,
  password: {
    heading: "Password",
    present: "Present password",
    next: "New password",
    first: "Password",
    atLeast: "At least twelve characters.",
    isChanged: "It is changed. All your other sessions have ended.",
    change: "Change the password",
    set: "Set the password",
    refusals: {
      wrong: "The present password is not right.",
      short: "Take at least twelve characters; a few words are easier to remember than signs.",
      same: "That is the password you have.",
      barred: "Too many tries have failed. Try again in a quarter of an hour.",
    },
  },
  factor: {
    heading: "Second factor",
    code: "Code",
    wrong: "This code is not right, or was used already. Wait for the next one.",
    keepCodes: "It is in force. Keep these codes where you find them without your authenticator: each works once, and they are shown only now.",
    isAsked: "It is in force, and your role asks for it.",
    inForce: "It is in force. To take it away, give a code of it.",
    takeAway: "Take it away",
    askedFirst: "Your role asks for one: set it up before anything else.",
    what: "A code of an authenticator beside the password, at each sign-in.",
    setUp: "Set it up",
    readThis: "Read this with your authenticator, or type the secret; then give the code that it shows.",
    square: "The secret as a square to be read by a camera",
    putInForce: "Put it in force",
  },
  sessions: {
    heading: (count) => capital(plural(count, "session", "sessions")),
    ends: "Each ends by itself after twelve hours, or after eight without use.",
    where: "Where",
    lastUsed: "Last used",
    since: "Since",
    end: "End",
    unknown: "unknown browser",
    thisOne: "this one",
    endIt: "end it",
  },
  link: {
    once: "This link signs you in once. If you are somebody else, close this page.",
    code: "Code of your authenticator",
    goOn: "Go on",
    barred: "Too many tries have failed. Try again in a quarter of an hour.",
    wrongCode: "This code is not right, or was used already. Wait for the next one, or take a recovery code.",
    used: "This link was used already, or its time is over. Ask for another one, or sign in with your password.",
  },
};
