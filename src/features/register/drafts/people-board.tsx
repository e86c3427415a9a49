"use client";

import { DndContext, DragOverlay, KeyboardSensor, PointerSensor, useDraggable, useDroppable, useSensor, useSensors } from "@dnd-kit/core";
import type { DragEndEvent, KeyboardCoordinateGetter } from "@dnd-kit/core";
import { Button, Checkbox, Select, TextInput, UnstyledButton } from "@mantine/core";
import { useDebouncedCallback } from "@mantine/hooks";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState, useTransition } from "react";
import type { BoardColumn, PeopleBoard } from "@/operations/register/drafts/edit-object";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { useAction } from "@/ui/use-action";
import { nothingAsked, QuestionLine } from "../../inquiry/question-line";
import { listWords, plural } from "../../words/numbers";
import { draftHref } from "./addresses";
import type { DraftActions } from "./draft-actions";
import classes from "./drafts.module.css";

/** The empty id stands for no department. */
const columnId = ({ id }: Pick<BoardColumn, "id">): string => id ?? "";

/** From the keyboard somebody is carried from department to department, not inch by inch. */
const toNextColumn: KeyboardCoordinateGetter = (event, { currentCoordinates, context: { droppableRects } }) => {
  const columns = [...droppableRects.values()].sort((a, b) => a.left - b.left);
  const here = columns.findLastIndex(({ left }) => left <= currentCoordinates.x);
  const to = columns[event.code === "ArrowRight" ? here + 1 : event.code === "ArrowLeft" ? here - 1 : -1];
  if (!to) return undefined;
  event.preventDefault();
  return { x: to.left + 12, y: to.top + 60 };
};

function Person({
  id,
  name,
  moved,
  column,
  chosen,
  onChoose,
}: {
  readonly id: string;
  readonly name: string;
  readonly moved: boolean;
  readonly column: string;
  readonly chosen: boolean;
  readonly onChoose: (chosen: boolean) => void;
}) {
  const { attributes, listeners, setNodeRef, isDragging } = useDraggable({ id: `${column} ${id}`, data: { person: id, column, name } });
  return (
    <div className={classes.person} style={isDragging ? { opacity: 0.4 } : undefined}>
      <Checkbox size="xs" aria-label={`Choose ${name}`} checked={chosen} onChange={(event) => onChoose(event.currentTarget.checked)} />
      <UnstyledButton ref={setNodeRef} className={classes.handle} {...attributes} {...listeners}>
        {name}
      </UnstyledButton>
      {moved && <span className={sheet.sub}>moved</span>}
    </div>
  );
}

interface ColumnProps {
  readonly column: BoardColumn;
  readonly departments: PeopleBoard["departments"];
  readonly chosen: ReadonlySet<string>;
  readonly onChoose: (id: string, chosen: boolean) => void;
  readonly onShow: (department: string) => void;
}

function Column({ column, departments, chosen, onChoose, onShow }: ColumnProps) {
  const own = columnId(column);
  const { setNodeRef, isOver } = useDroppable({ id: `column ${own}`, data: { column: own, name: column.name } });
  return (
    <section ref={setNodeRef} className={isOver ? `${classes.column} ${classes.over}` : classes.column} aria-label={column.name}>
      <header>
        <Select
          size="xs"
          searchable
          allowDeselect={false}
          aria-label={`Department shown, now ${column.name}`}
          value={own}
          data={departments.map(({ id, name, count }) => ({ value: id, label: `${name}  ${count.toLocaleString("en-GB")}` }))}
          onChange={(value) => value !== null && onShow(value)}
        />
      </header>
      <div className={classes.people} tabIndex={0} role="group" aria-label={`People of ${column.name}`}>
        {column.people.map(({ id, name, moved }) => (
          <Person key={id} id={id} name={name} moved={moved} column={own} chosen={chosen.has(id)} onChoose={(isChosen) => onChoose(id, isChosen)} />
        ))}
        {column.total === 0 && <p className={sheet.sub}>Nobody.</p>}
        {column.total > column.people.length && (
          <p className={sheet.sub}>and {(column.total - column.people.length).toLocaleString("en-GB")} more; type part of a name to see them</p>
        )}
      </div>
    </section>
  );
}

