import type { TableProfile } from "./source-profile";

/** What a profile says of a table as it came: of columns that it may lack, and does, nothing is read, and nothing said. */
export function asItCame(profile: TableProfile, headers: readonly string[]): TableProfile {
  const there = new Set(headers);
  const lacking = new Set(profile.mayLack?.filter((column) => !there.has(column)));
  if (lacking.size === 0) return profile;
  return {
    ...profile,
    ...(profile.aside && { aside: profile.aside.filter((column) => !lacking.has(column)) }),
    makes: profile.makes.map(({ fields, ...make }) => ({
      ...make,
      fields: Object.fromEntries(Object.entries(fields).filter(([, { columns = [] }]) => !columns.some((column) => lacking.has(column)))),
    })),
  };
}
