import { select } from "d3-selection";
import { zoom, zoomIdentity } from "d3-zoom";
import type { ZoomBehavior, ZoomTransform } from "d3-zoom";
import { useEffect, useMemo, useRef, useState } from "react";
import type { RefObject } from "react";

export interface BoardSize {
  readonly width: number;
  readonly height: number;
}

/** What part of a picture a board shows. `at` and `on` lead from shares of the picture (0..1) to pixels of the board, and back. */
export interface BoardView {
  readonly size: BoardSize | undefined;
  readonly transform: ZoomTransform;
  /** The whole picture as it lies on the board before it is brought closer. */
  readonly whole: { readonly left: number; readonly top: number; readonly width: number; readonly height: number };
  readonly at: (x: number, y: number) => readonly [number, number];
  readonly on: (left: number, top: number) => readonly [number, number];
  readonly closer: (by: number) => void;
  readonly move: (right: number, down: number) => void;
  readonly showWhole: () => void;
  /** Brings a place into sight where it lies outside. */
  readonly show: (x: number, y: number) => void;
}

export const closest = 16;
/** A place nearer to the edge than this is not well in sight. */
const edge = 24;

/** The picture as large as fits the board, in its middle. */
function wholeOn(size: BoardSize | undefined, picture: BoardSize) {
  if (!size) return { left: 0, top: 0, width: picture.width, height: picture.height };
  const scale = Math.min(size.width / picture.width, size.height / picture.height);
  const [width, height] = [picture.width * scale, picture.height * scale];
  return { left: (size.width - width) / 2, top: (size.height - height) / 2, width, height };
}

/** Lets a picture be brought closer and moved about on a board: by wheel, pointer, two fingers, and from the keyboard. */
export function useBoardZoom(board: RefObject<HTMLElement | null>, picture: BoardSize): BoardView {
  const [size, setSize] = useState<BoardSize>();
  const [transform, setTransform] = useState<ZoomTransform>(zoomIdentity);
  const behaviour = useRef<ZoomBehavior<HTMLElement, unknown>>(undefined);
  useEffect(() => {
    const element = board.current;
    if (!element) return undefined;
    const observer = new ResizeObserver(([entry]) => {
      if (entry) setSize({ width: entry.contentRect.width, height: entry.contentRect.height });
    });
    observer.observe(element);
    return () => observer.disconnect();
  }, [board]);
  useEffect(() => {
    const element = board.current;
    if (!element || !size) return undefined;
    const own = zoom<HTMLElement, unknown>()
      .scaleExtent([1, closest])
      .extent([
        [0, 0],
        [size.width, size.height],
      ])
      .translateExtent([
        [0, 0],
        [size.width, size.height],
      ])
      // What stands on the board is taken hold of by itself.
      .filter((event: Event) => !(event.target instanceof Element && event.target.closest("button")) && !(event instanceof MouseEvent && event.button > 0))
      .on("zoom", ({ transform: now }: { readonly transform: ZoomTransform }) => setTransform(now));
    behaviour.current = own;
    const selected = select(element);
    selected.call(own).on("dblclick.zoom", null);
    return () => void selected.on(".zoom", null);
  }, [board, size]);
  const whole = useMemo(() => wholeOn(size, picture), [size, picture]);
  const apply = (change: (own: ZoomBehavior<HTMLElement, unknown>, element: HTMLElement) => void): void => {
    if (behaviour.current && board.current) change(behaviour.current, board.current);
  };
  const at = (x: number, y: number): readonly [number, number] => transform.apply([whole.left + x * whole.width, whole.top + y * whole.height]);
  return {
    size,
    transform,
    whole,
    at,
    on: (left, top) => {
      const [x, y] = transform.invert([left, top]);
      return [(x - whole.left) / whole.width, (y - whole.top) / whole.height];
    },
    closer: (by) => apply((own, element) => own.scaleBy(select(element), by)),
    move: (right, down) => apply((own, element) => own.translateBy(select(element), -right / transform.k, -down / transform.k)),
    showWhole: () => apply((own, element) => own.transform(select(element), zoomIdentity)),
    show: (x, y) => {
      const [left, top] = at(x, y);
      if (!size || (left >= edge && top >= edge && left <= size.width - edge && top <= size.height - edge)) return;
      apply((own, element) => own.translateTo(select(element), whole.left + x * whole.width, whole.top + y * whole.height));
    },
  };
}
