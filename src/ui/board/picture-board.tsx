import { useDraggable, useDroppable } from "@dnd-kit/core";
import { useId, useImperativeHandle, useMemo, useRef } from "react";
import type { KeyboardEvent, ReactNode, Ref } from "react";
import classes from "./board.module.css";
import { freeLabels } from "./free-labels";
import type { LabelSide } from "./free-labels";
import type { BoardView } from "./use-board-zoom";
import { closest, useBoardZoom } from "./use-board-zoom";

/** How a mark is drawn; the words beside it say the same. */
export type MarkLook = "strong" | "wide" | "broken" | "plain" | "faint" | "gone";

/** Something that stands on a picture. */
export interface BoardMark {
  readonly id: string;
  readonly name: string;
  /** What is said of it. */
  readonly word: string;
  /** In ten-thousandths of the picture from the left and from the top. */
  readonly x: number;
  readonly y: number;
  readonly look: MarkLook;
}

export interface BoardPlace {
  readonly x: number;
  readonly y: number;
}

/** What others may ask of a board. */
export interface BoardHandle {
  /** The place of the picture under a point of the window; undefined where that lies outside. */
  readonly placeAt: (clientX: number, clientY: number) => BoardPlace | undefined;
  /** The place in the middle of what is seen. */
  readonly middle: () => BoardPlace;
  readonly focusMark: (id: string) => void;
}

interface BoardProps {
  readonly picture: { readonly src: string; readonly width: number; readonly height: number; readonly isLine: boolean };
  /** What is seen, in words. */
  readonly label: string;
  readonly marks: readonly BoardMark[];
  readonly selected: string | undefined;
  readonly onSelect: (id: string) => void;
  /** Marks can be moved and taken off where these are given. */
  readonly onMove?: ((id: string, to: BoardPlace) => void) | undefined;
  readonly onRemove?: ((id: string) => void) | undefined;
  readonly handle?: Ref<BoardHandle>;
}

const full = 10_000;
const arrows: Readonly<Record<string, readonly [number, number]>> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };
/** A step of a mark from the keyboard, in ten-thousandths; finely with Shift. */
const step = 100;
const fineStep = 10;
const panStep = 60;
const letter = 6.1;

const within = (value: number): number => Math.min(full, Math.max(0, Math.round(value)));

/** The leaf of a door as plans draw it: swung open, broken where it would be, or shut in its frame. */
function Glyph({ look }: { readonly look: MarkLook }): ReactNode {
  const isSwung = look === "strong" || look === "broken";
  return (
    <svg viewBox="0 0 24 24" aria-hidden="true" fill="none" stroke="currentColor" strokeWidth="1.8" strokeLinecap="round">
      {isSwung && <path d="M4.5 17.5h2M17.5 17.5h2" />}
      {isSwung && <path d="M7 17.5V6.5" strokeWidth="2.6" strokeDasharray={look === "broken" ? "2.5 3" : undefined} />}
      {isSwung && <path d="M7 6.5A11 11 0 0 1 17.5 17.5" strokeWidth="1.1" strokeDasharray={look === "broken" ? "1.5 2.5" : undefined} />}
      {(look === "plain" || look === "faint") && <path d="M3.5 12h2M18.5 12h2M7.5 12h9" strokeWidth={look === "plain" ? "2.8" : "1.4"} />}
      {look === "wide" && <path d="M7 14V9.5M17 14V9.5M9.5 12h5M12.8 10l2 2-2 2" strokeWidth="1.5" />}
      {look === "gone" && <path d="M8.5 8.5l7 7M15.5 8.5l-7 7" />}
    </svg>
  );
}

interface MarkProps {
  readonly mark: BoardMark;
  readonly left: number;
  readonly top: number;
  readonly isSelected: boolean;
  readonly describedBy: string | undefined;
  readonly onSelect: () => void;
  readonly onFocus: () => void;
  readonly onKeyDown: ((event: KeyboardEvent) => void) | undefined;
}


function Mark({ mark, left, top, isSelected, describedBy, onSelect, onFocus, onKeyDown }: MarkProps) {
  return (
    <button
      type="button"
      className={classes.mark}
      style={{ left, top }}
      data-look={mark.look}
      data-mark={mark.id}
      aria-label={`${mark.name}: ${mark.word}`}
      aria-pressed={isSelected}
      aria-describedby={describedBy}
      onClick={onSelect}
      onFocus={onFocus}
      onKeyDown={onKeyDown}
    >
      <Glyph look={mark.look} />
    </button>
  );
}

function MovableMark({ mark, left, top, isSelected, describedBy, onSelect, onFocus, onKeyDown }: MarkProps) {
  const { setNodeRef, listeners, transform } = useDraggable({ id: `mark ${mark.id}`, data: { mark: mark.id } });
  return (
    <button
      ref={setNodeRef}
      type="button"
      className={classes.movable}
      // What carries it measures where it lies without any transform, so that this is the carrying alone.
      style={{ left, top, transform: transform ? `translate(${transform.x}px, ${transform.y}px)` : undefined }}
      data-look={mark.look}
      data-mark={mark.id}
      aria-label={`${mark.name}: ${mark.word}`}
      aria-pressed={isSelected}
      aria-describedby={describedBy}
      {...listeners}
      onClick={onSelect}
      onFocus={onFocus}
      onKeyDown={onKeyDown}
    >
      <Glyph look={mark.look} />
    </button>
  );
}

function placeOfLabel(side: LabelSide, left: number, top: number): { readonly transform: string } {
  const shift = { right: "14px, -50%", left: "calc(-100% - 14px), -50%", below: "-50%, 11px", above: "-50%, calc(-100% - 11px)" }[side];
  return { transform: `translate(${left}px, ${top}px) translate(${shift})` };
}

