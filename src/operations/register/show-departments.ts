import { departmentTree } from "@/core/register/department-tree";
import { required } from "@/core/kernel/invariant";
import type { Account } from "../ports/accounts";
import { demand } from "../rights";
import type { Services } from "../services";
import type { OpenRegister } from "./open-register";

/** A department as the tree shows it; see `Department` for the counts. */
export interface ShownDepartment {
  readonly id: string;
  readonly name: string;
  readonly manager: string | undefined;
  readonly depth: number;
  readonly below: number;
  readonly own: number;
  readonly active: number;
  readonly all: number;
}

export interface ShownDepartments {
  readonly snapshot: number;
  readonly departments: readonly ShownDepartment[];
  /** People without a department: nobody who would certify them. */
  readonly without: number;
  readonly people: number;
}

/** The departments of a register from the top down, with how many people each has. */
export function showDepartments(_services: Services, account: Account, { snapshot, compiled }: OpenRegister): ShownDepartments {
  demand(account, "read-register");
  const { groups, cardholders } = compiled.facility;
  const names = new Map(cardholders.map(({ id, name }) => [id, name]));
  return {
    snapshot: snapshot.id,
    departments: departmentTree(compiled).map(({ position, ...counts }) => {
      const { id, name, manager } = required(groups[position], "positions are valid");
      return { id, name, manager: manager === undefined ? undefined : names.get(manager), ...counts };
    }),
    without: cardholders.filter(({ department }) => department === undefined).length,
    people: cardholders.length,
  };
}
