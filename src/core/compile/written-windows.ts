import { objectWindow } from "../facility/time-rules";
import { unbounded } from "../time/window";
import type { Window } from "../time/window";
import type { Zone } from "../time/zone";

/** An object's window as it is written: equal texts give one object, with one number. */
export class WrittenWindow {
  /** What it holds where it allows: seconds are rounded the way that opens more. */
  readonly outward: Window;
  private blocking: Window | undefined;

  constructor(
    readonly number: number,
    private readonly written: { readonly from?: string; readonly until?: string },
    private readonly zone: Zone,
  ) {
    this.outward = number === 0 ? unbounded : objectWindow(written, zone, "outward");
  }

  /** What it holds where it blocks: again the way that opens more. */
  get inward(): Window {
    return (this.blocking ??= this.number === 0 ? unbounded : objectWindow(this.written, this.zone, "inward"));
  }
}

/** Windows by how they are written: a large register writes few different ones, and most write none, which has the number 0. */
export class WrittenWindows {
  private readonly windows: WrittenWindow[];
  private readonly byFrom = new Map<string | undefined, Map<string | undefined, WrittenWindow>>();

  /** Dates are read on the wall clock of the zone. */
  constructor(private readonly zone: Zone) {
    this.windows = [new WrittenWindow(0, {}, zone)];
  }

  of({ from, until }: { readonly from?: string; readonly until?: string }): WrittenWindow {
    if (from === undefined && until === undefined) return this.at(0);
    let byUntil = this.byFrom.get(from);
    if (!byUntil) this.byFrom.set(from, (byUntil = new Map<string | undefined, WrittenWindow>()));
    let window = byUntil.get(until);
    if (!window) {
      const written = { ...(from === undefined ? {} : { from }), ...(until === undefined ? {} : { until }) };
      window = new WrittenWindow(this.windows.length, written, this.zone);
      this.windows.push(window);
      byUntil.set(until, window);
    }
    return window;
  }

  at(number: number): WrittenWindow {
    return this.windows[number] as WrittenWindow;
  }
}
