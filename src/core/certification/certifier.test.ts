import { describe, expect, it } from "@jest/globals";
import type { Cardholder, Group } from "../facility/document";
import { compiledFrom } from "~/tests/builders";
import { certifiers } from "./certifier";

const person = (id: string, more: Partial<Cardholder> = {}): Cardholder => ({ id, name: id, status: "active", ...more });

function certifierOf(id: string, cardholders: readonly Cardholder[], groups: readonly Group[] = []) {
  const { facility } = compiledFrom({ cardholders, groups, credentials: [] });
  const asked = facility.cardholders.find((cardholder) => cardholder.id === id);
  return asked && certifiers(facility)(asked)?.cardholder;
}

const departments: readonly Group[] = [
  { id: "above", name: "Above", kind: "department", manager: "chief" },
  { id: "below", name: "Below", kind: "department", parent: "above" },
  { id: "led", name: "Led", kind: "department", parent: "above", manager: "lead" },
];

describe("who certifies a cardholder", () => {
  it("is their own manager, before the department's", () => {
    expect(certifierOf("a", [person("a", { manager: "boss", department: "led" }), person("boss"), person("lead"), person("chief")], departments)).toBe("boss");
  });

  it("is the department's manager, or that of the department above", () => {
    const people = [person("a", { department: "led" }), person("b", { department: "below" }), person("lead"), person("chief")];
    expect(certifierOf("a", people, departments)).toBe("lead");
    expect(certifierOf("b", people, departments)).toBe("chief");
  });

  it("is never the cardholder: their lines go to their manager's manager", () => {
    const people = [person("lead", { department: "led" }), person("chief", { department: "above" })];
    expect(certifierOf("lead", people, departments)).toBe("chief");
    expect(certifierOf("chief", people, departments)).toBeUndefined();
    expect(certifierOf("self", [person("self", { manager: "self", department: "led" }), person("lead"), person("chief")], departments)).toBe("lead");
  });

  it("is nobody where there is no department and no manager", () => {
    expect(certifierOf("a", [person("a")])).toBeUndefined();
  });
});
