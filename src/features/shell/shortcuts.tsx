"use client";

import { Modal, Switch, UnstyledButton } from "@mantine/core";
import { useHotkeys } from "@mantine/hooks";
import { useState } from "react";
import { useSingleKeys } from "./single-keys";
import sheet from "@/ui/sheet.module.css";

const keys: readonly (readonly [key: string, does: string])[] = [
  ["/", "begin a question, from any view"],
  ["x", "ask the same in a lockdown, and back"],
  ["↑ ↓", "move through the rows of an answer"],
  ["Enter", "take the first suggestion"],
  ["Esc", "leave a part of the question as it was"],
  ["w", "waive the selected finding"],
  ["n", "write a note to it"],
  ["c", "have it certified in a round of its own"],
  ["t", "make it your task, and back"],
  ["r", "begin the draft that would end it"],
  ["d", "turn from light to dark, and back"],
  ["?", "this page"],
];

/** The page of shortcuts, on `?` and from the menu of places. */
export function Shortcuts() {
  const [shown, show] = useState(false);
  const [singleKeys, setSingleKeys] = useSingleKeys();
  useHotkeys([["shift+?", () => singleKeys && show(true)]]);
  return (
    <>
      <UnstyledButton className={sheet.plain} onClick={() => show(true)}>
        Keys
      </UnstyledButton>
      <Modal opened={shown} onClose={() => show(false)} title="Keys" closeButtonProps={{ "aria-label": "Close" }}>
        <dl className={sheet.facts}>
          {keys.map(([key, does]) => (
            <div key={key} style={{ display: "contents" }}>
              <dt>
                <kbd>{key}</kbd>
              </dt>
              <dd>{does}</dd>
            </div>
          ))}
        </dl>
        <Switch mt="lg" label="Single keys do something" checked={singleKeys} onChange={(event) => setSingleKeys(event.currentTarget.checked)} />
      </Modal>
    </>
  );
}
