import { stringify } from "csv-stringify/sync";
import type { SourceProfile } from "@/intake/profile/source-profile";
import type { KeptResource } from "./answers";
import type { JsonObject } from "./resource";
import { enterpriseText, isList, isObject, textOf } from "./resource";

/** A resource of a feed as it is kept, also after its end. */
export interface FedResource extends KeptResource {
  /** When it was deleted: it ends, and is never erased. */
  readonly endedAt: string | undefined;
  /** Since when a person is not active; undefined where they are. */
  readonly inactiveSince: string | undefined;
}

const userColumns = [
  "id",
  "externalId",
  "userName",
  "name",
  "status",
  "statusSince",
  "email",
  "staffNumber",
  "department",
  "manager",
  "type",
  "company",
  "title",
  "costCenter",
  "division",
] as const;
const optionalColumns = ["externalId", "statusSince", "email", "department", "manager", "type", "company", "title", "costCenter", "division"] as const;
const groupColumns = ["id", "group", "parent", "status"] as const;
const memberColumns = ["group", "member"] as const;

/** How the tables of a feed are read: people by their staff number, groups and departments by their names. It can be changed like any other profile. */
export const feedProfile: SourceProfile = {
  format: "nomade.profile/1",
  keys: { cardholders: ["staffNumber"], groups: ["name"] },
  madeFromNames: { groups: {} },
  // A personnel office does not know everybody who has a card; who is deleted there comes as ended.
  missing: { cardholders: "kept", groups: "kept", memberships: "gone-from-named" },
  tables: [
    {
      name: "users",
      headers: userColumns,
      aside: ["id", "externalId", "userName", "title", "costCenter", "division"],
      // What nobody was sent with is not said of anybody.
      mayLack: optionalColumns,
      makes: [
        {
          table: "cardholders",
          fields: {
            name: { columns: ["name"] },
            status: { columns: ["status"], values: { active: "active", inactive: "suspended", ended: "left" } },
            statusSince: { columns: ["statusSince"], moment: { forms: ["iso"], never: [""] } },
            email: { columns: ["email"] },
            staffNumber: { columns: ["staffNumber"] },
            department: { columns: ["department"], by: "name" },
            manager: { columns: ["manager"], by: "staffNumber" },
            type: {
              columns: ["type"],
              case: "lower",
              values: { employee: "employee", contractor: "contractor", visitor: "visitor", tenant: "tenant", other: "other", "": null },
            },
            company: { columns: ["company"] },
          },
        },
      ],
    },
    {
      name: "groups",
      headers: groupColumns,
      aside: ["id", "status"],
      makes: [{ table: "groups", fields: { name: { columns: ["group"] }, parent: { columns: ["parent"], by: "name" } } }],
    },
    {
      name: "members",
      headers: memberColumns,
      makes: [{ table: "memberships", fields: { group: { columns: ["group"], by: "name" }, cardholder: { columns: ["member"], by: "staffNumber" } } }],
    },
  ],
};

/** The name of a person: as it is written, or put together, or else what they are called by the sender. */
function nameOf(user: JsonObject): string {
  const together = ["givenName", "middleName", "familyName"].flatMap((part) => textOf(user, "name", part) ?? []).join(" ");
  return textOf(user, "name", "formatted") ?? (together !== "" ? together : undefined) ?? textOf(user, "displayName") ?? textOf(user, "userName") ?? "";
}

/** The primary address, or that of work, or the first. */
function emailOf(user: JsonObject): string {
  const emails = (isList(user.emails) ? user.emails : []).filter(isObject);
  const one = emails.find(({ primary }) => primary === true) ?? emails.find((email) => textOf(email, "type")?.toLowerCase() === "work") ?? emails[0];
  return textOf(one, "value") ?? "";
}

/** What a person is known by: two resources that agree in one of these are the same person. */
const knownBy = ({ body }: FedResource): string[] => [
  `user ${(textOf(body, "userName") ?? "").toLowerCase()}`,
  ...(enterpriseText(body, "employeeNumber") === undefined ? [] : [`number ${enterpriseText(body, "employeeNumber")}`]),
];

