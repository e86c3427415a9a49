/** A question that an account keeps: the query of its address, times in the words in which they were asked. */
export interface KeptQuestion {
  readonly id: number;
  readonly query: string;
  /** Whether its keeper is told how the answer changes. */
  readonly watched: boolean;
  readonly keptAt: string;
}

export interface KeptQuestionStore {
  /** Those of an account, the latest first. */
  readonly of: (account: number) => Promise<KeptQuestion[]>;
  readonly keep: (account: number, query: string, at: string) => Promise<void>;
  /** False where the account keeps no such question. */
  readonly watch: (account: number, id: number, watched: boolean) => Promise<boolean>;
  readonly drop: (account: number, id: number) => Promise<boolean>;
}
