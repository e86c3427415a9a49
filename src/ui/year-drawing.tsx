import { useId } from "react";
import classes from "./week-drawing.module.css";

/** One date: minutes of the day as half-open pairs `[s0, e0, s1, e1, …]`, those in `hatched` among those in `open`. */
export interface DrawnDay {
  readonly open: readonly number[];
  readonly hatched: readonly number[];
}

export interface YearDrawingProps {
  readonly days: readonly DrawnDay[];
  /** Words over the drawing, each from a date (its index) on, such as the names of months. */
  readonly heads: readonly { readonly at: number; readonly words: string }[];
  /** Indices of dates that are marked with a tick below, and of those with a ring. */
  readonly ticks: readonly number[];
  readonly rings: readonly number[];
  /** The date to mark with a pin, and the minute of it. */
  readonly pin?: { readonly at: number; readonly minute: number } | undefined;
  /** What the drawing says, for those who do not see it. */
  readonly label: string;
}

const left = 26;
const top = 18;
const height = 120;
const dayWidth = 2;
const minutesADay = 1440;
const below = 16;

const y = (minute: number): number => Math.round((top + (minute / minutesADay) * height) * 10) / 10;
const x = (day: number): number => left + day * dayWidth;

/** The outlines of all bars in one: thousands of shapes of their own would take long to draw. */
function outlines(sets: readonly (readonly number[])[]): string {
  const parts: string[] = [];
  sets.forEach((set, day) => {
    for (let i = 0; i < set.length; i += 2) parts.push(`M${x(day)} ${y(set[i] ?? 0)}h${dayWidth}V${y(set[i + 1] ?? 0)}h${-dayWidth}z`);
  });
  return parts.join("");
}

/** The one drawing of a year: a column for each date, hours downwards. */
export function YearDrawing({ days, heads, ticks, rings, pin, label }: YearDrawingProps) {
  const hatch = useId();
  const [width, bottom] = [x(days.length), top + height];
  return (
    <svg className={classes.drawing} width="100%" viewBox={`0 0 ${width + 6} ${bottom + below}`} role="img" aria-label={label}>
      <defs>
        <pattern id={hatch} width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="5" height="5" className={classes.hatchGround} />
          <rect width="1.1" height="5" className={classes.hatchLine} />
        </pattern>
      </defs>
      <rect x={left} y={top} width={width - left} height={height} className={classes.ground} />
      <path d={outlines(days.map(({ open }) => open))} className={classes.solid} />
      <path d={outlines(days.map(({ hatched }) => hatched))} fill={`url(#${hatch})`} />
      {[0, 6, 12, 18, 24].map((hour) => (
        <g key={hour}>
          <text x={left - 5} y={y(hour * 60) + 4} fontSize="10.5" textAnchor="end" className={classes.scale}>
            {String(hour).padStart(2, "0")}
          </text>
          {hour % 24 !== 0 && <line x1={left} x2={width} y1={y(hour * 60)} y2={y(hour * 60)} className={classes.hour} />}
        </g>
      ))}
      {heads.map(({ at, words }) => (
        <g key={at}>
          <text x={x(at) + 3} y={11} fontSize="11.5" className={classes.label}>
            {words}
          </text>
          <line x1={x(at)} x2={x(at)} y1={3} y2={bottom} className={classes.month} />
        </g>
      ))}
      {ticks.map((day) => (
        <line key={day} x1={x(day) + dayWidth / 2} x2={x(day) + dayWidth / 2} y1={bottom + 3} y2={bottom + 10} className={classes.tick} />
      ))}
      {rings.map((day) => (
        <circle key={day} cx={x(day) + dayWidth / 2} cy={bottom + 10} r="3.2" className={classes.ring} />
      ))}
      {pin && (
        <g className={classes.pin}>
          <line x1={x(pin.at) + dayWidth / 2} x2={x(pin.at) + dayWidth / 2} y1={top - 4} y2={bottom + 3} strokeWidth="1" />
          <circle cx={x(pin.at) + dayWidth / 2} cy={y(pin.minute)} r="3" strokeWidth="0" />
        </g>
      )}
    </svg>
  );
}
