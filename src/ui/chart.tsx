"use client";

import { useInViewport } from "@mantine/hooks";
import dynamic from "next/dynamic";
import { useState } from "react";
import type { ReactNode } from "react";
import sheet from "./sheet.module.css";

/** Drawn in the browser only, by a library that is loaded where there is something to draw; its room is kept, so that nothing moves. */
const Plot = dynamic(() => import("./plot"), { ssr: false });

/** A chart with its title and the table behind it. It is drawn when it comes into view: what is further down would only keep the page from being used. */
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
  const { ref, inViewport } = useInViewport<HTMLDivElement>();
  const [isDrawn, draw] = useState(false);
  if (inViewport && !isDrawn) draw(true);
  return (
    <figure style={{ margin: "0 0 26px" }}>
      <figcaption style={{ fontWeight: 600, marginBottom: 4 }}>{title}</figcaption>
      <div ref={ref} style={{ minHeight: height }}>
        {isDrawn && <Plot data={data} layout={layout} height={height} />}
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
