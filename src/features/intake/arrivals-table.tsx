import { Button } from "@mantine/core";
import type { Arrival } from "@/operations/ports/deliveries";
import sheet from "@/ui/sheet.module.css";
import { useAction } from "@/ui/use-action";
import { waitWords } from "../words/arrivals";
import { capital, plural } from "../words/numbers";
import { clockText } from "../words/times";
import classes from "./intake.module.css";

export interface ArrivalsTableProps {
  readonly arrivals: readonly Arrival[];
  readonly onLook: (arrival: Arrival) => void;
  readonly discard: (token: string) => Promise<void>;
}

/** What arrived from sources and waits for somebody: what it is, and why it was not taken in by itself. */
export function ArrivalsTable({ arrivals, onLook, discard }: ArrivalsTableProps) {
  const { busy, run } = useAction();
  return (
    <section className={classes.preview} aria-label="What arrived">
      <h2 className={classes.section}>{capital(plural(arrivals.length, "delivery waits", "deliveries wait"))} for somebody</h2>
      <div style={{ overflowX: "auto" }}>
        <table className={sheet.table}>
          <thead>
            <tr>
              <th scope="col">From</th>
              <th scope="col">What</th>
              <th scope="col">Came</th>
              <th scope="col">Waits, because</th>
              <th scope="col">To do</th>
            </tr>
          </thead>
          <tbody>
            {arrivals.map((arrival) => (
              <tr key={arrival.token}>
                <td>{arrival.source}</td>
                <td>{arrival.name}</td>
                <td style={{ whiteSpace: "nowrap" }}>{clockText(arrival.at)}</td>
                <td>{arrival.why.map(waitWords).join("; ")}</td>
                <td style={{ whiteSpace: "nowrap" }}>
                  <Button
                    size="compact-xs"
                    variant="default"
                    disabled={busy}
                    onClick={() => onLook(arrival)}
                    aria-label={`Look at ${arrival.name} from ${arrival.source}`}
                  >
                    Look at it
                  </Button>{" "}
                  <Button
                    size="compact-xs"
                    variant="subtle"
                    disabled={busy}
                    onClick={() => run(() => discard(arrival.token))}
                    aria-label={`Discard ${arrival.name} from ${arrival.source}`}
                  >
                    Discard it
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}
