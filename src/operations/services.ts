import type { SignInTries } from "./administration/sign-in-tries";
import type { Verification } from "./ports/verification";
import type { CompiledFacility } from "@/core/compile/compiled-facility";
import type { Facility } from "@/core/facility/facility";
import type { OwnershipProfile } from "@/core/facility/ownership";
import type { IntakeLimits } from "@/intake/formats/limits";
import type { UnreadFile } from "@/intake/formats/tables/bundle-files";
import type { SourceProfile } from "@/intake/profile/source-profile";
import type { RefusedRow } from "@/intake/formats/tables/bundle-file";
import type { AccessEffect } from "./register/effect-on-access";
import type { AnchorStore } from "./ports/anchors";
import type { TimeStampStore } from "./ports/time-stamps";
import type { HouseRuleStore } from "./ports/house-rules";
import type { TrialStore } from "./ports/trials";
import type { PlanStore } from "./ports/plans";
import type { StandInDoors, UnitDriver, UnitStore } from "./ports/units";
import type { KeptQuestionStore } from "./ports/kept-questions";
import type { LookUpStore } from "./ports/look-ups";
import type { MailSender, MailStore, Outbox } from "./ports/mail";
import type { Papers } from "./ports/papers";
import type { AccountStore, SessionStore } from "./ports/accounts";
import type { DraftEffects } from "./ports/draft-effects";
import type { RecordStore } from "./ports/record";
import type { DraftStore } from "./ports/drafts";
import type { EventStore } from "./ports/events";
import type { FindingStore } from "./ports/findings";
import type { RuleSettingsStore } from "./ports/rule-settings";
import type { TriageStore } from "./ports/triage";
import type { PublicHolidays } from "@/core/findings/judged";
import type { PrintedIssue, RegisterStore, Snapshot, SnapshotStore } from "./ports/snapshots";
import type { SignOnProvider } from "./ports/sign-on";
import type { RetentionStore } from "./ports/retention";
import type { RoundStore } from "./ports/rounds";
import type { OrderStore } from "./ports/orders";
import type { SourceFiles, Uploads } from "./ports/source-files";
import type { ArrivedFile, DeliveryStore, Inbox, TakenByItself } from "./ports/deliveries";
import type { FeedStore } from "./ports/feeds";
import type { SourceStore } from "./ports/sources";

export interface Passwords {
  readonly hash: (password: string) => Promise<string>;
  readonly verify: (hash: string, password: string) => Promise<boolean>;
}

/** Keeps small secrets so that the database alone does not tell them. */
export interface Sealer {
  readonly seal: (secret: string) => string;
  /** Undefined where it was sealed with another key, or altered. */
  readonly open: (sealed: string) => string | undefined;
}

/** A secret that is handed out once, and its hash, which is all that is kept. */
export interface Tokens {
  readonly make: () => { readonly token: string; readonly hash: string };
  readonly hashOf: (token: string) => string;
}

/** A calendar's file, by the name under which a mapping has it, and its events: on how many entries each comes out. */
export interface CalendarEvents {
  readonly file: string;
  readonly events: readonly {
    readonly summary: string;
    readonly dayType: string;
    readonly entries: number;
    /** Whether it repeats by none of our rules and is taken in as its dates, and whether it goes on after those. */
    readonly spelledOut: boolean;
    readonly goesOn: boolean;
  }[];
  readonly calendars: readonly { readonly id: string; readonly name: string; readonly entries: number }[];
  /** The calendar that the entries of a file with one alone go to, and those of the register that they could. */
  readonly into?: string;
  readonly couldGoTo: readonly { readonly id: string; readonly name: string }[];
  /** Day types that no schedule has rows for, with how many people the calendar holds for. */
  readonly unnamed: readonly { readonly dayType: string; readonly people: number }[];
  /** What else the file holds, which is not read, by the name of the component. */
  readonly others: readonly { readonly name: string; readonly count: number }[];
  /** The last date to which events are spelled out. */
  readonly readTo: string;
}

/** What an intake would bring, before anything is stored. */
/** Where the moment for which files speak comes from. */
export type AsOfFrom = "file" | "typed" | "name" | "clock";

/** What is to be known of tables that were read. */
export interface TablesRead {
  readonly asOfFrom: AsOfFrom;
  readonly unread: readonly UnreadFile[];
  readonly madeFromNames: readonly { readonly list: string; readonly id: string; readonly name: string }[];
}

export type IntakePreview = {
  /** The source whose way of writing fitted, where none was named. */
  readonly source?: string;
} & IntakeContentsShown;

type IntakeContentsShown =
  | {
      readonly kind: "refused";
      readonly fileName: string;
      readonly errors: readonly PrintedIssue[];
      readonly errorCount: number;
      /** It is tables, so that a profile can say how they are written. */
      readonly isTables?: boolean;
      /** They are not those of the documentation, and nobody has said yet how they are written. */
      readonly needsProfile?: boolean;
    }
  | {
      readonly kind: "facility";
      readonly fileName: string;
      readonly facilityName: string;
      readonly asOf: string;
      readonly hash: string;
      readonly counts: Snapshot["counts"];
      readonly notes: readonly PrintedIssue[];
      readonly noteCount: number;
      /** Rows that would not be read, each once; what is wrong with them, the first of it; how much there is. */
      readonly leftOut: number;
      readonly refused: readonly RefusedRow[];
      readonly refusedCount: number;
      /** Objects that the files do not bring any more and something else still refers to: they are kept. */
      readonly kept: readonly { readonly list: string; readonly id: string }[];
      readonly keptCount: number;
      /** Of tables: where their moment comes from, which files were not read, and what was made of names. */
      readonly tables?: TablesRead;
      /** The events of a calendar, by their summaries, and the day type that each gets. */
      readonly events?: CalendarEvents;
      /** By kind, against the present register: how many are new, changed and gone. */
      readonly against: Readonly<Record<string, { readonly added: number; readonly changed: number; readonly gone: number }>> | undefined;
      /** What it does to access against the present register; undefined where there is none, or nothing would change. */
      readonly effect: AccessEffect | undefined;
      readonly unchanged: boolean;
      /** The snapshot that it was compared with; null where there was none. */
      readonly on: number | null;
    }
  | {
      readonly kind: "events";
      readonly fileName: string;
      readonly rows: number;
      readonly from: string;
      readonly to: string;
      readonly unknownDoors: number;
      readonly unknownCredentials: number;
      /** Rows that would not be read, and the first of them. */
      readonly leftOut: number;
      readonly refused: readonly RefusedRow[];
    };

