import AxeBuilder from "@axe-core/playwright";
import type { Page } from "@playwright/test";

/** WCAG 2.2 AA by axe-core's rules; the success criteria behind each are in its report. */
const tags = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"];

/** What of a page breaks WCAG 2.2 AA, each with the first element that does; by some rules alone where these are named. */
export async function violationsOf(page: Page, rules?: readonly string[]): Promise<string[]> {
  // Frames are told from each other by a further page, and everything that is in order is listed: neither is asked for, and both cost most of the time.
  const axe = new AxeBuilder({ page }).setLegacyMode(true).options({ resultTypes: ["violations"], iframes: false });
  const { violations } = await (rules ? axe.withRules([...rules]) : axe.withTags(tags)).analyze();
  return violations.map(({ id, nodes }) => `${id}: ${nodes[0]?.html}`);
}
