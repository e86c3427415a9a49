/** What memberships say; index m speaks of membership m. */
export interface MembershipFacts {
  /** Positions of the cardholder and of the group. */
  readonly memberOf: Int32Array;
  readonly groupOf: Int32Array;
  /** Number in the vocabulary of the window as it is written. */
  readonly window: Int32Array;
}

/** What cardholders say; index i speaks of cardholder i. */
export interface HolderFacts {
  /** Position of the department; -1 for none. */
  readonly department: Int32Array;
  /** The window, in epoch minutes, in which the cardholder is in use, status taken in. */
  readonly from: Float64Array;
  readonly until: Float64Array;
  /** Number in the vocabulary of what beside grants decides what the cardholder opens; 0 for nothing. */
  readonly personalRules: Int32Array;
}

/** What credentials say; index i speaks of credential i. */
export interface CardFacts {
  /** Position of the cardholder who carries it; -1 for nobody. */
  readonly holderOf: Int32Array;
  /** What it shows at a reader: 0 a card, 1 a card with a PIN, 2 a PIN. */
  readonly presents: Uint8Array;
  /** The window, in epoch minutes, in which it is in use, status and expiry taken in. */
  readonly from: Float64Array;
  readonly until: Float64Array;
}

/** What grants say; index g speaks of grant g. */
export interface GrantFacts {
  /** Position of whom it is given to, in one of these; -1 in the two others. */
  readonly toCardholder: Int32Array;
  readonly toGroup: Int32Array;
  readonly toCredential: Int32Array;
  /** Number in the vocabulary of what it says beside. */
  readonly kind: Int32Array;
}

/** What each of the many objects says, as columns of numbers: all that resolving everybody at once needs of them, without an object for each. */
export interface ObjectColumns {
  readonly memberships: MembershipFacts;
  readonly holders: HolderFacts;
  readonly cards: CardFacts;
  readonly grants: GrantFacts;
}
