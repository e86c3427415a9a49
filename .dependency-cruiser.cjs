// The boundaries of the source: the way of the data is the order of the folders.
const pipeline = ["kernel", "time", "facility", "compile", "paths", "table", "compare", "describe", "questions", "routes", "plans", "units", "events", "findings", "register", "drafting", "certification", "evidence"];

const mayImport = {
  intake: ["core"],
  operations: ["core", "intake"],
  data: ["core", "operations/ports"],
  standins: ["core", "operations/ports"],
  jobs: ["core", "operations/ports", "operations/services"],
  wiring: ["core", "intake", "operations", "data", "standins", "jobs", "papers"],
  papers: ["core", "features/words"],
  ui: [],
  features: ["core", "ui"],
  app: ["core", "features", "papers", "ui", "wiring"],
  cli: ["core", "intake", "wiring"],
};

/** What may be imported for its types alone: the shapes of answers that pages show and commands print. */
const mayImportTypes = { features: ["operations"], papers: ["operations"], app: ["operations"], cli: ["operations"] };

const anyOf = (folders) => `^src/(${folders.join("|")})(/|\\.ts)`;

module.exports = {
  forbidden: [
    { name: "no-cycles", severity: "error", from: {}, to: { circular: true } },
    { name: "no-unresolved", severity: "error", from: {}, to: { couldNotResolve: true } },
    { name: "core-imports-no-package", severity: "error", from: { path: "^src/core", pathNot: "\\.test\\.tsx?$" }, to: { pathNot: "^src/core" } },
    { name: "numbering-stays-in-the-table", severity: "error", from: { path: "^src/", pathNot: "^src/core/table/" }, to: { path: "^src/core/table/internal/" } },
    ...pipeline.map((folder, i) => ({
      name: `core-${folder}-looks-only-back`,
      severity: "error",
      from: { path: `^src/core/${folder}/`, pathNot: "\\.test\\.tsx?$" },
      to: { path: "^src/core/", pathNot: `^src/core/(${pipeline.slice(0, i + 1).join("|")})/` },
    })),
    ...Object.entries(mayImport).flatMap(([folder, allowed]) => {
      const types = mayImportTypes[folder] ?? [];
      const own = [folder, ...allowed];
      return [
        {
          name: `${folder}-stays-in-its-layer`,
          severity: "error",
          from: { path: `^src/${folder}/`, pathNot: "\\.test\\.tsx?$" },
          to: { path: "^src/", pathNot: anyOf([...own, ...types]) },
        },
        ...(types.length === 0
          ? []
          : [
              {
                name: `${folder}-takes-only-types-from-${types.join("-")}`,
                severity: "error",
                from: { path: `^src/${folder}/`, pathNot: "\\.test\\.tsx?$" },
                to: { path: anyOf(types), dependencyTypesNot: ["type-only"] },
              },
            ]),
      ];
    }),
    { name: "sequelize-only-in-data", severity: "error", from: { path: "^src/", pathNot: "^src/data/" }, to: { path: "node_modules/(sequelize|mariadb|umzug)/" } },
    { name: "nothing-imports-tests", severity: "error", from: { path: "^src/", pathNot: "\\.test\\.tsx?$" }, to: { path: "(^tests/|\\.test\\.tsx?$)" } },
  ],
  options: {
    tsPreCompilationDeps: true,
    tsConfig: { fileName: "tsconfig.json" },
    doNotFollow: { path: "node_modules" },
    enhancedResolveOptions: { exportsFields: ["exports"], conditionNames: ["import", "require", "node", "default", "types"] },
  },
};
