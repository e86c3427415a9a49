"use client";

import { DndContext, PointerSensor, useDraggable, useSensor, useSensors } from "@dnd-kit/core";
import type { DragEndEvent } from "@dnd-kit/core";
import { Button, TextInput } from "@mantine/core";
import { useDebouncedValue } from "@mantine/hooks";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useEffect, useRef, useState } from "react";
import { mostDoorsOfPlan } from "@/core/plans/plan";
import type { PlacedDoor } from "@/core/plans/plan";
import type { KeptPlan } from "@/operations/register/plans/keep-plans";
import type { OfferedDoor, ShownDoor, ShownPlan } from "@/operations/register/plans/show-plans";
import { PictureBoard } from "@/ui/board/picture-board";
import type { BoardHandle, BoardPlace } from "@/ui/board/picture-board";
import { useFetched } from "@/ui/fetched";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { useAction } from "@/ui/use-action";
import { nothingAsked, QuestionLine } from "../../inquiry/question-line";
import { plural } from "../../words/numbers";
import { pictureOf, plainMark } from "./plan-marks";
import { planHref, refusalWords } from "./plan-words";
import classes from "./plans.module.css";

type SavePlaces = (plan: number, version: number, doors: readonly PlacedDoor[]) => Promise<KeptPlan>;

const rowsShown = 60;
/** A pointer that moves no further than this has pressed a button, not carried something. */
const carriedFrom = 4;
const percent = (share: number): string => `${(share / 100).toFixed(1)} %`;

/** The doors of a plan with the last states before, so that each step can be taken back. */
function usePlaces(first: readonly ShownDoor[]) {
  const [states, setStates] = useState<readonly (readonly ShownDoor[])[]>([first]);
  const doors = states.at(-1) ?? first;
  return {
    doors,
    isChanged: states.length > 1,
    change: (next: readonly ShownDoor[]) => setStates([...states, next]),
    takeBack: () => setStates(states.slice(0, -1)),
  };
}

/** Asks before a page with what is not stored yet is left. */
function useLeaveWarning(isChanged: boolean): void {
  useEffect(() => {
    if (!isChanged) return undefined;
    const ask = (event: BeforeUnloadEvent): void => event.preventDefault();
    window.addEventListener("beforeunload", ask);
    return () => window.removeEventListener("beforeunload", ask);
  }, [isChanged]);
}

function Offered({ door, onPlace }: { readonly door: OfferedDoor; readonly onPlace: () => void }) {
  const { setNodeRef, listeners, transform, isDragging } = useDraggable({ id: `door ${door.id}`, data: { offered: door } });
  return (
    <li
      ref={setNodeRef}
      className={classes.offered}
      style={isDragging && transform ? { transform: `translate(${transform.x}px, ${transform.y}px)` } : undefined}
      data-carried={isDragging || undefined}
      {...listeners}
    >
      <span>
        {door.name}
        <small>{[door.area, door.isElsewhere ? "on another plan" : ""].filter(Boolean).join(", ")}</small>
      </span>
      <Button size="compact-xs" variant="subtle" aria-label={`Set ${door.name} on the plan`} onClick={onPlace}>
        Set
      </Button>
    </li>
  );
}

/** Doors that are not on the plan yet. */
function OfferedDoors({
  plan,
  placed,
  takenOff,
  onPlace,
}: {
  readonly plan: ShownPlan;
  readonly placed: ReadonlySet<string>;
  readonly takenOff: readonly OfferedDoor[];
  readonly onPlace: (door: OfferedDoor) => void;
}) {
  const [text, setText] = useState("");
  const [wanted] = useDebouncedValue(text, 150);
  const found = useFetched<{ readonly doors: readonly OfferedDoor[]; readonly count: number }>(
    `/register/plans/${plan.id}/doors?text=${encodeURIComponent(wanted)}`,
  );
  const fetched = found.state === "there" ? found.value.doors : [];
  const known = new Set(fetched.map(({ id }) => id));
  const doors = [...takenOff.filter(({ id }) => !known.has(id)), ...fetched].filter(({ id }) => !placed.has(id));
  return (
    <section aria-label="Doors to set">
      <h2>Doors to set</h2>
      <TextInput
        aria-label="Find a door"
        placeholder="part of a name, number or area"
        value={text}
        maxLength={200}
        onChange={(event) => setText(event.currentTarget.value)}
      />
      {found.state === "failed" && <p role="alert">The doors could not be fetched. Load the page again.</p>}
      {found.state === "there" && doors.length === 0 && (
        <p className={sheet.sub}>{text === "" ? "All doors of the site are on it." : "No further door fits."}</p>
      )}
      <ul className={classes.toSet}>
        {doors.slice(0, rowsShown).map((door) => (
          <Offered key={door.id} door={door} onPlace={() => onPlace(door)} />
        ))}
      </ul>
      {doors.length > rowsShown && <p className={sheet.sub}>Many more: type a part of a name.</p>}
    </section>
  );
}

