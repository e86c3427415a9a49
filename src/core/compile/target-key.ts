import type { GrantTarget } from "../facility/document";

/** A text that grants of the same target have in common. */
export const targetKey = ({ level, bundle, door, doorGroup, area }: GrantTarget): string =>
  level !== undefined
    ? `l${level}`
    : bundle !== undefined
      ? `b${bundle}`
      : door !== undefined
        ? `d${door}`
        : doorGroup !== undefined
          ? `g${doorGroup}`
          : `a${area}`;
