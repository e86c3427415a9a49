import { taskRoutes } from "@/wiring/web/task-routes";

export const { GET, DELETE } = taskRoutes("read-whole");
