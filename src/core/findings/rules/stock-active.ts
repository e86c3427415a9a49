import { rule, sources, standards } from "../rule";

/** A credential of nobody that is marked active. */
export const stockActive = rule({
  key: "stock-active",
  base: 30,
  source: sources(standards.nist("PE-2, PE-3"), standards.practice),
  parameters: {},
  find: (judged) => ({
    flags: judged.facility.credentials.flatMap(({ id, cardholder }, i) =>
      cardholder === undefined && judged.lives.isMarkedActive(i) && !judged.lives.isOver(judged.lives.windowOfCredential(i))
        ? [{ subject: { kind: "credential" as const, id }, proof: { doors: judged.doorsInRow(judged.liveRow(i)).length } }]
        : [],
    ),
  }),
});