/** Sets doors on a plan: carried there with the pointer, or set in the middle and moved with the arrow keys. */
export function PlanEditor({ plan, save }: { readonly plan: ShownPlan; readonly save: SavePlaces }) {
  const router = useRouter();
  const board = useRef<BoardHandle>(null);
  const { doors, isChanged, change, takeBack } = usePlaces(plan.doors);
  const [selected, setSelected] = useState<string>();
  const [focused, setFocused] = useState<string>();
  const { busy, refused, run } = useAction();
  useLeaveWarning(isChanged);
  useEffect(() => {
    if (focused !== undefined) board.current?.focusMark(focused);
  }, [focused]);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: carriedFrom } }));
  const isFull = doors.length >= mostDoorsOfPlan;
  const place = ({ id, name }: Pick<OfferedDoor, "id" | "name">, at: BoardPlace): void => {
    if (isFull) return;
    change([...doors, { door: id, name, kind: "door", ...at }]);
    setSelected(id);
  };
  const move = (id: string, to: BoardPlace): void => change(doors.map((one) => (one.door === id ? { ...one, ...to } : one)));
  const remove = (id: string): void => {
    change(doors.filter(({ door }) => door !== id));
    setFocused(undefined);
  };
  const carried = ({ active, activatorEvent, delta }: DragEndEvent): void => {
    const { mark, offered } = active.data.current as { readonly mark?: string; readonly offered?: OfferedDoor };
    const rect = active.rect.current.translated;
    if (mark !== undefined && rect) {
      const to = board.current?.placeAt(rect.left + rect.width / 2, rect.top + rect.height / 2);
      if (to) move(mark, to);
    } else if (offered && activatorEvent instanceof PointerEvent) {
      const to = board.current?.placeAt(activatorEvent.clientX + delta.x, activatorEvent.clientY + delta.y);
      if (to) place(offered, to);
    }
  };
  const store = (): void =>
    run(async () => {
      const kept = await save(
        plan.id,
        plan.version,
        doors.map(({ door, x, y }) => ({ door, x, y })),
      );
      if (kept.outcome === "refused") return refusalWords(kept);
      router.push(planHref(plan.id));
      return undefined;
    });
  const shown = doors.find(({ door }) => door === selected);
  const placed = new Set(doors.map(({ door }) => door));
  const takenOff = plan.doors
    .filter(({ door, kind }) => !placed.has(door) && kind !== undefined)
    .map(({ door, name }) => ({ id: door, name, area: undefined, isElsewhere: false }));
  return (
    <DndContext sensors={sensors} onDragEnd={carried}>
      <Sheet
        question={<QuestionLine asked={nothingAsked} />}
        margin={
          <OfferedDoors
            plan={plan}
            placed={placed}
            takenOff={takenOff}
            onPlace={(door) => {
              place(door, board.current?.middle() ?? { x: 5000, y: 5000 });
              setFocused(door.id);
            }}
          />
        }
      >
        <Heading
          result={`Set doors on ${plan.name}`}
          reference={<Link href={planHref(plan.id)}>Back without storing</Link>}
          lead="Carry a door from the list to where it is, or press Set and move it with the arrow keys (Shift: finely; Delete: off the plan)."
        />
        <div className={classes.storing}>
          <Button size="xs" loading={busy} disabled={!isChanged} onClick={store}>
            Store {plural(doors.length, "door", "doors")}
          </Button>
          <Button size="xs" variant="default" disabled={!isChanged || busy} onClick={takeBack}>
            Take back the last step
          </Button>
          {shown && (
            <span role="status">
              {shown.name}: {percent(shown.x)} from the left, {percent(shown.y)} from the top{" "}
              <Button size="compact-xs" variant="subtle" onClick={() => remove(shown.door)}>
                Take it off
              </Button>
            </span>
          )}
        </div>
        {isFull && <p role="status">{refusalWords({ why: "too-many-doors" })}</p>}
        {refused !== undefined && <p role="alert">{refused}</p>}
        <PictureBoard
          handle={board}
          picture={pictureOf(plan)}
          label={`Plan: ${plan.name}`}
          marks={doors.map(plainMark)}
          selected={selected}
          onSelect={setSelected}
          onMove={move}
          onRemove={remove}
        />
      </Sheet>
    </DndContext>
  );
}
