import Link from "next/link";
import type { TracedPath } from "@/core/paths/trace";
import type { RegisterKind } from "@/core/register/kinds";
import { objectHref } from "../register/list-address";
import classes from "./inquiry.module.css";

/** A piece of a step: words, or an object of the register by its name. */
type Piece = string | { readonly name: string; readonly kind: RegisterKind; readonly id: string };

interface Step {
  readonly pieces: readonly Piece[];
  readonly small?: string | undefined;
}

/** The steps of a path in plain connecting words. */
function stepsOf(path: TracedPath, names: Readonly<Record<string, string>>): Step[] {
  if (path.effect === "override") return [{ pieces: ["has a standing override: every door, at all times"] }];
  const object = (kind: RegisterKind, id: string): Piece => ({ name: names[`${kind} ${id}`] ?? id, kind, id });
  const [first, ...above] = path.groups ?? [];
  const { from, until } = path.membership ?? {};
  const window =
    path.membership === undefined
      ? undefined
      : [from === undefined ? "since always" : `since ${from.slice(0, 10)}`, until === undefined ? "no end" : `until ${until.slice(0, 10)}`].join(", ");
  const steps: Step[] = [];
  if (path.by === "credential") steps.push({ pieces: ["the card itself"] });
  if (first !== undefined) steps.push({ pieces: [path.by === "department" ? "in department " : "in ", object("group", first)], small: window });
  for (const group of above) steps.push({ pieces: ["which is below ", object("group", group)] });
  const verb = path.effect === "block" ? "is blocked from " : steps.length === 0 ? "has " : "which has ";
  if (path.bundle !== undefined) steps.push({ pieces: [`${verb}bundle `, object("bundle", path.bundle)] });
  if (path.level !== undefined)
    steps.push({
      pieces: [`${path.bundle === undefined ? verb : "with "}level `, object("level", path.level)],
      small: path.row === undefined ? undefined : `row ${path.row + 1} of the level`,
    });
  if (path.bundle === undefined && path.level === undefined)
    steps.push({ pieces: path.grant === undefined ? [verb] : [verb, object("grant", path.grant), " by an exception"], small: path.grant });
  const schedules = path.schedules ?? [];
  steps.push({
    pieces: schedules.length === 0 ? ["at all times"] : schedules.flatMap((id, i) => [i === 0 ? "on " : ", and within ", object("schedule", id)]),
  });
  return steps;
}

/** The steps of a path, each leading to what it names in the register that was asked. */
export function PathChain({
  path,
  names,
  isOpen,
  snapshot,
}: {
  readonly path: TracedPath;
  readonly names: Readonly<Record<string, string>>;
  readonly isOpen: boolean;
  readonly snapshot: number | undefined;
}) {
  return (
    <ul className={isOpen ? classes.because : classes.shut}>
      {stepsOf(path, names).map(({ pieces, small }, i) => (
        <li key={i}>
          {pieces.map((piece, at) =>
            typeof piece === "string" ? (
              piece
            ) : (
              <Link key={at} href={objectHref(piece.kind, piece.id, snapshot)}>
                {piece.name}
              </Link>
            ),
          )}
          {small !== undefined && <small>{small}</small>}
        </li>
      ))}
    </ul>
  );
}
