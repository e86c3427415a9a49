import Link from "next/link";
import { groupBy } from "@/core/kernel/compare";
import type { ListedPlan } from "@/operations/register/plans/show-plans";
import { storeyWords } from "./plan-words";
import classes from "./plans.module.css";

/** The plans of each site as links, from the lowest floor up; `more` is said of each at its end. */
export function Floors<P extends ListedPlan>({
  plans,
  current,
  href,
  more,
}: {
  readonly plans: readonly P[];
  readonly current: number;
  readonly href: (plan: P) => string;
  readonly more?: (plan: P) => string;
}) {
  return (
    <nav className={classes.floors} aria-label="Other plans">
      {[...groupBy(plans, ({ siteName }) => siteName)].map(([site, own]) => (
        <section key={site} aria-label={site}>
          <h2>{site}</h2>
          <ul>
            {own.map((plan) => (
              <li key={plan.id}>
                <Link href={href(plan)} aria-current={plan.id === current ? "page" : undefined}>
                  {plan.name}
                </Link>
                <span>{more?.(plan) ?? storeyWords(plan.storey)}</span>
              </li>
            ))}
          </ul>
        </section>
      ))}
    </nav>
  );
}
