/** Somebody whom the stand-in personnel office employs. */
export interface Employee {
  readonly staffNumber: string;
  readonly givenName: string;
  readonly familyName: string;
  readonly email: string;
  readonly department: string;
  /** Staff number of the manager; undefined for none. */
  readonly manager?: string | undefined;
  readonly isOnLeave?: boolean;
  /** The id that the service gave; undefined until it was told of them. */
  readonly told?: string;
}

/** Names for people who join, all invented. */
const given = ["Alvar", "Brida", "Cosmin", "Dorle", "Edda", "Fabius", "Gesine", "Halvor", "Imke", "Jorin"];
const family = ["Thornquill", "Mossgard", "Brackenau", "Fernhold", "Lindacre", "Sedgewell", "Yarrowby", "Quincebeck"];

export const usernameOf = ({ givenName, familyName, staffNumber }: Employee): string =>
  `${givenName}.${familyName}.${staffNumber}`
    .toLowerCase()
    .normalize("NFD")
    .replace(/[^a-z0-9.]/g, "");

/** Who joins next: a name and a staff number that nobody had before. */
export function newcomer(people: readonly Employee[], joined: number): Employee {
  const [givenName = "", familyName = ""] = [given[joined % given.length], family[Math.floor(joined / given.length + joined) % family.length]];
  const numbers = people.map(({ staffNumber }) => Number(staffNumber)).filter(Number.isSafeInteger);
  const staffNumber = String(Math.max(90_000, ...numbers) + 1);
  const departments = [...new Set(people.map(({ department }) => department))].sort();
  const department = departments[joined % Math.max(1, departments.length)] ?? "Direction";
  const manager = people.find((one) => one.department === department)?.manager;
  return { staffNumber, givenName, familyName, email: `${givenName}.${familyName}@verrane.example`.toLowerCase(), department, manager };
}
