"use client";

import { Button, Select, TextInput } from "@mantine/core";
import { useState } from "react";
import type { Language } from "@/core/certification/signing-statement";
import type { OrdersTo } from "@/operations/ports/sources";
import sheet from "@/ui/sheet.module.css";
import { useAction } from "@/ui/use-action";

/** Where the orders of a source go by mail, beside being saved as a file. */
export function OrdersToForm({
  source,
  ordersTo,
  sendTo,
}: {
  readonly source: string;
  readonly ordersTo: OrdersTo | undefined;
  readonly sendTo: (source: string, to: OrdersTo | undefined) => Promise<boolean>;
}) {
  const [address, setAddress] = useState(ordersTo?.address ?? "");
  const [language, setLanguage] = useState<Language>(ordersTo?.language ?? "en");
  const { busy, refused, run } = useAction();
  const wanted = address.trim() === "" ? undefined : { address: address.trim(), language };
  const isSame = wanted?.address === ordersTo?.address && (wanted === undefined || wanted.language === ordersTo?.language);
  return (
    <div style={{ display: "flex", flexWrap: "wrap", gap: 8, alignItems: "end", marginTop: 8 }}>
      <TextInput
        size="xs"
        w={280}
        label="Its orders go by mail to"
        placeholder="nobody: they are saved as a file"
        maxLength={254}
        value={address}
        onChange={(event) => setAddress(event.currentTarget.value)}
      />
      <Select
        size="xs"
        w={120}
        label="in"
        aria-label={`Language of the mails to ${source}`}
        allowDeselect={false}
        data={[
          { value: "en", label: "English" },
          { value: "de", label: "Deutsch" },
        ]}
        value={language}
        onChange={(value) => setLanguage(value === "de" ? "de" : "en")}
      />
      {!isSame && (
        <Button
          size="xs"
          loading={busy}
          onClick={() => run(async () => ((await sendTo(source, wanted)) ? undefined : "This is no address that a mail can go to."))}
        >
          Keep the address
        </Button>
      )}
      {refused !== undefined && (
        <p role="alert" className={sheet.grave}>
          {refused}
        </p>
      )}
    </div>
  );
}
