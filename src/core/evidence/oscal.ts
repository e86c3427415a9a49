import { isDefinition } from "../certification/line-content";
import { countDecisions } from "../certification/sign-docket";
import { packNames } from "./pack-names";
import type { RoundEvidence } from "./round-evidence";

/** A UUID of version 4’s form that is always the same for the same text: the same pack has the same ones. Source: RFC 9562, 5.8 (values of one’s own). */
function uuidOf(text: string, digest: (text: string) => string): string {
  const hex = digest(text);
  const variant = ((parseInt(hex.charAt(16), 16) & 0x3) | 0x8).toString(16);
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-4${hex.slice(13, 16)}-${variant}${hex.slice(17, 20)}-${hex.slice(20, 32)}`;
}

/** The controls that a round of certification examines. Source: NIST SP 800-53 Rev. 5 (from memory). */
const controls = [
  { id: "ac-2", objective: "ac-2_obj.j", title: "Accounts are reviewed for compliance with requirements" },
  { id: "ac-6.7", objective: "ac-6.7_obj.a", title: "Privileges are reviewed to validate the need for them" },
  { id: "pe-2", objective: "pe-2_obj.c", title: "The access list of the facility is reviewed" },
] as const;

/**
 * The round as assessment results of OSCAL 1.1 (NIST, open): what was examined is an observation for each docket, with its signature; a control counts as
 * satisfied only where every line was decided and every docket signed.
 */
export function oscalResults(evidence: RoundEvidence, digest: (text: string) => string): object {
  const { round, snapshot, dockets, lines, findings, madeAt } = evidence;
  const uuid = (what: string): string => uuidOf(`${snapshot.hash} round ${round.id} ${what}`, digest);
  const undecided = lines.filter(({ decision }) => decision === undefined).length;
  const unsigned = dockets.filter(({ signedAt }) => signedAt === undefined).length;
  const kept = lines.filter(({ flagged, decision }) => flagged && decision === "keep").length;
  const isSatisfied = undecided === 0 && unsigned === 0;
  const observations = dockets.map((docket) => {
    const own = lines.filter((line) => line.docket === docket.docket);
    const counts = countDecisions(own);
    return {
      uuid: uuid(`docket ${docket.docket}`),
      title: `Docket ${docket.docket}`,
      description:
        docket.statement ??
        `Docket of ${docket.certifierName ?? "the reviewer"}, ${docket.closedAt === undefined ? "not signed" : "closed without a signature"}; ${own.length} lines.`,
      methods: ["EXAMINE"],
      types: ["control-objective"],
      props: [
        { name: "lines", ns: "urn:nomade", value: String(own.length) },
        { name: "kept", ns: "urn:nomade", value: String(counts.keep) },
        { name: "withdrawn", ns: "urn:nomade", value: String(counts.withdraw) },
        { name: "narrowed", ns: "urn:nomade", value: String(counts.narrow) },
        { name: "definitions", ns: "urn:nomade", value: String(own.filter(({ content }) => isDefinition(content)).length) },
        ...(docket.hash === undefined ? [] : [{ name: "signed-text-sha256", ns: "urn:nomade", value: docket.hash }]),
      ],
      "relevant-evidence": [
        { href: docket.hash === undefined ? packNames.lines : `signed/docket-${docket.docket}.json`, description: "What was decided, line by line." },
      ],
      collected: docket.signedAt ?? docket.closedAt ?? docket.lastDecidedAt ?? madeAt,
    };
  });
  return {
    "assessment-results": {
      uuid: uuid("results"),
      metadata: {
        title: `Certification of access: ${round.name}`,
        "last-modified": madeAt,
        version: "1.0",
        "oscal-version": "1.1.2",
        props: [{ name: "snapshot-sha256", ns: "urn:nomade", value: snapshot.hash }],
      },
      "import-ap": { href: packNames.manifest, remarks: "How the round was run: its scope, who certifies, and what undecided lines count as." },
      results: [
        {
          uuid: uuid("result"),
          title: round.name,
          description: `${lines.length} lines in ${dockets.length} dockets over snapshot ${snapshot.id} of ${snapshot.facilityName}; ${findings.length} findings were known of it.`,
          start: round.openedAt,
          ...(round.closedAt !== undefined && { end: round.closedAt }),
          "reviewed-controls": { "control-selections": [{ "include-controls": controls.map(({ id }) => ({ "control-id": id })) }] },
          ...(observations.length > 0 && { observations }),
          findings: controls.map(({ id, objective, title }) => ({
            uuid: uuid(`finding ${id}`),
            title,
            description: `${lines.length - undecided} of ${lines.length} lines were decided, ${dockets.length - unsigned} of ${dockets.length} dockets signed; ${kept} were kept although something speaks against them.`,
            target: { type: "objective-id", "target-id": objective, status: { state: isSatisfied ? "satisfied" : "not-satisfied" } },
            ...(observations.length > 0 && { "related-observations": observations.map(({ uuid: of }) => ({ "observation-uuid": of })) }),
          })),
        },
      ],
    },
  };
}
