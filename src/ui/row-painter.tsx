"use client";

import { useRef, useState } from "react";
import classes from "./row-painter.module.css";

const minutesADay = 1440;
/** Drawing is by the quarter of an hour; what has to be exact is typed. */
const grain = 15;

interface RowPainterProps {
  /** Minutes of the day as half-open pairs. */
  readonly open: readonly number[];
  /** Minutes that belong to the day before, drawn otherwise. */
  readonly tail: readonly number[];
  readonly label: string;
  readonly onPaint: (from: number, to: number, isOpen: boolean) => void;
}

interface Stroke {
  readonly start: number;
  readonly from: number;
  readonly to: number;
  readonly isOpen: boolean;
}

const bars = (set: readonly number[], className: string | undefined) =>
  set.map((from, i) =>
    i % 2 === 1 ? null : (
      <i
        key={from}
        className={className}
        style={{ left: `${(100 * from) / minutesADay}%`, width: `${(100 * ((set[i + 1] ?? from) - from)) / minutesADay}%` }}
      />
    ),
  );

/** A day as a strip on which time is opened, or closed where it is open, by dragging. */
export function RowPainter({ open, tail, label, onPaint }: RowPainterProps) {
  const strip = useRef<HTMLDivElement>(null);
  const [stroke, setStroke] = useState<Stroke>();
  // A quick hand is faster than what is drawn: what the next move goes on from is kept here, and drawn when there is time.
  const drawn = useRef<Stroke>(undefined);
  const draw = (next: Stroke | undefined): void => {
    drawn.current = next;
    setStroke(next);
  };
  const minuteAt = (x: number): number => {
    const box = strip.current?.getBoundingClientRect();
    if (!box || box.width === 0) return 0;
    return Math.min(minutesADay, Math.max(0, ((x - box.left) / box.width) * minutesADay));
  };
  const isOpenAt = (minute: number): boolean => open.some((from, i) => i % 2 === 0 && from <= minute && minute < (open[i + 1] ?? from));
  const reach = (start: number, now: number): { from: number; to: number } => {
    const [low, high] = [Math.min(start, now), Math.max(start, now)];
    // A click alone takes the quarter that it falls into.
    const from = Math.round(low / grain) === Math.round(high / grain) ? Math.floor(low / grain) : Math.round(low / grain);
    return { from: from * grain, to: Math.max(Math.round(high / grain), from + 1) * grain };
  };
  return (
    <div
      ref={strip}
      className={classes.strip}
      role="img"
      aria-label={label}
      onPointerDown={(event) => {
        if (event.button !== 0) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        const start = minuteAt(event.clientX);
        draw({ start, ...reach(start, start), isOpen: !isOpenAt(start) });
      }}
      onPointerMove={(event) => drawn.current && draw({ ...drawn.current, ...reach(drawn.current.start, minuteAt(event.clientX)) })}
      onPointerUp={() => {
        const done = drawn.current;
        draw(undefined);
        if (done) onPaint(done.from, Math.min(done.to, minutesADay), done.isOpen);
      }}
      onPointerCancel={() => draw(undefined)}
      onDragStart={(event) => event.preventDefault()}
    >
      {bars(tail, classes.tail)}
      {bars(open, undefined)}
      {stroke && (
        <i
          className={stroke.isOpen ? classes.drawing : classes.erasing}
          style={{ left: `${(100 * stroke.from) / minutesADay}%`, width: `${(100 * (stroke.to - stroke.from)) / minutesADay}%` }}
        />
      )}
      {[6, 12, 18].map((hour) => (
        <b key={hour} style={{ left: `${(100 * hour) / 24}%` }} />
      ))}
    </div>
  );
}
