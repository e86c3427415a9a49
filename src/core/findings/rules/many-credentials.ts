import { rule, standards } from "../rule";

/** Somebody with more live credentials than anybody needs. */
export const manyCredentials = rule({
  key: "many-credentials",
  base: 10,
  source: standards.practice,
  parameters: { most: 2 },
  find: (judged, { most }) => ({
    flags: judged.facility.cardholders.flatMap(({ id }, i) => {
      const live = judged.lives.credentialsOf(i).filter((credential) => judged.lives.isLive(credential));
      return live.length <= most ? [] : [{ subject: { kind: "cardholder" as const, id }, proof: { credentials: judged.credentialIds(live) } }];
    }),
  }),
});
