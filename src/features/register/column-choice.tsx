import { Checkbox, Menu, UnstyledButton } from "@mantine/core";
import sheet from "@/ui/sheet.module.css";

interface Column {
  readonly key: string;
  readonly title: string;
  readonly shown: boolean;
}

/** Which columns a table shows; `onChoose` is given all that are to be shown, in their order. */
export function ColumnChoice({ columns, onChoose }: { readonly columns: readonly Column[]; readonly onChoose: (shown: readonly string[]) => void }) {
  return (
    <Menu closeOnItemClick={false} position="bottom-end">
      <Menu.Target>
        <UnstyledButton className={sheet.plain}>Columns</UnstyledButton>
      </Menu.Target>
      <Menu.Dropdown>
        {columns.map(({ key, title, shown }) => (
          <Menu.Item
            key={key}
            onClick={() => onChoose(columns.filter((column) => (column.key === key ? !shown : column.shown)).map((column) => column.key))}
          >
            <Checkbox component="div" size="xs" label={title} checked={shown} readOnly tabIndex={-1} />
          </Menu.Item>
        ))}
      </Menu.Dropdown>
    </Menu>
  );
}
