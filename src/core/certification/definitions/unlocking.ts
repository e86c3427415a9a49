import { groupBy } from "../../kernel/compare";
import { required } from "../../kernel/invariant";
import type { Position } from "../../compile/position-index";
import { freeIn } from "../../paths/timetable";
import type { Defined, OpenDoor, Reading } from "./reading";
import { definedHours, doorParts } from "./reading";

const firstInAction = "after-first-in";

function freeDoors({ compiled, ahead, week }: Reading, doors: readonly Position[]): OpenDoor[] {
  return doors.map((door) => {
    const at = required(compiled.doors[door], "positions are valid");
    return { door, open: freeIn(ahead, at), week: freeIn(week, at), actions: at.door.unlockNeedsFirstIn === true ? [firstInAction] : [] };
  });
}

/** The doors into each area, or of each site into none, that are unlocked for everybody at times. */
export function unlockingDefinitions(reading: Reading): Defined[] {
  const { compiled } = reading;
  const unlocked = compiled.doors.filter(({ unlock }) => unlock !== undefined);
  const byPlace = groupBy(unlocked, ({ areas, door }) => {
    const area = areas[0] === undefined ? undefined : compiled.facility.areas[areas[0]];
    return area ? `area:${area.id}` : `site:${door.site}`;
  });
  return [...byPlace].map(([id, doors]): Defined => {
    const { areas, door } = required(doors[0], "groups are not empty");
    const place = areas[0] === undefined ? compiled.facility.sites.find((site) => site.id === door.site) : compiled.facility.areas[areas[0]];
    const positions = doors.map(({ position }) => position);
    return {
      subject: { kind: "unlocking", id, name: required(place, "references resolve").name },
      parts: () => doorParts(reading, freeDoors(reading, positions)),
      freeze: () => {
        const free = freeDoors(reading, positions);
        return {
          definition: {
            kind: "unlocking",
            ...definedHours(reading, free),
            doors: free.length,
            afterFirstIn: free.filter(({ actions }) => actions.length > 0).length,
          },
          doors: positions,
          about: [],
        };
      },
    };
  });
}