/** People without those that ended and came again: who comes again is that person, and has not left. */
function withoutReturned(users: readonly FedResource[]): FedResource[] {
  const here = new Set(users.filter(({ endedAt }) => endedAt === undefined).flatMap(knownBy));
  const latest = new Map<string, FedResource>();
  for (const user of users)
    if (user.endedAt !== undefined) for (const known of knownBy(user)) if ((latest.get(known)?.endedAt ?? "") < user.endedAt) latest.set(known, user);
  return users.filter((user) => user.endedAt === undefined || knownBy(user).every((known) => !here.has(known) && latest.get(known) === user));
}

const csv = (rows: readonly (readonly string[])[]): string => stringify(rows as string[][], { record_delimiter: "windows", quoted_match: /[\r\n]/ });

/** A table as a file. */
export interface FeedTable {
  readonly name: string;
  readonly text: string;
}

/** What has come from a feed, as the tables that are taken in: of groups only where any came. */
export function tablesOfFeed(resources: readonly FedResource[]): readonly FeedTable[] {
  const byId = new Map(resources.map((resource) => [resource.id, resource]));
  const people = withoutReturned(resources.filter(({ kind }) => kind === "User"));
  const groups = resources.filter(({ kind }) => kind === "Group");
  const numberOf = (id: string): string => {
    const person = byId.get(id);
    return (person && enterpriseText(person.body, "employeeNumber")) ?? id;
  };
  const users = people.map(({ id, body, endedAt, inactiveSince }) => {
    const manager = enterpriseText(body, "manager", "value");
    const columns: Readonly<Record<(typeof userColumns)[number], string>> = {
      id,
      externalId: textOf(body, "externalId") ?? "",
      userName: textOf(body, "userName") ?? "",
      name: nameOf(body),
      status: endedAt !== undefined ? "ended" : inactiveSince !== undefined ? "inactive" : "active",
      statusSince: endedAt ?? inactiveSince ?? "",
      email: emailOf(body),
      staffNumber: enterpriseText(body, "employeeNumber") ?? "",
      department: enterpriseText(body, "department") ?? "",
      manager: manager === undefined ? "" : numberOf(manager),
      type: textOf(body, "userType") ?? "",
      company: enterpriseText(body, "organization") ?? "",
      title: textOf(body, "title") ?? "",
      costCenter: enterpriseText(body, "costCenter") ?? "",
      division: enterpriseText(body, "division") ?? "",
    };
    return columns;
  });
  const optional: ReadonlySet<string> = new Set(optionalColumns);
  const sent = userColumns.filter((column) => !optional.has(column) || users.some((user) => user[column] !== ""));
  const tables: FeedTable[] = [{ name: "users.csv", text: csv([sent, ...users.map((user) => sent.map((column) => user[column]))]) }];
  if (groups.length === 0) return tables;
  const nameOfGroup = ({ body }: FedResource): string => textOf(body, "displayName") ?? "";
  const membersOf = ({ body, endedAt }: FedResource): string[] =>
    endedAt !== undefined || !isList(body.members) ? [] : body.members.flatMap((member) => textOf(member, "value") ?? []);
  const memberRows = groups.flatMap((group) =>
    membersOf(group).flatMap((id): string[][] => {
      const member = byId.get(id);
      // Whoever left is in no group any more; a group in a group is said of that.
      return member?.endedAt !== undefined || member?.kind === "Group" ? [] : [[nameOfGroup(group), numberOf(id)]];
    }),
  );
  const parentsOf = (of: FedResource): string[] => groups.filter((group) => membersOf(group).includes(of.id)).map(nameOfGroup);
  const isNested = groups.some((group) => membersOf(group).some((id) => byId.get(id)?.kind === "Group"));
  const groupRows = groups.flatMap((group) => {
    const parents = isNested ? parentsOf(group) : [];
    return (parents.length === 0 ? [""] : parents).map((parent) => [group.id, nameOfGroup(group), parent, group.endedAt === undefined ? "active" : "ended"]);
  });
  return [...tables, { name: "groups.csv", text: csv([groupColumns, ...groupRows]) }, { name: "members.csv", text: csv([memberColumns, ...memberRows]) }];
}
