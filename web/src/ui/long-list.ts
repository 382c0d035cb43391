/**
 * A list of which only the rows that can be seen are drawn, and which asks for more as its end comes near. Its element
 * keeps the height of the whole: `before` and `after` are the heights of what is not drawn.
 */
import { useWindowVirtualizer } from "@tanstack/react-virtual";
import { useCallback, useEffect, useLayoutEffect, useRef, useState } from "react";

/** Rows drawn beyond what can be seen, so that a key finds the next one there. */
const BEYOND = 12;

/** What lies over the rows at the head and the foot of the page. */
const HEAD_PX = 56;
const FOOT_PX = 72;

const MOST_LOOKED_FOR = 240;

type Paged = { hasNextPage: boolean; isFetchingNextPage: boolean; fetchNextPage: () => unknown };

/** Asks for the next page of a question; undefined where there is none, or where it is on its way. */
export function useMore({ hasNextPage, isFetchingNextPage, fetchNextPage }: Paged): (() => void) | undefined {
  const next = useCallback(() => void fetchNextPage(), [fetchNextPage]);
  return hasNextPage && !isFetchingNextPage ? next : undefined;
}

/** Asks for pages until the row that the address names is among them, as far as somebody may have come by keys. */
export function useLookFor(missing: boolean, there: number, more: (() => void) | undefined): void {
  useEffect(() => {
    if (missing && there < MOST_LOOKED_FOR) more?.();
  }, [missing, there, more]);
}

type LongList = {
  /** How many rows there are. */
  count: number;
  /** The height of a row before it has been drawn, px. */
  estimate: number;
  /** The row that the keys stand on, kept in sight; -1 for none. */
  current: number;
  /** Asks for more rows, where there are more. */
  more?: (() => void) | undefined;
};

export function useLongList<Container extends HTMLElement>({ count, estimate, current, more }: LongList) {
  const container = useRef<Container>(null);
  const [top, setTop] = useState(0);
  // What stands over the list may grow: the page grows with it.
  useLayoutEffect(() => {
    const look = () => {
      if (container.current) setTop(Math.round(container.current.getBoundingClientRect().top + window.scrollY));
    };
    look();
    const page = new ResizeObserver(look);
    page.observe(document.body);
    return () => page.disconnect();
  }, []);
  const rows = useWindowVirtualizer({
    count,
    estimateSize: () => estimate,
    overscan: BEYOND,
    scrollMargin: top,
    scrollPaddingStart: HEAD_PX,
    scrollPaddingEnd: FOOT_PX,
  });
  const drawn = rows.getVirtualItems();
  const first = drawn[0];
  const last = drawn[drawn.length - 1];
  const nearEnd = last !== undefined && last.index >= count - BEYOND;
  useEffect(() => {
    if (nearEnd) more?.();
  }, [nearEnd, more, count]);
  const { scrollToIndex } = rows;
  const untouched = useRef(true);
  useEffect(() => {
    // What stands over the list is seen first, as long as nobody has moved in it.
    if (current < 0 || (untouched.current && current === 0)) return;
    untouched.current = false;
    // Once the window's height is known: before, every row would seem to lie below it.
    const soon = requestAnimationFrame(() => scrollToIndex(current, { align: "auto" }));
    return () => cancelAnimationFrame(soon);
  }, [current, scrollToIndex]);
  return {
    container,
    /** Where the rows that are drawn stand in the list. */
    drawn: drawn.map((row) => row.index),
    before: first ? first.start - top : 0,
    after: last ? rows.getTotalSize() - (last.end - top) : 0,
    /** For each row that is drawn: its real height. */
    measure: rows.measureElement,
  };
}
