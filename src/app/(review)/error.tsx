"use client";

// Here, and not only above: the places stay beside a page that could not be made.
export { FailedView as default } from "@/features/shell/failed-view";
