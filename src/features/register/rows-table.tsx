"use client";

import { UnstyledButton } from "@mantine/core";
import { useVirtualizer } from "@tanstack/react-virtual";
import Link from "next/link";
import { useRef } from "react";
import type { ListGroup } from "@/core/register/list-index";
import type { ListedRow, ListPage } from "@/operations/register/list-register";
import { useAllFetched } from "@/ui/fetched";
import sheet from "@/ui/sheet.module.css";
import type { ListAddress } from "./list-address";
import { listQuery, objectHref } from "./list-address";
import classes from "./register.module.css";
import { rowsAPage } from "./rows-a-page";

const rowHeight = 34;
/** About what a window shows of a list: so many rows come with the page, before anything is measured. */
const firstView = { width: 1100, height: 620 };

/** What stands at a line of the list: a row of the result, or the head of a group. */
type Placed = { readonly row: number } | { readonly group: ListGroup };

/** Lines of a list that is broken up: each group's head before its rows. */
function placesOf(groups: readonly ListGroup[] | undefined, total: number): { readonly count: number; readonly at: (line: number) => Placed } {
  if (!groups) return { count: total, at: (row) => ({ row }) };
  const starts: number[] = [];
  let line = 0;
  for (const { count } of groups) {
    starts.push(line);
    line += count + 1;
  }
  return {
    count: line,
    at: (wanted) => {
      let [low, high] = [0, starts.length - 1];
      while (low < high) {
        const middle = (low + high + 1) >> 1;
        if ((starts[middle] ?? 0) <= wanted) low = middle;
        else high = middle - 1;
      }
      const group = groups[low];
      return group && starts[low] === wanted ? { group } : { row: wanted - low - 1 };
    },
  };
}

/** The rows of a list, a page at a time: the first came with the page, the others as they come into view. */
function useRows(address: ListAddress, first: ListPage, wanted: readonly number[]) {
  const pages = [...new Set(wanted.map((row) => Math.floor(row / rowsAPage)))].filter((page) => page > 0);
  const fetched = useAllFetched<{ readonly rows: readonly ListedRow[] }>(
    pages.map((page) => {
      const query = listQuery(address);
      query.set("page", String(page));
      return `/register/rows?${query}`;
    }),
  );
  const rowsOf = (page: number): readonly ListedRow[] | undefined => {
    if (page === 0) return first.rows;
    const found = fetched[pages.indexOf(page)];
    return found?.state === "there" ? found.value.rows : undefined;
  };
  return { rowAt: (row: number) => rowsOf(Math.floor(row / rowsAPage))?.[row % rowsAPage], failed: fetched.some(({ state }) => state === "failed") };
}

/** In pixels. Where there is less room than this for each column the list is moved sideways, instead of being cut off letter by letter. */
const leastNameWidth = 200;
const leastWidth = 80;

/** A list however long: only what is in view is in the page. Moved through with the arrow keys once the list has the focus. */
export function RowsTable({ address, first, onSort }: { readonly address: ListAddress; readonly first: ListPage; readonly onSort: (sort: string) => void }) {
  const scroller = useRef<HTMLDivElement>(null);
  const places = placesOf(first.groups, first.total);
  // eslint-disable-next-line react-hooks/incompatible-library -- the compiler that the rule speaks of is not in use
  const virtual = useVirtualizer({
    count: places.count,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight,
    overscan: 12,
    initialRect: firstView,
  });
  const lines = virtual.getVirtualItems();
  const [top, bottom] = [lines[0]?.start ?? 0, virtual.getTotalSize() - (lines[lines.length - 1]?.end ?? 0)];
  const wanted = lines.map(({ index }) => places.at(index)).flatMap((place) => ("row" in place ? [place.row] : []));
  const { rowAt, failed } = useRows(address, first, wanted);
  const columns = first.columns.filter(({ shown }) => shown);
  const isNumber = (at: number): boolean => typeof first.rows.find(({ cells }) => cells[at] !== undefined)?.cells[at] === "number";
  const hasWay = first.ofName !== undefined;
  const width = columns.length + (hasWay ? 1 : 0);
  return (
    <>
      <div ref={scroller} className={classes.rows} tabIndex={0} role="region" aria-label="Rows">
        <table className={classes.table} style={{ minWidth: leastNameWidth + leastWidth * (width - 1) }} aria-rowcount={places.count + 1}>
          <colgroup>
            <col style={{ width: columns.length > 6 ? 220 : "26%" }} />
          </colgroup>
          <thead>
            <tr>
              {columns.map(({ key, title }, at) => {
                const order = address.sort === key ? "ascending" : address.sort === `-${key}` ? "descending" : undefined;
                return (
                  <th key={key} scope="col" aria-sort={order} className={isNumber(at) ? classes.number : undefined}>
                    <UnstyledButton className={classes.sort} onClick={() => onSort(order === "ascending" ? `-${key}` : key)}>
                      {title}
                      {order && <span aria-hidden> {order === "ascending" ? "↑" : "↓"}</span>}
                    </UnstyledButton>
                  </th>
                );
              })}
              {hasWay && <th scope="col">Way</th>}
            </tr>
          </thead>
          <tbody>
            {top > 0 && (
              <tr aria-hidden>
                <td colSpan={width} style={{ height: top, padding: 0, border: 0 }} />
              </tr>
            )}
            {lines.map(({ index }) => {
              const place = places.at(index);
              if ("group" in place)
                return (
                  <tr key={index} aria-rowindex={index + 2} className={classes.group}>
                    <th scope="rowgroup" colSpan={width}>
                      {place.group.value === "" ? "None" : place.group.value} <span className={sheet.count}>{place.group.count.toLocaleString("en-GB")}</span>
                    </th>
                  </tr>
                );
              const row = rowAt(place.row);
              return (
                <tr key={index} aria-rowindex={index + 2}>
                  {columns.map(({ key }, at) => (
                    <td key={key} className={isNumber(at) ? classes.number : undefined} title={row ? String(row.cells[at] ?? "") : undefined}>
                      {row ? (
                        at === 0 ? (
                          <Link href={objectHref(address.kind, row.id, address.snapshot)}>{row.cells[0]}</Link>
                        ) : (
                          row.cells[at]
                        )
                      ) : at === 0 ? (
                        "…"
                      ) : (
                        ""
                      )}
                    </td>
                  ))}
                  {hasWay && <td title={row?.way}>{row?.way}</td>}
                </tr>
              );
            })}
            {bottom > 0 && (
              <tr aria-hidden>
                <td colSpan={width} style={{ height: bottom, padding: 0, border: 0 }} />
              </tr>
            )}
          </tbody>
        </table>
      </div>
      {failed && (
        <p role="alert" className={sheet.grave}>
          Some rows did not arrive. Scroll over them again to ask once more.
        </p>
      )}
    </>
  );
}
