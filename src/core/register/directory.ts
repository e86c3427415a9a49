import { PositionIndex } from "../compile/position-index";
import type { Position } from "../compile/position-index";
import type { CompiledFacility } from "../compile/compiled-facility";
import type { Grant } from "../facility/document";
import { credentialLabel } from "../facility/labels";
import type { RegisterKind } from "./kinds";
import { listOfKind } from "./kinds";

/** Finds objects of a register by kind and id, and what they are called. Kept with the register. */
export class Directory {
  private readonly indexes = new Map<RegisterKind, PositionIndex>();

  constructor(readonly compiled: CompiledFacility) {}

  position(kind: RegisterKind, id: string): Position | undefined {
    let index = this.indexes.get(kind);
    if (!index) {
      const { compiled } = this;
      index =
        kind === "cardholder"
          ? compiled.cardholderById
          : kind === "credential"
            ? compiled.credentialById
            : kind === "door"
              ? compiled.doorById
              : kind === "group"
                ? compiled.groupById
                : new PositionIndex(compiled.facility[listOfKind[kind]]);
      this.indexes.set(kind, index);
    }
    return index.get(id);
  }

  /** The name of an object; its id where there is no such object, empty for no id. */
  name(kind: Exclude<RegisterKind, "credential" | "grant">, id: string | undefined): string {
    if (id === undefined) return "";
    const position = this.position(kind, id);
    return position === undefined ? id : (this.compiled.facility[listOfKind[kind]][position]?.name ?? id);
  }

  credentialName(id: string): string {
    const credential = this.compiled.facility.credentials[this.position("credential", id) ?? -1];
    return credential ? credentialLabel(credential) : id;
  }

  /** What a grant opens, by name. */
  target({ open }: Grant): string {
    if (open.level !== undefined) return this.name("level", open.level);
    if (open.bundle !== undefined) return this.name("bundle", open.bundle);
    if (open.door !== undefined) return this.name("door", open.door);
    return open.doorGroup !== undefined ? this.name("doorGroup", open.doorGroup) : this.name("area", open.area);
  }

  /** Whom a grant is given to, by name. */
  receiver({ to }: Grant): string {
    if (to.group !== undefined) return this.name("group", to.group);
    return to.cardholder !== undefined ? this.name("cardholder", to.cardholder) : this.credentialName(to.credential ?? "");
  }
}

const kept = new WeakMap<CompiledFacility, Directory>();

export function directoryOf(compiled: CompiledFacility): Directory {
  const known = kept.get(compiled) ?? new Directory(compiled);
  kept.set(compiled, known);
  return known;
}
