"use client";

import { Modal, Switch, UnstyledButton } from "@mantine/core";
import { useHotkeys } from "@mantine/hooks";
import Link from "next/link";
import { usePathname } from "next/navigation";
import { useState } from "react";
import sheet from "@/ui/sheet.module.css";
import { helpOf } from "../words/help";
import { useSingleKeys } from "./single-keys";

const keys: readonly (readonly [key: string, does: string])[] = [
  ["/", "begin a question, from any view"],
  ["x", "ask the same in a lockdown, and back"],
  ["l", "ask the same as if every card were live, and back"],
  ["↑ ↓ ← →", "move through rows, and through the cells of a sheet"],
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

/** What the view at hand shows and how it is reckoned, and the keys; on `?` and from the menu of places. */
export function Help() {
  const [shown, show] = useState(false);
  const [singleKeys, setSingleKeys] = useSingleKeys();
  const { title, shows, reckoned } = helpOf(usePathname());
  useHotkeys([["shift+?", () => singleKeys && show(true)]]);
  const close = (): void => show(false);
  return (
    <>
      <UnstyledButton className={sheet.plain} onClick={() => show(true)}>
        Help and keys
      </UnstyledButton>
      <Modal opened={shown} onClose={close} size="lg" title={title} closeButtonProps={{ "aria-label": "Close" }}>
        <p>{shows}</p>
        <p>
          <b>How it is reckoned.</b> {reckoned}
        </p>
        <p className={sheet.links}>
          <Link href="/first-steps" onClick={close}>
            First steps
          </Link>
          <Link href="/glossary" onClick={close}>
            Glossary
          </Link>
        </p>
        <h2>Keys</h2>
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
