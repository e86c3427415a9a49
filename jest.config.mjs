/** @type {import('jest').Config} */
export default {
  testEnvironment: "node",
  testMatch: ["<rootDir>/src/**/*.test.ts", "<rootDir>/demo/**/*.test.ts", "<rootDir>/tests/unit/**/*.test.ts"],
  extensionsToTreatAsEsm: [".ts"],
  moduleNameMapper: { "^@/(.*)$": "<rootDir>/src/$1", "^~/(.*)$": "<rootDir>/$1" },
  transform: {
    "^.+\\.tsx?$": [
      "@swc/jest",
      {
        jsc: { target: "es2022", parser: { syntax: "typescript", tsx: false } },
        module: { type: "es6" },
        sourceMaps: "inline",
      },
    ],
  },
};
