import { UnstyledButton } from "@mantine/core";
import sheet from "@/ui/sheet.module.css";

/** Takes an answer away: as a file by an address that gives it, or printed as it is seen. */
export function TakeAway({ address }: { readonly address: string }) {
  return (
    <>
      <a href={`${address}&as=csv`}>CSV</a>
      <a href={`${address}&as=xlsx`}>XLSX</a>
      <UnstyledButton className={sheet.plain} onClick={() => window.print()}>
        Print
      </UnstyledButton>
    </>
  );
}
