import { isPresent } from "../certifier-of";
import { rule, sources, standards } from "../rule";

/** An area that people reach and for which nobody answers. */
export const noCertifier = rule({
  key: "no-certifier",
  base: 10,
  source: sources(standards.pci("7.2.4"), standards.iso("5.18")),
  parameters: {},
  find: (judged) => ({
    flags: [...judged.reachCounts("all")].flatMap(([area, holders]) =>
      judged.chainOfArea(area).some((above) => isPresent(judged, judged.area(above).owner))
        ? []
        : [{ subject: { kind: "area" as const, id: judged.area(area).id }, proof: { holders } }],
    ),
  }),
});
