import { feedRoute } from "@/wiring/web/feed-route";

export { feedRoute as GET, feedRoute as POST, feedRoute as PUT, feedRoute as PATCH, feedRoute as DELETE };
