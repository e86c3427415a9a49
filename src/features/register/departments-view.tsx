"use client";

import { UnstyledButton } from "@mantine/core";
import Link from "next/link";
import { useActionState, useState } from "react";
import type { ShownDepartment, ShownDepartments } from "@/operations/register/show-departments";
import { Heading, Sheet } from "@/ui/sheet";
import sheet from "@/ui/sheet.module.css";
import { questionAddress } from "../inquiry/address";
import { nothingAsked, QuestionLine } from "../inquiry/question-line";
import { capital, plural } from "../words/numbers";
import { listHref, listOf, objectHref } from "./list-address";
import classes from "./register.module.css";

type Begin = (before: string | undefined, form: FormData) => Promise<string | undefined>;

/** With more departments than this those below others are folded away first. */
const unfoldedAtFirst = 60;
const longestName = 255;

function MovePeople({ department: { id, name }, begin }: { readonly department: ShownDepartment; readonly begin: Begin }) {
  const [said, submit, busy] = useActionState(begin, undefined);
  return (
    <form action={submit} className={classes.move}>
      <input type="hidden" name="name" value={`People of ${name}`.slice(0, longestName)} />
      <input type="hidden" name="people" value={id} />
      <UnstyledButton type="submit" className={sheet.plain} disabled={busy} aria-label={`Move people of ${name}, in a draft`}>
        Move people
      </UnstyledButton>
      {said !== undefined && <span role="alert">{said}</span>}
    </form>
  );
}

/** Which departments are in sight: those of which no department above is folded. */
function inSight(departments: readonly ShownDepartment[], folded: ReadonlySet<string>): ShownDepartment[] {
  const shown: ShownDepartment[] = [];
  for (let i = 0; i < departments.length; i++) {
    const department = departments[i];
    if (!department) continue;
    shown.push(department);
    if (folded.has(department.id)) i += department.below;
  }
  return shown;
}

/** The departments as a tree, with how many people each has, what they open, and a way to move them. */
export function DepartmentsView({ shown, begin }: { readonly shown: ShownDepartments; readonly begin: Begin | undefined }) {
  const { departments, without, people } = shown;
  const [folded, fold] = useState<ReadonlySet<string>>(
    () => new Set(departments.length > unfoldedAtFirst ? departments.filter(({ below }) => below > 0).map(({ id }) => id) : []),
  );
  const turn = (id: string): void => {
    const next = new Set(folded);
    if (!next.delete(id)) next.add(id);
    fold(next);
  };
  const parents = departments.filter(({ below }) => below > 0).map(({ id }) => id);
  return (
    <Sheet question={<QuestionLine asked={nothingAsked} />}>
      <Heading
        result={`${people.toLocaleString("en-GB")} people in ${plural(departments.length, "department", "departments")}`}
        reference={<Link href={listHref(listOf("group"))}>All groups</Link>}
        lead={
          without === 0
            ? "Everybody has a department, and so a manager who can certify them where one is named."
            : `${capital(plural(without, "person has", "people have"))} no department: nobody answers for them unless a manager of their own is named.`
        }
      />
      <p className={sheet.links}>
        {without > 0 && <Link href={listHref(listOf("cardholder", { filters: { department: "" } }))}>Those without one</Link>}
        <Link href={listHref(listOf("cardholder", { group: "department" }))}>Everybody, by department</Link>
        {parents.length > 0 && (
          <UnstyledButton className={sheet.plain} onClick={() => fold(folded.size > 0 ? new Set() : new Set(parents))}>
            {folded.size > 0 ? "Unfold all" : "Fold all"}
          </UnstyledButton>
        )}
      </p>
      <table className={sheet.table}>
        <thead>
          <tr>
            <th scope="col">Department</th>
            <th scope="col">Manager</th>
            <th scope="col" className={sheet.number}>
              people
            </th>
            <th scope="col" className={sheet.number}>
              of them active
            </th>
            <th scope="col" className={sheet.number}>
              with those below
            </th>
            <th scope="col">
              <span className={classes.unseen}>What can be done</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {inSight(departments, folded).map((department) => {
            const { id, name, manager, depth, below, own, active, all } = department;
            return (
              <tr key={id}>
                <td style={{ paddingLeft: 8 + 20 * Math.min(depth, 12) }}>
                  {below > 0 ? (
                    <UnstyledButton className={classes.foldMark} aria-expanded={!folded.has(id)} aria-label={`${below} below ${name}`} onClick={() => turn(id)}>
                      {folded.has(id) ? "▸" : "▾"}
                    </UnstyledButton>
                  ) : (
                    <span className={classes.foldMark} aria-hidden />
                  )}
                  <Link href={objectHref("group", id)}>{name}</Link>
                </td>
                <td>{manager ?? <span className={sheet.grave}>nobody</span>}</td>
                <td className={sheet.number}>
                  {own === 0 ? "0" : <Link href={listHref(listOf("cardholder", { filters: { department: name } }))}>{own.toLocaleString("en-GB")}</Link>}
                </td>
                <td className={sheet.number}>{active.toLocaleString("en-GB")}</td>
                <td className={sheet.number}>
                  {all === own ? "" : <Link href={listHref(listOf("cardholder", { of: { kind: "group", id } }))}>{all.toLocaleString("en-GB")}</Link>}
                </td>
                <td>
                  <span className={classes.todo}>
                    <Link href={questionAddress({ ...nothingAsked.inquiry, who: { kind: "group", id } })} aria-label={`What ${name} opens`}>
                      What they open
                    </Link>
                    {begin && own > 0 && <MovePeople department={department} begin={begin} />}
                  </span>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </Sheet>
  );
}
