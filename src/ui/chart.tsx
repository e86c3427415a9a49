"use client";

import dynamic from "next/dynamic";
import type { ReactNode } from "react";
import sheet from "./sheet.module.css";

/** Drawn in the browser only, by a library that is loaded where there is something to draw; its room is kept, so that nothing moves. */
const Plot = dynamic(() => import("./plot"), { ssr: false });

/** A chart with its title and the table behind it. */
export function Chart({
  title,
  data,
  layout = {},
  height = 260,
  children,
}: {
  readonly title: string;
  readonly data: readonly object[];
  readonly layout?: object;
  readonly height?: number;
  /** The same as a table. */
  readonly children: ReactNode;
}) {
  return (
    <figure style={{ margin: "0 0 26px" }}>
      <figcaption style={{ fontWeight: 600, marginBottom: 4 }}>{title}</figcaption>
      <div style={{ minHeight: height }}>
        <Plot data={data} layout={layout} height={height} />
      </div>
      <details>
        <summary className={sheet.sub} style={{ cursor: "pointer", minHeight: 24 }}>
          The table behind it
        </summary>
        {children}
      </details>
    </figure>
  );
}
