import { compiledFrom } from "../builders";
import { memoryEvents } from "../contract/memory-events";
import { usualRuleSettings } from "../settings";
import type { FacilityDocument } from "@/core/facility/document";
import { answerInquiry } from "@/operations/inquiry/answer-inquiry";
import { findRoutes } from "@/operations/inquiry/find-routes";
import { showForecast } from "@/operations/inquiry/show-forecast";
import type { Answer, Inquiry, Trace } from "@/operations/inquiry/inquiry";
import { namesOfQuestion } from "@/operations/inquiry/inquiry-names";
import type { SheetOfPart, SheetPart } from "@/operations/inquiry/lay-out-sheet";
import { layOutSheet } from "@/operations/inquiry/lay-out-sheet";
import { traceInquiry } from "@/operations/inquiry/trace-inquiry";
import type { Account } from "@/operations/ports/accounts";
import type { OpenRegister } from "@/operations/register/open-register";
import type { Services } from "@/operations/services";

const tessa: Account = { id: 1, signIn: "tessa", name: "Tessa", role: "reviewer", cardholder: undefined };
const services = {
  now: () => "2026-03-02T06:00:00Z",
  findings: { page: () => Promise.resolve([]), risks: () => Promise.resolve(new Map()) },
  events: memoryEvents(),
  ruleSettings: usualRuleSettings,
} as unknown as Services;

export const anyTime: Inquiry = { who: undefined, where: undefined, when: { kind: "any" }, lockdown: false };

/** A register that views are shown of: what the pages would be given of it, worked out by the operations themselves. */
export function shownRegister(draft: Partial<FacilityDocument>) {
  const compiled = compiledFrom(draft);
  const register = { snapshot: { id: 1, hash: "made for a test", asOf: "2026-03-01T00:00:00Z" }, compiled } as unknown as OpenRegister;
  return {
    answer: (asked: Inquiry, offset?: number, limit?: number): Promise<Answer> => answerInquiry(services, tessa, register, asked, offset, limit),
    sheet: (asked: Inquiry, part: SheetPart = { row: 0, column: 0 }, size?: { rows: number; columns: number }): Promise<SheetOfPart> =>
      layOutSheet(services, tessa, register, asked, part, size),
    trace: (asked: Inquiry): Promise<Trace | undefined> => traceInquiry(services, tessa, register, asked),
    routes: (asked: Inquiry, outOfUse?: string) => findRoutes(services, tessa, register, asked, outOfUse),
    forecast: (days: number) => showForecast(services, tessa, register, days),
    asked: (inquiry: Inquiry) => ({ inquiry, names: namesOfQuestion(compiled, inquiry) }),
  };
}

/** An orchard with so many people in two departments: all open the gate by day, those of the watch the cellar by night, one card is suspended. */
export const shownOrchard = (people: number): Partial<FacilityDocument> => ({
  sites: [{ id: "garden", name: "Garden", timeZone: "Europe/Vienna" }],
  areas: [{ id: "cellar", name: "Cellar", site: "garden", sensitivity: 3 }],
  schedules: [
    { id: "office", name: "Office", week: { mon: [["08:00", "18:00"]], tue: [["08:00", "18:00"]] } },
    { id: "night", name: "Night", week: { mon: [["20:00", "06:00"]] } },
  ],
  doors: [
    { id: "gate", name: "Gate", site: "garden" },
    { id: "hatch", name: "Hatch", site: "garden", area: "cellar" },
  ],
  groups: [
    { id: "press", name: "Press house", kind: "department" },
    { id: "watch", name: "Frost watch", kind: "department" },
  ],
  cardholders: Array.from({ length: people }, (_, i) => ({
    id: `p${i}`,
    name: `Person ${String(i).padStart(3, "0")}`,
    status: "active" as const,
    department: i % 2 === 0 ? "press" : "watch",
  })),
  credentials: Array.from({ length: people }, (_, i) => ({
    id: `c${i}`,
    cardholder: `p${i}`,
    kind: "card" as const,
    status: i === 0 ? ("suspended" as const) : ("active" as const),
  })),
  grants: [
    ...["press", "watch"].map((group) => ({ id: `${group}-gate`, to: { group }, open: { door: "gate" }, schedule: "office" })),
    { id: "watch-hatch", to: { group: "watch" }, open: { area: "cellar" }, schedule: "night" },
  ],
});
