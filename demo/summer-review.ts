import type { FacilityDocument, Grant } from "@/core/facility/document";

/** People of the seed bank whose access was withdrawn in the review of summer, each with what became of it. */
export const summerPeople = {
  /** Shut since. */
  done: "Wendel Ashgrove",
  /** One of two doors was shut. */
  inPart: "Sigrid Ashgrove",
  /** Shut in September, and given again. */
  returned: "Corin Maplesund",
  /** Nobody ever came to it. */
  open: "Petra Maplesund",
} as const;

const grants: readonly {
  readonly of: keyof typeof summerPeople;
  readonly id: string;
  readonly open: Grant["open"];
  readonly note: string;
  readonly at: readonly number[];
}[] = [
  { of: "done", id: "gs-summer-servers", open: { door: "g-data" }, note: "Moving the seed records to the new servers", at: [0] },
  { of: "inPart", id: "gs-summer-plant", open: { door: "v-plant" }, note: "Cooling tests", at: [0] },
  { of: "inPart", id: "gs-summer-loading", open: { door: "v-plant-load" }, note: "Cooling tests", at: [0, 1, 2] },
  { of: "returned", id: "gs-summer-types", open: { door: "g-herb-types" }, note: "Loan of type specimens", at: [0, 2] },
  { of: "open", id: "gs-summer-data", open: { door: "g-data" }, note: "Backup tapes", at: [0, 1, 2] },
];

/** What these people are given by exception at the export of a number: June, September, and the present one. */
export function summerGrants({ cardholders = [] }: Pick<FacilityDocument, "cardholders">, exported: 0 | 1 | 2): Grant[] {
  return grants.flatMap(({ of, id, open, note, at }) => {
    const cardholder = cardholders.find(({ name }) => name === summerPeople[of])?.id;
    return cardholder === undefined || !at.includes(exported) ? [] : [{ id, to: { cardholder }, open, schedule: "office", note }];
  });
}

export const isSummerGrant = ({ id }: Pick<Grant, "id">): boolean => grants.some((grant) => grant.id === id);