/** Departments beside each other: people are dragged from one to another, or chosen and sent. */
export function PeopleBoardView({ board, text, move }: { readonly board: PeopleBoard; readonly text: string; readonly move: DraftActions["move"] }) {
  const { draft, departments, columns } = board;
  const router = useRouter();
  const { busy, run } = useAction();
  const [, startGoing] = useTransition();
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [dragged, setDragged] = useState<string>();
  const [said, setSaid] = useState("");
  const [typed, setTyped] = useState(text);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 5 } }),
    useSensor(KeyboardSensor, { coordinateGetter: toNextColumn }),
  );
  const address = (shown: readonly string[], wanted: string): string =>
    `${draftHref(draft.id)}/people?${new URLSearchParams([...shown.map((id) => ["in", id]), ...(wanted === "" ? [] : [["text", wanted]])] as string[][])}`;
  const shown = columns.map(columnId);
  const go = (next: readonly string[], wanted: string): void => startGoing(() => router.replace(address(next, wanted), { scroll: false }));
  const find = useDebouncedCallback((wanted: string) => go(shown, wanted), 250);
  const where = (person: string): string | undefined => columns.find(({ people }) => people.some(({ id }) => id === person))?.id;
  const send = (people: readonly string[], to: string): void => {
    const moves = people.filter((person) => (where(person) ?? "") !== to).map((cardholder) => ({ cardholder, seenIn: where(cardholder) }));
    const name = departments.find(({ id }) => id === to)?.name ?? to;
    if (moves.length === 0) return;
    run(async () => {
      const done = await move(draft.id, moves, to === "" ? undefined : to);
      setSaid(
        done.outcome === "written"
          ? `${plural(moves.length, "person was", "people were")} moved to ${name}, in the draft.`
          : done.outcome === "moved-meanwhile"
            ? `Nobody was moved: ${listWords(done.people)} ${done.people.length === 1 ? "is" : "are"} no longer where you saw them.`
            : "Nobody was moved: the draft was changed meanwhile, or is open no more.",
      );
      setChosen(new Set());
      router.refresh();
    });
  };
  const drop = ({ active, over }: DragEndEvent): void => {
    setDragged(undefined);
    const to = over?.data.current?.column as string | undefined;
    const person = active.data.current?.person as string | undefined;
    if (to === undefined || person === undefined) return;
    // One of those that are chosen takes the others along.
    send(chosen.has(person) ? [...chosen] : [person], to);
  };
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />}>
      <Heading
        result="Move people between departments"
        reference={
          <>
            <Link href={draftHref(draft.id)}>Draft {draft.id}</Link>, {draft.name}
          </>
        }
        lead="Drag somebody to another department, or choose several and send them there. With the keyboard: the space bar takes somebody up and puts them down, the arrow keys carry them across."
      />
      <div className={classes.add}>
        <TextInput
          size="xs"
          w={220}
          aria-label="Find people"
          placeholder="part of a name or number"
          value={typed}
          onChange={(event) => {
            setTyped(event.currentTarget.value);
            find(event.currentTarget.value);
          }}
        />
        <Select
          size="xs"
          w={240}
          searchable
          aria-label="Send those chosen to"
          placeholder={chosen.size === 0 ? "Send those chosen to …" : `Send ${plural(chosen.size, "person", "people")} to …`}
          disabled={chosen.size === 0 || busy}
          value={null}
          data={departments.map(({ id, name }) => ({ value: id, label: name }))}
          onChange={(value) => value !== null && send([...chosen], value)}
        />
        {columns.length < 4 && (
          <Select
            size="xs"
            w={200}
            searchable
            aria-label="Show another department"
            placeholder="Show another department"
            value={null}
            data={departments.filter(({ id }) => !shown.includes(id)).map(({ id, name }) => ({ value: id, label: name }))}
            onChange={(value) => value !== null && go([...shown, value], typed)}
          />
        )}
        <Button size="xs" variant="default" component={Link} href={draftHref(draft.id)} style={{ marginLeft: "auto" }}>
          Back to the draft
        </Button>
      </div>
      <p role="status" style={{ minHeight: 20, margin: "0 0 8px" }}>
        {said}
      </p>
      <DndContext
        id="people"
        sensors={sensors}
        onDragStart={({ active }) => setDragged(String(active.data.current?.name ?? ""))}
        onDragEnd={drop}
        onDragCancel={() => setDragged(undefined)}
        accessibility={{
          announcements: {
            onDragStart: ({ active }) => `${String(active.data.current?.name)} taken up`,
            onDragOver: ({ over }) => (over ? `over ${String(over.data.current?.name)}` : "over no department"),
            onDragEnd: ({ active, over }) => (over ? `${String(active.data.current?.name)} put into ${String(over.data.current?.name)}` : "put back"),
            onDragCancel: ({ active }) => `${String(active.data.current?.name)} put back`,
          },
        }}
      >
        <div className={classes.board}>
          {columns.map((column, at) => (
            <Column
              key={columnId(column)}
              column={column}
              departments={departments}
              chosen={chosen}
              onChoose={(id, isChosen) => setChosen(new Set(isChosen ? [...chosen, id] : [...chosen].filter((one) => one !== id)))}
              onShow={(department) => go(shown.includes(department) ? shown : shown.with(at, department), typed)}
            />
          ))}
        </div>
        <DragOverlay dropAnimation={null}>
          {dragged !== undefined && (
            <div className={classes.dragged}>
              {dragged}
              {chosen.size > 1 ? ` and ${chosen.size - 1} more` : ""}
            </div>
          )}
        </DragOverlay>
      </DndContext>
    </Sheet>
  );
}
