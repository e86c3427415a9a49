import Link from "next/link";
import type { ListedPlan, ShownPlan } from "@/operations/register/plans/show-plans";
import { planWithFloor } from "./plan-words";
import classes from "./plans.module.css";

/** Where the lift of a selected door leads to on other plans; nothing for doors of no lift. */
export function LiftLinks({
  plan,
  door,
  plans,
  href,
}: {
  readonly plan: ShownPlan;
  readonly door: string;
  readonly plans: readonly ListedPlan[];
  readonly href: (plan: number, door: string) => string;
}) {
  const joined = plan.joined.filter((one) => one.door === door);
  if (joined.length === 0) return null;
  return (
    <>
      <h3>This lift goes on to</h3>
      <ul className={classes.leads}>
        {joined.map(({ plan: other, there }) => {
          const to = plans.find(({ id }) => id === other);
          return (
            to && (
              <li key={other}>
                <Link href={href(other, there)}>{planWithFloor(to)}</Link>
              </li>
            )
          );
        })}
      </ul>
    </>
  );
}
