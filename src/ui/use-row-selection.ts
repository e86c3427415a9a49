"use client";

import { useState } from "react";
import type { KeyboardEvent } from "react";

/** Which of some rows is selected, moved with the arrow keys from wherever in the table the focus is. */
export function useRowSelection(count: number, initial = 0) {
  const [selected, select] = useState(initial);
  const onKeyDown = (event: KeyboardEvent<HTMLElement>): void => {
    const step = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
    if (step === 0 || count === 0) return;
    event.preventDefault();
    const next = Math.min(count - 1, Math.max(0, selected + step));
    select(next);
    const buttons = event.currentTarget.querySelectorAll<HTMLButtonElement>("[data-row-button]");
    buttons[next]?.focus();
  };
  return { selected: Math.min(selected, Math.max(0, count - 1)), select, onKeyDown };
}
