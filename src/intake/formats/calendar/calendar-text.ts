/** A line of a file as it is meant, its folds undone (RFC 5545, 3.1), with the number of the line on which it begins. */
export interface TextLine {
  readonly line: number;
  readonly text: string;
}

/** The lines of an event between its BEGIN and its END, without those of alarms in it. */
export interface EventText {
  readonly line: number;
  readonly lines: readonly TextLine[];
  /** Whether its end came, and not that of something around it. */
  readonly isWhole: boolean;
}

export interface CalendarText {
  readonly properties: readonly TextLine[];
  readonly events: readonly EventText[];
  /** Components that are no events, such as VTODO: how many of each. Zones are not among them: they are no contents. */
  readonly others: ReadonlyMap<string, number>;
  /** Whether the file went on to its end. */
  readonly isWhole: boolean;
}

/** A text that is no iCalendar at all: what stands where a calendar should begin. */
export class NoCalendar extends Error {}

function* linesOf(text: string): Generator<TextLine> {
  let folded: { line: number; text: string } | undefined;
  let line = 0;
  for (const written of text.split(/\r\n|\n|\r/)) {
    line += 1;
    if (folded && /^[ \t]/.test(written)) {
      folded.text += written.slice(1);
      continue;
    }
    if (folded) yield folded;
    folded = written.trim() === "" ? undefined : { line, text: written };
  }
  if (folded) yield folded;
}

const quotedLength = 60;

/**
 * A file by its calendars and events. What is malformed within an event concerns that event alone; what follows is read all the same. Throws `NoCalendar`
 * where no calendar begins.
 */
export function calendarsIn(text: string): CalendarText[] {
  const calendars: CalendarText[] = [];
  let properties: TextLine[] = [];
  let events: EventText[] = [];
  let others = new Map<string, number>();
  let event: { line: number; lines: TextLine[] } | undefined;
  /** What was begun within the calendar, or within the event, and has not ended; its lines are not read. */
  let within: string[] = [];
  let isIn = false;
  const endEvent = (isWhole: boolean): void => {
    if (event) events.push({ ...event, isWhole });
    event = undefined;
    within = [];
  };
  const endCalendar = (isWhole: boolean): void => {
    endEvent(false);
    calendars.push({ properties, events, others, isWhole });
    properties = [];
    events = [];
    others = new Map<string, number>();
    isIn = false;
  };
  for (const one of linesOf(text)) {
    const [, begun] = /^BEGIN:\s*(\S+)\s*$/i.exec(one.text) ?? [];
    const [, ended] = /^END:\s*(\S+)\s*$/i.exec(one.text) ?? [];
    const [begins, ends] = [begun?.toUpperCase(), ended?.toUpperCase()];
    if (!isIn) {
      if (begins !== "VCALENDAR") throw new NoCalendar(`line ${one.line} is ${JSON.stringify(one.text.slice(0, quotedLength))}`);
      isIn = true;
    } else if (begins === "VCALENDAR") {
      endCalendar(false);
      isIn = true;
    } else if (ends === "VCALENDAR") endCalendar(true);
    else if (begins === "VEVENT") {
      endEvent(false);
      event = { line: one.line, lines: [] };
    } else if (ends === "VEVENT") endEvent(true);
    else if (begins !== undefined) {
      if (!event && within.length === 0 && begins !== "VTIMEZONE") others.set(begins, (others.get(begins) ?? 0) + 1);
      within.push(begins);
    } else if (ends !== undefined) {
      // The end of something outside ends what is inside as well.
      const at = within.lastIndexOf(ends);
      if (at >= 0) within = within.slice(0, at);
    } else if (within.length > 0) continue;
    else if (event) event.lines.push(one);
    else properties.push(one);
  }
  if (isIn) endCalendar(false);
  return calendars;
}
