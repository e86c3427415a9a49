import { nomade } from "@/wiring/nomade";
import { numberInPath } from "@/wiring/web/number-in-path";
import { refuse, route } from "@/wiring/web/route";

/** The picture of a plan, by its hash: never that of another version. Opened by itself it runs nothing, either. */
export const GET = route<{ plan: string }>("read-register", async (account, request, { plan }) => {
  const id = numberInPath(plan);
  const sha256 = new URL(request.url).searchParams.get("sha256") ?? "";
  const picture = id === undefined ? undefined : await nomade.planPicture(account, id, sha256);
  if (!picture) return refuse("There is no such picture.", 404);
  return new Response(new Uint8Array(picture.bytes), {
    headers: {
      "content-type": picture.mediaType,
      "content-security-policy": "default-src 'none'; style-src 'unsafe-inline'; img-src data:; sandbox; frame-ancestors 'none'",
    },
  });
});
