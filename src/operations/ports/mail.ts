import type { Language } from "@/core/certification/signing-statement";

/** What a mail is for. */
export type MailKind = "invitation" | "reminder" | "escalation" | "receipt" | "orders" | "orders-reminder" | "anchor";

/** What a mail tells: nothing personal beyond names. */
export interface MailFacts {
  readonly kind: MailKind;
  readonly language: Language;
  readonly name: string;
  readonly round: string;
  readonly due: string;
  /** Lines that are not decided yet, and of these those that something speaks against; how many minutes they take, about. */
  readonly lines: number;
  readonly flagged: number;
  readonly minutes: number;
  /** Whose docket it is, where that is not whom the mail goes to. */
  readonly certifier?: string;
  /** Of a receipt: what was signed, and with what the record ended then; of an anchor that alone. */
  /** Of a mail to a source: the numbers of its orders. */
  readonly orders?: readonly number[];
  readonly signed?: { readonly statement: string; readonly hash: string; readonly head: { readonly number: number; readonly hash: string } };
}

/** A file that goes with a mail. */
export interface Attachment {
  readonly name: string;
  readonly type: string;
  readonly text: string;
}

/** A mail in words; `{link}` stands where the link goes that is made when it is sent. */
export interface MailWords {
  readonly subject: string;
  readonly words: string;
}

export interface NewMail extends MailWords {
  readonly kind: MailKind;
  /** What tells it from all others: the same is queued once. */
  readonly dueKey: string;
  /** Undefined where it is about none. */
  readonly round: number | undefined;
  readonly docket: number | undefined;
  readonly toAddress: string;
  readonly toName: string;
  /** Whom its link signs in, and where that leads; undefined where it has none. */
  readonly account: number | undefined;
  readonly path: string;
  readonly attachment?: Attachment | undefined;
}

export interface QueuedMail extends NewMail {
  readonly id: number;
  readonly tries: number;
}

/** What became of a mail. */
export interface MailState extends Pick<NewMail, "kind" | "docket" | "toName"> {
  readonly madeAt: string;
  readonly sentAt: string | undefined;
  readonly tries: number;
  /** Why it could not be sent the last time. */
  readonly lastError: string | undefined;
  readonly nextAt: string;
}

export interface MailStore {
  /** Queues mails, each once; gives how many were new. */
  readonly queue: (mails: readonly NewMail[], at: string) => Promise<number>;
  /** Those that were queued already, of some rounds. */
  readonly queuedKeys: (rounds: readonly number[]) => Promise<ReadonlySet<string>>;
  /** Mails whose turn it is, the oldest first. */
  readonly due: (at: string, limit: number) => Promise<QueuedMail[]>;
  readonly sent: (id: number, at: string) => Promise<void>;
  readonly failed: (id: number, error: string, nextAt: string) => Promise<void>;
  /** When the last mail of a kind was queued. */
  readonly lastOf: (kind: MailKind) => Promise<string | undefined>;
  readonly ofRound: (round: number) => Promise<MailState[]>;
}

export interface OutgoingMail extends MailWords {
  readonly toAddress: string;
  readonly toName: string;
  readonly attachment?: Attachment | undefined;
}

export interface MailSender {
  /** The public address of this installation, to which links lead; undefined where no mail is sent at all. */
  readonly address: string | undefined;
  /** Hands a mail over to the server; throws where that does not take it. */
  readonly send: (mail: OutgoingMail) => Promise<void>;
}

/** A mail as the stand-in server took it. */
export interface TakenMail {
  readonly id: string;
  readonly at: string;
  readonly from: string;
  readonly to: string;
  readonly subject: string;
  readonly words: string;
  readonly attachments?: readonly Pick<Attachment, "name" | "text">[];
}

/** What the stand-in mail server took; undefined where a real one is used. */
export interface Outbox {
  readonly list: (limit: number) => Promise<TakenMail[]>;
}
