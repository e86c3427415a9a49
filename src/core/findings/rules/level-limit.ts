import { rule, standards } from "../rule";

/** So many levels given straight to one person or card that their system may not hold them, or nobody can oversee them. */
export const levelLimit = rule({
  key: "level-limit",
  base: 6,
  source: standards.practice,
  parameters: { levels: 8 },
  find: ({ facility, lives }, { levels: most }) => {
    const given = new Map<string, { readonly kind: "cardholder" | "credential"; readonly id: string; readonly what: Set<string> }>();
    for (const grant of facility.grants) {
      const { to, open, effect } = grant;
      if (effect === "block" || to.group !== undefined || (open.level === undefined && open.bundle === undefined)) continue;
      if (lives.isOver(lives.windowOfGrant(grant))) continue;
      const subject = to.cardholder === undefined ? { kind: "credential" as const, id: to.credential } : { kind: "cardholder" as const, id: to.cardholder };
      const key = JSON.stringify([subject.kind, subject.id]);
      const known = given.get(key) ?? { ...subject, what: new Set<string>() };
      given.set(key, known);
      known.what.add(JSON.stringify(open.level === undefined ? ["bundle", open.bundle] : ["level", open.level]));
    }
    return {
      flags: [...given.values()].flatMap(({ kind, id, what }) => (what.size < most ? [] : [{ subject: { kind, id }, proof: { count: what.size } }])),
    };
  },
});
