"use client";

import { useLocalStorage } from "@mantine/hooks";

/** Whether single keys do anything; kept in the browser (WCAG 2.2, success criterion 2.1.4; from memory). */
export const useSingleKeys = () => useLocalStorage({ key: "nomade-single-keys", defaultValue: true });
