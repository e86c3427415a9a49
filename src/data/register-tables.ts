import { DataTypes } from "sequelize";
import type { Facility } from "@/core/facility/facility";
import type { Authorisation, ClockRange } from "@/core/facility/document";
import { weekdays } from "@/core/time/civil-day";

export type Value = string | number | boolean | null;
export type Row = Readonly<Record<string, Value>>;

const kinds = {
  id: () => DataTypes.STRING(128),
  text: () => DataTypes.TEXT,
  moment: () => DataTypes.STRING(64),
  number: () => DataTypes.INTEGER,
  flag: () => DataTypes.BOOLEAN,
  json: () => DataTypes.TEXT,
} as const;
export type ColumnKind = keyof typeof kinds;

/** Type of a column in the database. Ids keep the code points as they are: the database's collation is binary. */
export const columnType = (kind: ColumnKind) => kinds[kind]();

/** A table of the register: what of a facility it holds, a row for each object or part of one. */
export interface RegisterTable {
  readonly name: string;
  readonly columns: Readonly<Record<string, ColumnKind>>;
  readonly rows: (facility: Facility) => Iterable<Row>;
}

const table = <C extends Readonly<Record<string, ColumnKind>>>(
  name: string,
  columns: C,
  rows: (facility: Facility) => Iterable<{ readonly [K in keyof C]: Value | undefined }>,
): RegisterTable => ({
  name: `register_${name}`,
  columns,
  *rows(facility) {
    for (const row of rows(facility)) yield Object.fromEntries(Object.keys(columns).map((key) => [key, row[key] ?? null]));
  },
});

const json = (value: unknown): string | undefined => (value === undefined ? undefined : JSON.stringify(value));
const approval = (authorised: Authorisation | undefined) => ({
  authorised_by: authorised?.by,
  authorised_at: authorised?.at,
  authorised_reference: authorised?.reference,
});
const approvalColumns = { authorised_by: "text", authorised_at: "moment", authorised_reference: "text" } as const;

