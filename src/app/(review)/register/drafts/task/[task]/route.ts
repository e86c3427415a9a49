import { taskRoutes } from "@/wiring/task-routes";

export const { GET, DELETE } = taskRoutes("edit-drafts");
