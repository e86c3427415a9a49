import os from "node:os";

const compiled = (tsx) => [
  "@swc/jest",
  {
    jsc: { target: "es2022", parser: { syntax: "typescript", tsx }, transform: { react: { runtime: "automatic" } } },
    module: { type: "es6" },
    sourceMaps: "inline",
  },
];

/** @type {import('jest').Config} */
export default {
  // One fewer than there are processors is the usual. Many of these wait for a database or a program that was killed: one more keeps all busy.
  maxWorkers: os.availableParallelism(),
  testEnvironment: "<rootDir>/tests/environment.mjs",
  // A test says what must hold, not how soon: on a busy machine one that starts processes takes several times as long.
  testTimeout: 240_000,
  testMatch: ["<rootDir>/src/**/*.test.{ts,tsx}", "<rootDir>/demo/**/*.test.ts", "<rootDir>/tests/{judge,contract,integration}/**/*.test.ts"],
  setupFilesAfterEnv: ["<rootDir>/tests/seed.ts"],
  extensionsToTreatAsEsm: [".ts", ".tsx"],
  moduleNameMapper: { "\\.css$": "<rootDir>/tests/components/styles.ts", "^@/(.*)$": "<rootDir>/src/$1", "^~/(.*)$": "<rootDir>/$1" },
  transform: { "^.+\\.ts$": compiled(false), "^.+\\.tsx$": compiled(true) },
};
