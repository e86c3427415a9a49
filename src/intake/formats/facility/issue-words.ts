import type { DataIssue } from "@/core/facility/issue";
import { unreachable } from "@/core/kernel/invariant";

/** The sentence for an issue: what is wrong or odd, the value, and what was expected. */
export function issueWords({ code, facts }: DataIssue): string {
  switch (code) {
    case "not-json":
      return `This is no JSON (${facts.reason}); it begins with ${facts.value}. Expected: a facility document.`;
    case "malformed":
      return `Found ${facts.value}; expected ${facts.expected}.`;
    case "unknown-reference":
      return `"${facts.value}" is not an id in ${facts.list}; expected one that is there.`;
    case "duplicate-id":
      return `"${facts.value}" is used already by ${facts.first}; expected an id of its own.`;
    case "loop":
      return `"${facts.value}" leads back to itself (${facts.members}); expected a chain that ends.`;
    case "empty-window":
      return `The window from ${facts.from} until ${facts.until} holds no time at all, so it is never in force.`;
    case "backward-range":
      return `The range from ${facts.from} to ${facts.to} runs backwards and covers no date.`;
    case "priority-tie":
      return `On ${facts.date} “${facts.beaten}” has the same priority as “${facts.winner}”, which is listed first and wins.`;
    case "empty-interval":
      return `The interval ${facts.start}–${facts.end} is empty and opens nothing.`;
    case "repeated-reference":
      return `"${facts.value}" is listed more than once; it counts once.`;
    case "area-of-other-site":
      return `The area ${facts.area} belongs to site ${facts.site}, the door to ${facts.doorSite}; the door keeps its own site's clock.`;
    default:
      return unreachable(code);
  }
}