/** Doors and credentials of events that the register does not know: how many, and some of them. */
export interface UnknownInEvents {
  readonly doors: number;
  readonly credentials: number;
  readonly someDoors: readonly string[];
  readonly someCredentials: readonly string[];
}

export type IntakeOutcome =
  | {
      readonly outcome: "stored";
      readonly what: string;
      readonly snapshot: number | undefined;
      readonly rows: number;
      readonly repeated?: number;
      readonly unknown?: UnknownInEvents;
    }
  | { readonly outcome: "unchanged"; readonly what: string; readonly snapshot: number | undefined }
  | { readonly outcome: "refused"; readonly errors: readonly PrintedIssue[]; readonly errorCount: number };

/** How the files of a source are read: what its headers are and how it writes, and what of it is its own. */
export interface ReadAs {
  /** How its source writes things; undefined where nobody has said. */
  readonly profile: SourceProfile | undefined;
  readonly owns: OwnershipProfile;
  /** The moment for which the files speak, where somebody typed it. */
  readonly asOf?: string;
}

/** Everything that operations reach outside for. Times of the clock are ISO texts of UTC; ids of our own are whole numbers. */
export interface Services {
  readonly accounts: AccountStore;
  readonly sessions: SessionStore;
  readonly snapshots: SnapshotStore;
  readonly record: RecordStore;
  readonly register: RegisterStore;
  readonly sources: SourceStore;
  readonly feeds: FeedStore;
  readonly deliveries: DeliveryStore;
  readonly files: SourceFiles;
  readonly drafts: DraftStore;
  readonly events: EventStore;
  readonly findings: FindingStore;
  readonly triage: TriageStore;
  readonly ruleSettings: RuleSettingsStore;
  readonly retention: RetentionStore;
  /** Public holidays of countries, as an independent library knows them. */
  readonly publicHolidays: (countries: readonly string[]) => Promise<PublicHolidays>;
  readonly rounds: RoundStore;
  readonly orders: OrderStore;
  readonly passwords: Passwords;
  readonly sealer: Sealer;
  readonly tries: SignInTries;
  /** Reads what is compared with the record, all of it of one moment. */
  readonly verifying: <T>(read: (store: Verification) => Promise<T>) => Promise<T>;
  /** Undefined where no identity provider is set. */
  readonly signOn: SignOnProvider | undefined;
  readonly tokens: Tokens;
  readonly digest: (text: string) => string;
  readonly digestOfBytes: (bytes: Uint8Array) => string;
  readonly papers: Papers;
  readonly anchors: AnchorStore;
  readonly timeStamps: TimeStampStore;
  /** Where heads of the record are mailed; undefined where no address is set. */
  readonly anchorAddress: string | undefined;
  readonly keptQuestions: KeptQuestionStore;
  readonly houseRules: HouseRuleStore;
  readonly trials: TrialStore;
  readonly plans: PlanStore;
  readonly units: UnitStore;
  readonly unitDriver: UnitDriver;
  /** The doors of the units that ship, where these run. */
  readonly standInDoors: StandInDoors | undefined;
  readonly lookUps: LookUpStore;
  readonly mails: MailStore;
  readonly mailSender: MailSender;
  /** Undefined where mails go to a real server. */
  readonly outbox: Outbox | undefined;
  /** How much is read of what is brought. */
  readonly limits: IntakeLimits;
  /** Tag of a PIN, made with this installation's key. */
  readonly tagOfPin: (pin: string) => string;
  /** Present time as an ISO text of UTC. */
  readonly now: () => string;
  /** The compiled register of a snapshot; kept by hash and shared by all requests. Whoever has its normal form at hand saves reading it. */
  readonly compiled: (snapshot: Pick<Snapshot, "id" | "hash">, normal?: Facility) => Promise<CompiledFacility>;
  /** The same as who is limited to some sites sees it. */
  readonly limited: (snapshot: Pick<Snapshot, "id" | "hash">, sites: readonly string[]) => Promise<CompiledFacility>;
  /** Lays a register out ahead of questions about everybody, once; a large one was mostly laid out before, and that was kept. */
  readonly layOut: (snapshot: Pick<Snapshot, "hash">, compiled: CompiledFacility) => Promise<void>;
}

/** What operations on the server's own thread have beside: work that goes on elsewhere. */
export interface ServerServices extends Services {
  readonly draftEffects: DraftEffects;
  readonly uploads: Uploads;
  readonly inbox: Inbox;
  /** Takes in what arrived, in a worker. */
  readonly takeByItself: (arrived: ArrivedFile) => Promise<TakenByItself>;
  /** Looks for the findings of a snapshot in a worker. */
  readonly lookForFindings: (snapshot: number) => Promise<void>;
}
