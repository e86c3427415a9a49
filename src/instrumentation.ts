/** Called by the framework once, when the server starts. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME !== "nodejs") return;
  const { openAhead } = await import("@/wiring/nomade");
  openAhead();
}
