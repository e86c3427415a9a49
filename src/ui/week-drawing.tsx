import { useId } from "react";
import classes from "./week-drawing.module.css";

const dayNames = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];
const minutesADay = 1440;

export interface WeekDrawingProps {
  /** Minutes from Monday 00:00 as half-open pairs `[s0, e0, s1, e1, …]`, drawn solid. */
  readonly solid: readonly number[];
  /** The same, drawn hatched. */
  readonly hatched: readonly number[];
  /** A minute of the week to mark with a pin. */
  readonly pin?: number;
  /** `cell` is small and without labels; `large` has days and hours. */
  readonly size: "cell" | "large";
  /** What the drawing says, for those who do not see it. */
  readonly label: string;
}

interface Bar {
  readonly day: number;
  readonly from: number;
  readonly to: number;
}

/** Pairs of minutes of the week cut at midnights. */
function barsOf(set: readonly number[]): Bar[] {
  const bars: Bar[] = [];
  for (let i = 0; i < set.length; i += 2) {
    const [from, to] = [set[i] ?? 0, set[i + 1] ?? 0];
    for (let day = Math.floor(from / minutesADay); day * minutesADay < to; day++)
      bars.push({ day, from: Math.max(0, from - day * minutesADay), to: Math.min(minutesADay, to - day * minutesADay) });
  }
  return bars;
}

const sizes = {
  cell: { width: 112, row: 5, pitch: 6, left: 0, top: 0 },
  large: { width: 306, row: 13, pitch: 15, left: 30, top: 16 },
} as const;

/** The one drawing of a week: hours across, days down, the same everywhere. */
export function WeekDrawing({ solid, hatched, pin, size, label }: WeekDrawingProps) {
  const hatch = useId();
  const { width, row, pitch, left, top } = sizes[size];
  const height = top + 7 * pitch - (pitch - row);
  const x = (minute: number): number => left + (minute / minutesADay) * (width - left);
  const y = (day: number): number => top + day * pitch;
  const bars = (set: readonly number[], fill: { className?: string; fill?: string }) =>
    barsOf(set).map(({ day, from, to }) => <rect key={`${day} ${from}`} x={x(from)} y={y(day)} width={x(to) - x(from)} height={row} {...fill} />);
  return (
    <svg className={classes.drawing} width={width} height={height} viewBox={`0 0 ${width} ${height}`} role="img" aria-label={label}>
      <defs>
        <pattern id={hatch} width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="5" height="5" className={classes.hatchGround} />
          <rect width="1.1" height="5" className={classes.hatchLine} />
        </pattern>
      </defs>
      {size === "large" &&
        [0, 6, 12, 18, 24].map((hour) => (
          <text key={hour} x={x(hour * 60)} y={10} fontSize="10.5" className={classes.scale} textAnchor={hour === 0 ? "start" : hour === 24 ? "end" : "middle"}>
            {String(hour).padStart(2, "0")}
          </text>
        ))}
      {dayNames.map((name, day) => (
        <g key={name}>
          {size === "large" && (
            <text x="0" y={y(day) + 10.5} fontSize="11.5" className={classes.label}>
              {name}
            </text>
          )}
          <rect x={left} y={y(day)} width={width - left} height={row} className={classes.ground} />
        </g>
      ))}
      {bars(hatched, { fill: `url(#${hatch})` })}
      {bars(solid, classes.solid === undefined ? {} : { className: classes.solid })}
      {size === "large" && [6, 12, 18].map((hour) => <line key={hour} x1={x(hour * 60)} x2={x(hour * 60)} y1={top} y2={height} className={classes.hour} />)}
      {pin !== undefined && (
        <g className={classes.pin}>
          <line
            x1={x(pin % minutesADay)}
            x2={x(pin % minutesADay)}
            y1={y(Math.floor(pin / minutesADay)) - 4}
            y2={y(Math.floor(pin / minutesADay)) + row + 4}
            strokeWidth="2"
          />
          <circle cx={x(pin % minutesADay)} cy={y(Math.floor(pin / minutesADay)) - 5} r="3" strokeWidth="0" />
        </g>
      )}
    </svg>
  );
}
