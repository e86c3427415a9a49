import type { ListKey } from "@/core/facility/document";
import type { Facility } from "@/core/facility/facility";
import { conceptOf } from "./header-words";
import type { Known, TableToSuggest } from "./known-names";
import { markMeaning } from "./plain-values";
import type { MadeObject, TableProfile } from "./source-profile";
import { cellColumn, headingColumn } from "./source-profile";
import { holdsHours, suggestSource } from "./suggest-field";
import { suggestGiven, suggestPeople, takeCard } from "./suggest-people";
import { givesToKnown, kindOf } from "./table-kind";
import type { Column } from "./table-suggestion";
import { areMarks, field, TableSuggestion, weekdayColumns } from "./table-suggestion";

export interface Suggested {
  readonly profile: TableProfile;
  readonly keys: Partial<Record<ListKey, readonly string[]>>;
}

/** What can be seen of how one table is written. */
export function suggestTable(one: TableToSuggest, known: Known, present: Facility | undefined): Suggested {
  const columns = one.look.columns.map((column): Column => ({ ...column, concept: conceptOf(column.name) }));
  const { name, headers, form, isSheet } = one.table;
  const base = {
    name,
    headers,
    text: isSheet
      ? { skip: form.skip, header: form.header }
      : form.encoding === "utf-8" && form.skip === 0 && form.header
        ? undefined
        : { encoding: form.encoding, delimiter: form.delimiter, skip: form.skip, header: form.header },
  };
  const table = new TableSuggestion(columns);
  let keys: Suggested["keys"] = {};
  const kind = kindOf(one, columns, known);
  const onlySite = present?.sites.length === 1 ? present.sites[0]?.id : undefined;
  const takeSite = (list: string): void => {
    if (!table.take(list, "site", ["site"]) && onlySite !== undefined) table.set(list, "site", { constant: onlySite });
  };
  switch (kind) {
    case "people":
      if (givesToKnown(one.look.table, columns, known)) suggestGiven(table, known);
      else keys = suggestPeople(table, known);
      break;
    case "cards":
      table.take("credentials", "cardholder", ["cardholder", "staffNumber", "email", "name"]);
      table.take("credentials", "id", ["id", "credential"]);
      takeCard(table, false);
      if (table.makes.has("credentials")) {
        table.constant("credentials", "kind", "card");
        table.constant("credentials", "status", "active");
      }
      break;
    case "groups":
      table.takeId("groups", "group");
      table.take("groups", "name", ["name", "group", "department"]);
      table.take("groups", "kind", ["kind", "type"]);
      table.take("groups", "parent", ["parent"]);
      table.take("groups", "manager", ["manager"]);
      break;
    case "memberships":
      table.take("memberships", "group", ["group", "department", "level"]);
      table.take("memberships", "cardholder", ["cardholder", "staffNumber", "email", "id", "name"]);
      table.take("memberships", "from", ["from"]);
      table.take("memberships", "until", ["until"]);
      break;
    case "levels":
    case "levelRows": {
      const level = table.column("level", "name");
      const source = level ?? columns.find(({ values }) => values.length > 0);
      if (source) {
        table.used.add(source.name);
        table.set("levels", "name", { columns: [source.name] });
      }
      table.takeId("levels", "level");
      table.take("level-rows", "door", ["door"]);
      table.take("level-rows", "schedule", ["schedule"]);
      if (!table.makes.has("level-rows")) {
        const rest = table.free().filter(({ concept }) => concept !== "note");
        const asMarks = areMarks(rest);
        if (rest.length > 0) {
          table.unfoldAll(rest);
          table.set("level-rows", "door", { columns: [headingColumn] });
          if (asMarks) table.markedBy("level-rows", rest);
          else {
            const none = rest.flatMap(({ values }) => values.map(({ text }) => text)).filter((text) => markMeaning(text) === false);
            table.set("level-rows", "schedule", {
              columns: [cellColumn],
              ...(none.length > 0 && { values: Object.fromEntries(none.map((text) => [text, null])) }),
            });
          }
        }
      }
      break;
    }
    case "schedules": {
      const nameColumn = table.column("schedule", "name") ?? columns.find(({ values }) => values.length > 0);
      if (nameColumn) {
        table.used.add(nameColumn.name);
        table.set("schedules", "name", { columns: [nameColumn.name] });
      }
      table.takeId("schedules", "schedule");
      const days = weekdayColumns(table.free());
      if (days.length > 0) {
        table.unfold.push(...days);
        const texts = columns.filter((column) => days.some((day) => day.columns.includes(column.name)));
        for (const column of texts) table.used.add(column.name);
        const target = field("schedule-hours", "hours");
        table.set("schedule-hours", "weekday", { columns: [headingColumn] });
        const all = texts.flatMap(({ values }) => values);
        if (target)
          table.set(
            "schedule-hours",
            "hours",
            suggestSource("schedule-hours", target, [{ name: cellColumn, empty: 0, values: all, hasMore: false, isSecret: false }]),
          );
        table.take("schedules", "from", ["from"]);
        table.take("schedules", "until", ["until"]);
      } else {
        table.take("schedule-hours", "weekday", ["weekday"]);
        table.take("schedule-hours", "dayType", ["dayType"]);
        const hours = table.column("hours");
        if (hours && holdsHours(hours.values.map(({ text }) => text))) table.take("schedule-hours", "hours", ["hours"]);
        table.take("schedule-hours", "start", ["start", "from"]);
        table.take("schedule-hours", "end", ["end", "until"]);
      }
      break;
    }
    case "doors":
      table.takeId("doors", "door");
      table.take("doors", "name", ["name", "door"]);
      takeSite("doors");
      table.take("doors", "area", ["area"]);
      table.take("doors", "kind", ["kind", "type"]);
      table.take("doors", "controller", ["controller"]);
      break;
    case "areas":
      table.takeId("areas", "area");
      table.take("areas", "name", ["name", "area"]);
      takeSite("areas");
      table.take("areas", "parent", ["parent"]);
      table.take("areas", "sensitivity", ["sensitivity"]);
      break;
    case "sites":
      table.takeId("sites", "site");
      table.take("sites", "name", ["name", "site"]);
      if (!table.take("sites", "timeZone", ["timeZone"]) && present) table.constant("sites", "timeZone", present.timeZone);
      break;
    case "grants":
      table.take("grants", "cardholder", ["cardholder", "staffNumber", "email"]);
      if (!table.fieldsOf("grants").cardholder) table.take("grants", "group", ["group"]);
      table.take("grants", "level", ["level"]);
      table.take("grants", "door", ["door"]);
      table.take("grants", "schedule", ["schedule"]);
      table.take("grants", "from", ["from"]);
      table.take("grants", "until", ["until"]);
      break;
    case "events":
      table.takeMoment("events", "at", ["at"]);
      table.take("events", "door", ["door"]);
      table.take("events", "result", ["result"]);
      table.take("events", "number", ["cardNumber"]);
      table.take("events", "facilityCode", ["facilityCode"]);
      table.take("events", "credential", ["credential"]);
      table.take("events", "reason", ["reason"]);
      table.take("events", "id", ["eventId", "id"]);
      // An event is of a card; whose it was then, the register of that time knows.
      table.leaveAside("cardholder", "name", "firstName", "lastName");
      break;
    case "calendar":
    case undefined:
      break;
  }
  const makes = [...table.makes].map(([list, { when, fields }]): MadeObject => ({ table: list, ...(when && { when }), fields }));
  const { text, ...rest } = base;
  return {
    profile: {
      ...rest,
      ...(text && { text }),
      ...(table.unfold.length > 0 && { unfold: table.unfold }),
      ...(table.aside.length > 0 && { aside: table.aside }),
      makes,
    },
    keys,
  };
}
