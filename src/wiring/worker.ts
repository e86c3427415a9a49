import { longWorker } from "@/jobs/long-work";
import type { Services } from "@/operations/services";
import { longOperations } from "./long-operations";
import { openServices } from "./services";

/** Entry file of a worker for long operations. Connections are opened with the first one and kept. */
let opened: Services | undefined;

export default longWorker(longOperations, () => (opened ??= openServices()));
