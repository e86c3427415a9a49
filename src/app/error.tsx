"use client";

export { FailedView as default } from "@/features/shell/failed-view";
