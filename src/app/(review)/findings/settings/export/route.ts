import { nomade } from "@/wiring/nomade";
import { route } from "@/wiring/web/route";

/** The settings in force as a file, `nomade.rules/1`. */
export const GET = route("read-findings", async (account) => {
  const settings = await nomade.settingsInForce(account);
  return new Response(`${JSON.stringify(settings, undefined, 2)}\n`, {
    headers: { "content-type": "application/json", "content-disposition": 'attachment; filename="nomade-rules.json"' },
  });
});
