import { describe, expect, it } from "@jest/globals";
import fc from "fast-check";
import { arbitraryFacility } from "~/tests/judge/arbitrary-facility";
import { compiledFrom } from "~/tests/builders";
import { pathsBetween } from "./paths";
import { candidateCredentials, candidateDoors } from "./candidates";

describe("who and what may come into question", () => {
  it("is found from either side: just the pairs with a way of an allow between them, and all doors of whoever has an override", () => {
    fc.assert(
      fc.property(arbitraryFacility, (draft) => {
        const compiled = compiledFrom(draft);
        for (const { position: door } of compiled.doors) {
          const found = candidateCredentials(compiled, door).map(({ position }) => position);
          const expected = compiled.credentials
            .all()
            .filter((credential) => credential.holder?.override || pathsBetween(compiled, credential, door).some(({ grant }) => !grant.blocks))
            .map(({ position }) => position);
          expect(found).toEqual(expected);
        }
        for (const credential of compiled.credentials) {
          const doors = compiled.doors.filter(({ position }) => candidateCredentials(compiled, position).includes(credential)).map(({ position }) => position);
          expect(candidateDoors(compiled, credential)).toEqual(doors);
        }
      }),
      { numRuns: 100 },
    );
  });
});
