import type { Decision } from "@/core/certification/decide-line";
import type { Line } from "@/core/certification/line";
import type { Decided } from "@/core/findings/judged";
import type { DescribedChange } from "@/core/certification/withdrawal/described-change";
import type { Cardholder } from "@/core/facility/document";
import type { HolderId } from "@/core/facility/holder-id";
import type { Account } from "./accounts";

/** Who a line is about, as the snapshot has it; undefined of a credential that nobody holds. */
export interface LineHolder {
  readonly status: Cardholder["status"];
  readonly type?: NonNullable<Cardholder["type"]>;
  /** The name of the department. */
  readonly department?: string;
  readonly staffNumber?: string;
}

export interface NewDocket {
  /** Cardholder who certifies; undefined where there is nobody, and the reviewer who opened the round does. */
  readonly certifier: string | undefined;
  /** What the snapshot calls them. */
  readonly certifierName: string | undefined;
  /** Who decides where no certifier is named. */
  readonly account: number | undefined;
  readonly lines: readonly { readonly line: Line; readonly holderName: string; readonly holder: LineHolder | undefined; readonly flagged: boolean }[];
}

export interface Round {
  readonly id: number;
  readonly name: string;
  readonly due: string;
  readonly snapshot: number;
  readonly openedAt: string;
}

export interface Docket {
  readonly id: number;
  readonly round: number;
  readonly certifier: string | undefined;
  readonly certifierName: string | undefined;
  readonly account: number | undefined;
  readonly lines: number;
  readonly flagged: number;
  readonly decided: number;
  readonly withdrawn: number;
  readonly signedAt: string | undefined;
  readonly statement: string | undefined;
  readonly hash: string | undefined;
  /** When the first and the last of its decisions were made. */
  readonly firstDecidedAt: string | undefined;
  readonly lastDecidedAt: string | undefined;
}

export interface DocketLine {
  readonly id: number;
  readonly docket: number;
  readonly position: number;
  readonly holderName: string;
  readonly holder: LineHolder | undefined;
  readonly flagged: boolean;
  readonly line: Line;
  readonly decision: Decision | undefined;
  readonly reason: string;
}

export interface Order {
  readonly id: number;
  readonly round: number;
  /** The line that was withdrawn; of several that were planned together, the first. */
  readonly line: number;
  readonly described: DescribedChange;
  /** Doors, by id, that the holder loses beside those withdrawn. */
  readonly alsoLost: readonly string[];
  /** Names of what the change speaks of, by kind and id; undefined of orders made before they were kept. */
  readonly names: Readonly<Record<string, string>> | undefined;
  readonly madeAt: string;
}

/** A line that told of a finding, and what became of it. */
export interface LineOfFinding {
  readonly line: number;
  readonly round: { readonly id: number; readonly name: string; readonly due: string };
  /** What the snapshot calls whoever certifies; undefined where nobody was named. */
  readonly certifierName: string | undefined;
  readonly decision: Decision | undefined;
  readonly signedAt: string | undefined;
}

export interface RoundStore {
  readonly open: (round: Omit<Round, "id"> & { readonly openedBy: Account }, dockets: readonly NewDocket[]) => Promise<number>;
  readonly list: () => Promise<Round[]>;
  /** What was decided on access to areas in dockets that were signed, at the minute of the signature; undefined where none was. */
  readonly decided: () => Promise<Decided[] | undefined>;
  readonly byId: (id: number) => Promise<Round | undefined>;
  /** The lines about a holder that told of a finding, the latest round first. */
  readonly linesTelling: (holder: HolderId, fingerprint: string) => Promise<LineOfFinding[]>;
  readonly dockets: (filter: { readonly round?: number; readonly account?: number; readonly id?: number }) => Promise<Docket[]>;
  readonly lines: (filter: { readonly docket?: number; readonly id?: number; readonly ids?: readonly number[] }) => Promise<DocketLine[]>;
  /** Writes decisions; refused (false, nothing written) if the docket was signed meanwhile. */
  readonly decide: (
    docket: number,
    decisions: readonly { readonly line: number; readonly decision: Decision; readonly reason: string }[],
    by: Account,
    at: string,
  ) => Promise<boolean>;
  /** Signs a docket and writes its orders in one transaction, if it holds just the decisions and reasons that are signed. */
  readonly sign: (
    docket: number,
    signature: {
      readonly statement: string;
      readonly hash: string;
      readonly decisions: readonly { readonly line: number; readonly decision: Decision; readonly reason: string }[];
    },
    orders: readonly Omit<Order, "id" | "madeAt">[],
    by: Account,
    at: string,
  ) => Promise<"signed" | "already-signed" | "changed-meanwhile">;
  readonly orders: (round: number) => Promise<Order[]>;
}
