"use client";

import { Checkbox, Select, UnstyledButton } from "@mantine/core";
import { useState } from "react";
import type { DoorTarget, LevelRow } from "@/core/facility/document";
import type { RegisterKind } from "@/core/register/kinds";
import type { ScheduleChoice } from "@/operations/register/drafts/edit-object";
import sheet from "@/ui/sheet.module.css";
import { WeekDrawing } from "@/ui/week-drawing";
import { kindWords } from "../../words/register-words";
import classes from "./drafts.module.css";
import { ReferenceField } from "./reference-field";

interface LevelSheetProps {
  readonly draft: number;
  readonly rows: readonly LevelRow[];
  readonly schedules: readonly ScheduleChoice[];
  readonly nameOf: (kind: RegisterKind, id: string) => string;
  readonly onNamed: (kind: RegisterKind, id: string, name: string) => void;
  readonly onChange: (rows: readonly LevelRow[]) => void;
}

const placeKinds = ["door", "doorGroup", "area"] as const;
type Place = { readonly kind: (typeof placeKinds)[number]; readonly id: string };

const placeOf = ({ door, doorGroup, area }: LevelRow): Place =>
  door !== undefined ? { kind: "door", id: door } : doorGroup !== undefined ? { kind: "doorGroup", id: doorGroup } : { kind: "area", id: area };
const targetOf = ({ kind, id }: Place): DoorTarget => (kind === "door" ? { door: id } : kind === "doorGroup" ? { doorGroup: id } : { area: id });
const samePlace = (a: Place, b: Place): boolean => a.kind === b.kind && a.id === b.id;

/** Doors down, schedules across: a mark says that the level opens the door by that schedule. */
export function LevelSheet({ draft, rows, schedules, nameOf, onNamed, onChange }: LevelSheetProps) {
  const [addedPlaces, addPlace] = useState<readonly Place[]>([]);
  const [addedSchedules, addSchedule] = useState<readonly string[]>([]);
  const places = [...rows.map(placeOf), ...addedPlaces].filter((place, at, all) => all.findIndex((other) => samePlace(other, place)) === at);
  const used = schedules.filter(({ id }) => addedSchedules.includes(id) || rows.some(({ schedule }) => schedule === id));
  const has = (place: Place, schedule: string): boolean => rows.some((row) => row.schedule === schedule && samePlace(placeOf(row), place));
  const set = (place: Place, schedule: string, isOn: boolean): void => {
    if (!isOn) return onChange(rows.filter((row) => !(row.schedule === schedule && samePlace(placeOf(row), place))));
    const last = rows.findLastIndex((row) => samePlace(placeOf(row), place));
    const row: LevelRow = { ...targetOf(place), schedule };
    return onChange(last < 0 ? [...rows, row] : rows.toSpliced(last + 1, 0, row));
  };
  return (
    <div className={classes.wideField}>
      {places.length > 0 && used.length > 0 && (
        <div className={classes.matrix} role="region" aria-label="Doors and schedules" tabIndex={0}>
          <table>
            <thead>
              <tr>
                <th scope="col">{places.length === 1 ? "Door" : `${places.length} doors`} by schedule</th>
                {used.map(({ id, name, week, words }) => (
                  <th key={id} scope="col" title={words}>
                    <div>{name}</div>
                    {week && <WeekDrawing solid={week} hatched={[]} size="cell" label={`${name}: ${words}`} />}
                  </th>
                ))}
                <td />
              </tr>
            </thead>
            <tbody>
              {places.map((place) => {
                const name = nameOf(place.kind, place.id);
                return (
                  <tr key={`${place.kind} ${place.id}`}>
                    <th scope="row">
                      {name} {place.kind !== "door" && <span className={sheet.sub}>{kindWords[place.kind][1].toLowerCase()}</span>}
                    </th>
                    {used.map((schedule) => (
                      <td key={schedule.id}>
                        <Checkbox
                          aria-label={`${name} by ${schedule.name}`}
                          checked={has(place, schedule.id)}
                          onChange={(event) => set(place, schedule.id, event.currentTarget.checked)}
                        />
                      </td>
                    ))}
                    <td>
                      <UnstyledButton
                        className={sheet.plain}
                        aria-label={`Take ${name} out`}
                        onClick={() => {
                          addPlace(addedPlaces.filter((other) => !samePlace(other, place)));
                          onChange(rows.filter((row) => !samePlace(placeOf(row), place)));
                        }}
                      >
                        Take out
                      </UnstyledButton>
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        </div>
      )}
      <div className={classes.add} style={{ alignItems: "flex-end" }}>
        <div style={{ width: 280 }}>
          <ReferenceField
            key={places.length}
            draft={draft}
            kinds={placeKinds}
            label="Add a door, door group or area"
            nameOf={nameOf}
            onNamed={onNamed}
            value={undefined}
            onChange={(place) => {
              if (!place) return;
              const next = place as Place;
              addPlace([...addedPlaces, next]);
              // With one schedule in use there is little doubt which is meant.
              if (used.length === 1 && used[0]) set(next, used[0].id, true);
            }}
          />
        </div>
        <Select
          label="Add a schedule"
          w={240}
          searchable
          value={null}
          placeholder="which hours …"
          data={schedules.filter((schedule) => !used.includes(schedule)).map(({ id, name }) => ({ value: id, label: name }))}
          onChange={(value) => value !== null && addSchedule([...addedSchedules, value])}
        />
      </div>
    </div>
  );
}
