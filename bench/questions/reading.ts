import { compileFacility } from "@/core/compile/compile-facility";
import type { FacilityDocument } from "@/core/facility/document";
import { withAllLists } from "@/core/facility/facility";
import { invariant } from "@/core/kernel/invariant";
import { AccessWorld } from "@/core/table/access-world";
import { readFacility } from "@/intake/formats/facility/read-facility";
import type { Institute } from "../institute";
import { later, tableOf } from "../institute";
import type { Measurements } from "../measuring";
import { mediansTogether } from "../measuring";

/** From the text to the compiled document, in terms of what parsing alone costs. */
export function measureReading({ text }: Institute, measurements: Measurements): void {
  const [parse = 0, reading = 0] = mediansTogether([
    () => () => JSON.parse(text) as unknown,
    () => () => {
      const read = readFacility(text);
      invariant(read.ok, "the demo is in order");
      compileFacility(read.value.facility);
    },
  ]);
  measurements.inTermsOf("read, validate, check and compile", reading, "JSON.parse of the same text", parse);
}

/** A second document in the world of the first, in terms of the first. */
export function measureSecondDocument({ document }: Institute, measurements: Measurements): void {
  const second = later(document);
  const apart = JSON.parse(JSON.stringify(second)) as FacilityDocument;
  const laidOut = () => {
    const world = new AccessWorld();
    return { world, before: tableOf(compileFacility(withAllLists(document)), world).compiled };
  };
  const [first = 0, sharing = 0, alone = 0] = mediansTogether([
    () => {
      // Begun as the second is, with as much left behind that is to be collected some time.
      laidOut();
      return () => tableOf(compileFacility(withAllLists(document)));
    },
    () => {
      const { world, before } = laidOut();
      return () => tableOf(compileFacility(withAllLists(second), before), world);
    },
    () => {
      const { world } = laidOut();
      return () => tableOf(compileFacility(withAllLists(apart)), world);
    },
  ]);
  measurements.inTermsOf(
    "compile and lay out a second document in the same world, unchanged objects shared, as in a draft",
    sharing,
    "the first document",
    first,
  );
  measurements.inTermsOf("the same of a second document that was read on its own", alone, "the first document", first);
}
