import { Graph, layout } from "@dagrejs/dagre";
import { useId, useMemo } from "react";
import classes from "./flow-drawing.module.css";

/** A box of the drawing. What it is is said by its frame and, for those who do not see it, by the table behind. */
export interface FlowNode {
  readonly label: string;
  readonly look: "start" | "plain" | "faint" | "goal";
}

/** An arrow between two boxes, by their places in the list. */
export interface FlowEdge {
  readonly from: number;
  readonly to: number;
  readonly label: string;
  /** All that it stands for. */
  readonly title: string;
  readonly look: "strong" | "plain" | "broken";
}

/** It is made smaller by no more than this to fit; beyond, it is scrolled. */
const smallest = 0.8;
const nodeHeight = 30;
const letter = 7;
const smallLetter = 5.3;
const room = 12;
const longestLabel = 26;
const longestEdgeLabel = 20;

const cutAt = (words: string, most: number): string => (words.length > most ? `${words.slice(0, most - 1)}…` : words);
const cut = (words: string): string => cutAt(words, longestLabel);
const cutEdge = (words: string): string => cutAt(words, longestEdgeLabel);
const widthOfEdge = (words: string): number => cutEdge(words).length * smallLetter + 8;

interface Point {
  readonly x: number;
  readonly y: number;
}

interface Size {
  readonly width: number;
  readonly height: number;
}

interface Laid {
  readonly width: number;
  readonly height: number;
  readonly boxes: readonly { readonly x: number; readonly y: number; readonly width: number }[];
  readonly arrows: readonly { readonly path: string; readonly x: number; readonly y: number }[];
}

function laidOut(nodes: readonly FlowNode[], edges: readonly FlowEdge[]): Laid {
  const graph = new Graph({ multigraph: true });
  graph.setGraph({ rankdir: "LR", nodesep: 16, ranksep: 22, edgesep: 12, marginx: 6, marginy: 6 });
  graph.setDefaultEdgeLabel(() => ({}));
  nodes.forEach(({ label }, i) => graph.setNode(String(i), { width: cut(label).length * letter + 2 * room, height: nodeHeight }));
  edges.forEach(({ from, to, label }, i) => graph.setEdge(String(from), String(to), { width: widthOfEdge(label), height: 16, labelpos: "c" }, String(i)));
  layout(graph);
  const { width = 0, height = 0 } = graph.graph() as Partial<Size>;
  return {
    width,
    height,
    boxes: nodes.map((_, i) => ({ x: 0, y: 0, width: 0, ...(graph.node(String(i)) as Partial<Size & Point>) })),
    arrows: edges.map(({ from, to }, i) => {
      const {
        points,
        x = 0,
        y = 0,
      } = graph.edge({ v: String(from), w: String(to), name: String(i) }) as Partial<Point> & { readonly points: readonly Point[] };
      return { path: points.map((point, at) => `${at === 0 ? "M" : "L"}${point.x.toFixed(1)},${point.y.toFixed(1)}`).join(""), x, y };
    }),
  };
}

/** Boxes and arrows between them, laid out from left to right by the library that it is drawn with. */
export function FlowDrawing({ nodes, edges, label }: { readonly nodes: readonly FlowNode[]; readonly edges: readonly FlowEdge[]; readonly label: string }) {
  const head = useId();
  const { width, height, boxes, arrows } = useMemo(() => laidOut(nodes, edges), [nodes, edges]);
  return (
    <div className={classes.frame} tabIndex={0} role="group" aria-label={label}>
      <svg role="img" aria-label={label} viewBox={`0 0 ${width} ${height}`} style={{ width, maxWidth: "100%", minWidth: smallest * width }}>
        <defs>
          {(["strong", "plain", "broken"] as const).map((look) => (
            <marker
              key={look}
              id={`${head}-${look}`}
              viewBox="0 0 8 8"
              refX="7"
              refY="4"
              markerWidth="9"
              markerHeight="9"
              markerUnits="userSpaceOnUse"
              orient="auto"
            >
              <path d="M0,0.8L7,4L0,7.2" className={classes[`head-${look}`]} />
            </marker>
          ))}
        </defs>
        {edges.map(({ look, title }, i) => (
          <path key={i} d={arrows[i]?.path} className={classes[look]} markerEnd={`url(#${head}-${look})`}>
            <title>{title}</title>
          </path>
        ))}
        {edges.map(({ label: words, look, title }, i) => (
          <g key={i}>
            <rect
              x={(arrows[i]?.x ?? 0) - widthOfEdge(words) / 2}
              y={(arrows[i]?.y ?? 0) - 8}
              width={widthOfEdge(words)}
              height={16}
              className={classes.under}
            />
            <text x={arrows[i]?.x} y={(arrows[i]?.y ?? 0) + 4} className={look === "strong" ? classes.strongLabel : classes.edgeLabel}>
              {cutEdge(words)}
              <title>{title}</title>
            </text>
          </g>
        ))}
        {nodes.map(({ label: words, look }, i) => {
          const { x = 0, y = 0, width: wide = 0 } = boxes[i] ?? {};
          return (
            <g key={i}>
              <rect x={x - wide / 2} y={y - nodeHeight / 2} width={wide} height={nodeHeight} className={classes[`box-${look}`]} />
              <text x={x} y={y + 4.5} className={look === "faint" ? classes.faintLabel : classes.label}>
                {cut(words)}
                <title>{words}</title>
              </text>
            </g>
          );
        })}
      </svg>
    </div>
  );
}