/** Every table that a snapshot's objects go into; the order is that of the document. */
export const registerTables: readonly RegisterTable[] = [
  table("sites", { id: "id", name: "text", time_zone: "id", calendar: "id" }, ({ sites }) =>
    sites.map(({ id, name, timeZone, calendar }) => ({ id, name, time_zone: timeZone, calendar })),
  ),
  table("areas", { id: "id", name: "text", site: "id", parent: "id", sensitivity: "number", owner: "id", max_holders: "number" }, ({ areas }) =>
    areas.map(({ maxHolders, sensitivity, ...area }) => ({
      parent: undefined,
      owner: undefined,
      ...area,
      sensitivity: sensitivity ?? 0,
      max_holders: maxHolders,
    })),
  ),
  table("calendars", { id: "id", name: "text" }, ({ calendars }) => calendars.map(({ id, name }) => ({ id, name }))),
  table("calendar_days", { calendar: "id", position: "number", name: "text", day_type: "text", priority: "number", rule: "json" }, ({ calendars }) =>
    calendars.flatMap(({ id, days }) =>
      (days ?? []).map(({ name, dayType, priority, ...rule }, position) => ({
        calendar: id,
        position,
        name,
        day_type: dayType,
        priority: priority ?? 0,
        rule: json(rule),
      })),
    ),
  ),
  table("schedules", { id: "id", name: "text", always: "flag", on_holiday: "id", from_date: "moment", until_date: "moment" }, ({ schedules }) =>
    schedules.map(({ id, name, always, onHoliday, from, until }) => ({
      id,
      name,
      always: !!always,
      on_holiday: always ? undefined : (onHoliday ?? "closed"),
      from_date: from,
      until_date: until,
    })),
  ),
  table("schedule_intervals", { schedule: "id", weekday: "id", day_type: "id", position: "number", start_clock: "id", end_clock: "id" }, ({ schedules }) =>
    schedules.flatMap(({ id, week, holidays }) => {
      const intervals = (row: readonly ClockRange[], of: { weekday?: string; day_type?: string }) =>
        // A day type's empty row closes the day, so it is kept as a row without clock times.
        (row.length === 0 && of.day_type !== undefined ? [[undefined, undefined] as const] : row).map(([start, end], position) => ({
          schedule: id,
          weekday: of.weekday,
          day_type: of.day_type,
          position,
          start_clock: start,
          end_clock: end,
        }));
      return [
        ...weekdays.flatMap((weekday) => intervals(week?.[weekday] ?? [], { weekday })),
        ...Object.entries(holidays ?? {}).flatMap(([day_type, row]) => intervals(row, { day_type })),
      ];
    }),
  ),
  table(
    "doors",
    {
      id: "id",
      name: "text",
      site: "id",
      kind: "id",
      area: "id",
      from_area: "id",
      via: "id",
      entry: "id",
      unlock_schedule: "id",
      unlock_needs_first_in: "flag",
      controller: "text",
    },
    ({ doors }) =>
      doors.map((door) => ({
        id: door.id,
        name: door.name,
        site: door.site,
        kind: door.kind ?? "door",
        area: door.area,
        from_area: door.from,
        via: door.via,
        entry: door.entry ?? "card",
        unlock_schedule: door.unlock,
        unlock_needs_first_in: !!door.unlockNeedsFirstIn,
        controller: door.controller,
      })),
  ),
  table("door_entry_rows", { door: "id", position: "number", schedule: "id", entry: "id" }, ({ doors }) =>
    doors.flatMap(({ id, entryRows }) => (entryRows ?? []).map((row, position) => ({ door: id, position, ...row }))),
  ),
  table("door_groups", { id: "id", name: "text" }, ({ doorGroups }) => doorGroups.map(({ id, name }) => ({ id, name }))),
  table("door_group_doors", { door_group: "id", door: "id" }, ({ doorGroups }) =>
    doorGroups.flatMap(({ id, doors }) => (doors ?? []).map((door) => ({ door_group: id, door }))),
  ),
  table("door_group_groups", { door_group: "id", member: "id" }, ({ doorGroups }) =>
    doorGroups.flatMap(({ id, groups }) => (groups ?? []).map((member) => ({ door_group: id, member }))),
  ),
  table("levels", { id: "id", name: "text" }, ({ levels }) => levels.map(({ id, name }) => ({ id, name }))),
  table("level_rows", { level: "id", position: "number", door: "id", door_group: "id", area: "id", schedule: "id", actions: "json" }, ({ levels }) =>
    levels.flatMap(({ id, rows }) =>
      (rows ?? []).map((row, position) => ({
        level: id,
        position,
        door: row.door,
        door_group: row.doorGroup,
        area: row.area,
        schedule: row.schedule,
        actions: json(row.actions),
      })),
    ),
  ),
  table("bundles", { id: "id", name: "text" }, ({ bundles }) => bundles.map(({ id, name }) => ({ id, name }))),
  table("bundle_levels", { bundle: "id", level: "id" }, ({ bundles }) =>
    bundles.flatMap(({ id, levels }) => (levels ?? []).map((level) => ({ bundle: id, level }))),
  ),
  table("groups", { id: "id", name: "text", kind: "id", parent: "id", manager: "id" }, ({ groups }) =>
    groups.map(({ id, name, kind, parent, manager }) => ({ id, name, kind: kind ?? "group", parent, manager })),
  ),
  table("memberships", { group_id: "id", cardholder: "id", from_moment: "moment", until_moment: "moment", ...approvalColumns }, ({ memberships }) =>
    memberships.map(({ group, cardholder, from, until, authorised }) => ({
      group_id: group,
      cardholder,
      from_moment: from,
      until_moment: until,
      ...approval(authorised),
    })),
  ),
  table(
    "cardholders",
    {
      id: "id",
      name: "text",
      status: "id",
      status_since: "moment",
      type: "id",
      email: "text",
      staff_number: "text",
      department: "id",
      manager: "id",
      sites: "id",
      from_moment: "moment",
      until_moment: "moment",
      calendar: "id",
      hours: "id",
      override: "id",
      company: "text",
      sponsor: "id",
      lockdown_pass: "flag",
      pin_exempt: "flag",
      first_in: "flag",
      extra_time: "flag",
      hold_open: "flag",
      passback_exempt: "flag",
    },
    ({ cardholders }) =>
      cardholders.map((holder) => ({
        id: holder.id,
        name: holder.name,
        status: holder.status,
        status_since: holder.statusSince,
        type: holder.type,
        email: holder.email,
        staff_number: holder.staffNumber,
        department: holder.department,
        manager: holder.manager,
        sites: holder.sites ? "listed" : "every",
        from_moment: holder.from,
        until_moment: holder.until,
        calendar: holder.calendar,
        hours: holder.hours,
        override: holder.override === undefined ? "none" : holder.override === true ? "everywhere" : "listed",
        company: holder.company,
        sponsor: holder.sponsor,
        lockdown_pass: !!holder.lockdownPass,
        pin_exempt: !!holder.pinExempt,
        first_in: !!holder.firstIn,
        extra_time: !!holder.extraTime,
        hold_open: !!holder.holdOpen,
        passback_exempt: !!holder.passbackExempt,
      })),
  ),
  table("cardholder_sites", { cardholder: "id", site: "id" }, ({ cardholders }) =>
    cardholders.flatMap(({ id, sites }) => (sites ?? []).map((site) => ({ cardholder: id, site }))),
  ),
  table("cardholder_overrides", { cardholder: "id", site: "id" }, ({ cardholders }) =>
    cardholders.flatMap(({ id, override }) => (override === undefined || override === true ? [] : override).map((site) => ({ cardholder: id, site }))),
  ),
  table("cardholder_requirements", { cardholder: "id", position: "number", name: "text", until_moment: "moment" }, ({ cardholders }) =>
    cardholders.flatMap(({ id, requirements }) =>
      (requirements ?? []).map(({ name, until }, position) => ({ cardholder: id, position, name, until_moment: until })),
    ),
  ),
  table(
    "credentials",
    {
      id: "id",
      cardholder: "id",
      kind: "id",
      status: "id",
      status_since: "moment",
      ...approvalColumns,
      number: "text",
      facility_code: "text",
      bit_format: "text",
      issue: "text",
      printed_number: "text",
      has_pin: "flag",
      pin_tag: "text",
      duress_pin: "flag",
      temporary: "flag",
      from_moment: "moment",
      until_moment: "moment",
      expiry_after: "id",
      expiry_days: "number",
      first_use: "moment",
      last_use: "moment",
      issued_at: "moment",
    },
    ({ credentials }) =>
      credentials.map((credential) => ({
        id: credential.id,
        cardholder: credential.cardholder,
        kind: credential.kind,
        status: credential.status,
        status_since: credential.statusSince,
        ...approval(credential.authorised),
        number: credential.number,
        facility_code: credential.facilityCode,
        bit_format: credential.bitFormat,
        issue: credential.issue,
        printed_number: credential.printedNumber,
        has_pin: !!credential.hasPin,
        pin_tag: credential.pinTag,
        duress_pin: !!credential.duressPin,
        temporary: !!credential.temporary,
        from_moment: credential.from,
        until_moment: credential.until,
        expiry_after: credential.expiry?.after,
        expiry_days: credential.expiry?.days,
        first_use: credential.firstUse,
        last_use: credential.lastUse,
        issued_at: credential.issuedAt,
      })),
  ),
  table(
    "grants",
    {
      id: "id",
      ...approvalColumns,
      to_cardholder: "id",
      to_group: "id",
      to_credential: "id",
      level: "id",
      bundle: "id",
      door: "id",
      door_group: "id",
      area: "id",
      schedule: "id",
      effect: "id",
      from_moment: "moment",
      until_moment: "moment",
      in_lockdown: "flag",
      note: "text",
    },
    ({ grants }) =>
      grants.map((grant) => ({
        id: grant.id,
        ...approval(grant.authorised),
        to_cardholder: grant.to.cardholder,
        to_group: grant.to.group,
        to_credential: grant.to.credential,
        level: grant.open.level,
        bundle: grant.open.bundle,
        door: grant.open.door,
        door_group: grant.open.doorGroup,
        area: grant.open.area,
        schedule: grant.schedule,
        effect: grant.effect ?? "allow",
        from_moment: grant.from,
        until_moment: grant.until,
        in_lockdown: !!grant.inLockdown,
        note: grant.note,
      })),
  ),
];