/** A picture that can be brought closer and moved about, with marks on it that can be selected, and moved where that is asked for. */
export function PictureBoard({ picture, label, marks, selected, onSelect, onMove, onRemove, handle }: BoardProps) {
  const board = useRef<HTMLDivElement>(null);
  const hint = useId();
  const { src, width, height, isLine } = picture;
  const view = useBoardZoom(
    board,
    useMemo(() => ({ width, height }), [width, height]),
  );
  const { size, transform, whole } = view;
  const { setNodeRef, isOver } = useDroppable({ id: "board", disabled: !onMove });
  useImperativeHandle(handle, () => ({
    placeAt: (clientX, clientY) => {
      const box = board.current?.getBoundingClientRect();
      if (!box || clientX < box.left || clientX > box.right || clientY < box.top || clientY > box.bottom) return undefined;
      return placeOn(view, clientX - box.left, clientY - box.top);
    },
    middle: () => placeOn(view, (size?.width ?? 0) / 2, (size?.height ?? 0) / 2),
    focusMark: (id) => board.current?.querySelector<HTMLElement>(`[data-mark="${CSS.escape(id)}"]`)?.focus(),
  }));
  const points = marks.map(({ x, y }) => view.at(x / full, y / full));
  const labels = size
    ? freeLabels(
        marks.map(({ id, name, word, look }, i) => ({
          x: points[i]?.[0] ?? 0,
          y: points[i]?.[1] ?? 0,
          width: (name.length + word.length + 1) * letter + 6,
          rank: id === selected ? 3 : look === "faint" ? 0 : look === "plain" ? 1 : 2,
        })),
        size,
      )
    : [];
  const keyOnMark = ({ id, x, y }: BoardMark) =>
    onMove === undefined
      ? undefined
      : (event: KeyboardEvent): void => {
          const towards = arrows[event.key];
          const by = event.shiftKey ? fineStep : step;
          if (towards) onMove(id, { x: within(x + towards[0] * by), y: within(y + towards[1] * by) });
          else if (event.key === "Delete" || event.key === "Backspace") onRemove?.(id);
          else return;
          event.preventDefault();
        };
  const keyOnBoard = (event: KeyboardEvent): void => {
    if (event.target !== event.currentTarget || event.ctrlKey || event.metaKey || event.altKey) return;
    const towards = arrows[event.key];
    if (towards) view.move(towards[0] * panStep, towards[1] * panStep);
    else if (event.key === "+" || event.key === "=") view.closer(1.4);
    else if (event.key === "-") view.closer(1 / 1.4);
    else if (event.key === "0") view.showWhole();
    else return;
    event.preventDefault();
  };
  const OneMark = onMove ? MovableMark : Mark;
  return (
    <div className={classes.frame}>
      <div
        ref={(element) => {
          board.current = element;
          setNodeRef(element);
        }}
        className={isOver ? classes.over : classes.board}
        role="group"
        aria-label={label}
        aria-describedby={hint}
        tabIndex={0}
        onKeyDown={keyOnBoard}
      >
        {/* A picture of the installation's own, whose size is known: nothing that the framework could do better. */}
        {/* eslint-disable-next-line @next/next/no-img-element */}
        <img
          src={src}
          alt=""
          draggable={false}
          className={isLine ? `${classes.picture} ${classes.line}` : classes.picture}
          style={{
            width: whole.width,
            height: whole.height,
            transform: `translate(${transform.applyX(whole.left)}px, ${transform.applyY(whole.top)}px) scale(${transform.k})`,
            visibility: size ? undefined : "hidden",
          }}
        />
        {size &&
          marks.map((mark, i) => {
            const [left, top] = points[i] ?? [0, 0];
            const side = labels[i];
            return side === undefined ? null : (
              <span key={mark.id} className={classes.label} style={placeOfLabel(side, left, top)} aria-hidden="true">
                {mark.name}
                {mark.word !== "" && (mark.look === "strong" || mark.look === "wide" ? <b> {mark.word}</b> : <i> {mark.word}</i>)}
              </span>
            );
          })}
        {size &&
          marks.map((mark, i) => {
            const [left, top] = points[i] ?? [0, 0];
            return (
              <OneMark
                key={mark.id}
                mark={mark}
                left={left}
                top={top}
                isSelected={mark.id === selected}
                describedBy={onMove ? hint : undefined}
                onSelect={() => onSelect(mark.id)}
                onFocus={() => view.show(mark.x / full, mark.y / full)}
                onKeyDown={keyOnMark(mark)}
              />
            );
          })}
      </div>
      <p id={hint} hidden>
        {onMove
          ? "Arrow keys move a mark, with Shift finely; Delete takes it off. On the picture itself they move what is seen; plus and minus bring it closer or further, 0 shows the whole."
          : "Arrow keys move what is seen; plus and minus bring it closer or further, 0 shows the whole."}
      </p>
      <div className={classes.tools} role="group" aria-label="Part of the picture">
        <button type="button" aria-label="Closer" disabled={transform.k >= closest} onClick={() => view.closer(1.6)}>
          +
        </button>
        <button type="button" aria-label="Further away" disabled={transform.k <= 1} onClick={() => view.closer(1 / 1.6)}>
          −
        </button>
        <button type="button" disabled={transform.k <= 1} onClick={() => view.showWhole()}>
          Whole
        </button>
      </div>
    </div>
  );
}

function placeOn(view: BoardView, left: number, top: number): BoardPlace {
  const [x, y] = view.on(left, top);
  return { x: within(x * full), y: within(y * full) };
}
