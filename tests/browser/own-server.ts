import { spawn } from "node:child_process";
import { createServer } from "node:net";
import type { AddressInfo } from "node:net";
import { expect } from "@playwright/test";

export const freePort = (): Promise<number> =>
  new Promise((resolve) => {
    const server = createServer().listen(0, "127.0.0.1", () => {
      const { port } = server.address() as AddressInfo;
      server.close(() => resolve(port));
    });
  });

/** A server of its own on the same database, so that the others live on. */
export async function startServer(port: number, env: Record<string, string> = {}): Promise<{ readonly address: string; readonly kill: () => void }> {
  const server = spawn(process.execPath, ["node_modules/next/dist/bin/next", "start", "-H", "127.0.0.1", "-p", String(port)], {
    stdio: "ignore",
    env: { ...process.env, NODE_ENV: "production", ...env },
  });
  const address = `http://127.0.0.1:${port}`;
  await expect
    .poll(
      () =>
        fetch(`${address}/sign-in`).then(
          (response) => response.ok,
          () => false,
        ),
      { timeout: 60_000 },
    )
    .toBe(true);
  return { address, kill: () => server.kill("SIGKILL") };
}
