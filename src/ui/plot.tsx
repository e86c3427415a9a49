"use client";

import Plotly from "plotly.js-basic-dist-min";
import { useEffect, useRef } from "react";
import { inTurn } from "./in-turn";

/** A value of a colour or face as the page has it at present, light or dark. */
const token = (name: string): string => getComputedStyle(document.documentElement).getPropertyValue(name).trim();

/** Series in the order of their weight, in ink of the house. */
const inks = ["--accent", "--grave", "--ink-3", "--ink-2"];

/** A series; `ink` names the colour of the page that it is drawn in, where that is not the next of the house. */
export interface Series {
  readonly ink?: string;
  readonly marker?: object;
  readonly line?: object;
}

const inInk = ({ ink, ...series }: Series): object => {
  if (ink === undefined) return series;
  const color = token(ink);
  return { ...series, marker: { ...series.marker, color }, line: { ...series.line, color } };
};

/** A chart in the ink of the page. The table behind it stands beside: the drawing is hidden from whoever does not see it. */
export default function Plot({ data, layout, height }: { readonly data: readonly Series[]; readonly layout: object; readonly height: number }) {
  const element = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const drawn = element.current;
    if (!drawn) return undefined;
    const draw = (): void => {
      const [ink, rule, face] = [token("--ink"), token("--rule"), getComputedStyle(document.body).fontFamily];
      const axis = { gridcolor: rule, linecolor: ink, zerolinecolor: rule, tickcolor: rule, automargin: true };
      const given = layout as { readonly xaxis?: object; readonly yaxis?: object };
      void Plotly.react(
        drawn,
        data.map(inInk),
        {
          autosize: true,
          height,
          margin: { l: 44, r: 12, t: 8, b: 36 },
          paper_bgcolor: "transparent",
          plot_bgcolor: "transparent",
          font: { family: face, size: 12.5, color: ink },
          colorway: inks.map(token),
          legend: { orientation: "h", y: 1.14 },
          hoverlabel: { font: { family: face } },
          ...layout,
          xaxis: { ...axis, ...given.xaxis },
          yaxis: { ...axis, ...given.yaxis },
        },
        { responsive: true, displayModeBar: false, staticPlot: false },
      );
    };
    const callOff = inTurn(draw);
    const scheme = new MutationObserver(draw);
    scheme.observe(document.documentElement, { attributes: true, attributeFilter: ["data-mantine-color-scheme"] });
    return () => {
      callOff();
      scheme.disconnect();
      Plotly.purge(drawn);
    };
  }, [data, layout, height]);
  return <div ref={element} aria-hidden style={{ minHeight: height }} />;
}
