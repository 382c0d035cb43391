/** A board's picture being read: pure changes of its marks, square by square. */
import type { Schemas } from "@/client/types";

/** `kept` null: not decided yet. A spot that the person added is a mite until it is struck. */
export type Mark = { x: number; y: number; found: boolean; kept: boolean | null };
export type Reading = {
  id: string;
  width: number;
  height: number;
  widthMm: number;
  columns: number;
  rows: number;
  order: number[];
  at: number;
  counted: number[];
  marks: Mark[];
  current: number | null;
};

const CROWDED = 150;
const FEWEST_SQUARES = 3;

/** Squares at random, the same for the same picture: those counted must not be the ones that look worst. */
export function byLot(id: string, squares: number): number[] {
  let seed = [...id].reduce((sum, letter) => (sum * 31 + letter.charCodeAt(0)) >>> 0, 7);
  const order = Array.from({ length: squares }, (_, index) => index);
  for (let last = squares - 1; last > 0; last--) {
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    // The high bits: the low ones of such a generator come round too soon to be fair.
    const other = Math.floor((seed / 2 ** 32) * (last + 1));
    [order[last], order[other]] = [order[other] ?? 0, order[last] ?? 0];
  }
  return order;
}

export function newReading(picture: Schemas["BoardPicture"]): Reading {
  const squares = picture.grid_columns * picture.grid_rows;
  const crowded = picture.candidates.length > CROWDED;
  const order = crowded ? byLot(picture.id, squares) : Array.from({ length: squares }, (_, index) => index);
  const marks = picture.candidates.map((one): Mark => ({ x: one.x, y: one.y, found: true, kept: null }));
  return {
    id: picture.id,
    width: picture.width,
    height: picture.height,
    widthMm: picture.width_mm,
    columns: picture.grid_columns,
    rows: picture.grid_rows,
    order,
    at: 0,
    counted: [],
    marks,
    current: null,
  };
}

export const crowded = (reading: Reading): boolean => reading.marks.filter((one) => one.found).length > CROWDED;
export const square = (reading: Reading): number => reading.order[reading.at] ?? 0;

export function squareOf(reading: Reading, mark: Mark): number {
  const row = Math.min(Math.floor(mark.y * reading.rows), reading.rows - 1);
  return row * reading.columns + Math.min(Math.floor(mark.x * reading.columns), reading.columns - 1);
}

/** The marks of the square in hand, with their number among all. */
export function marksHere(reading: Reading): { mark: Mark; index: number }[] {
  return reading.marks
    .map((mark, index) => ({ mark, index }))
    .filter((one) => squareOf(reading, one.mark) === square(reading));
}

export const undecided = (reading: Reading): number =>
  marksHere(reading).filter((one) => one.mark.kept === null).length;

function laid(reading: Reading, index: number, kept: boolean): Reading {
  return { ...reading, marks: reading.marks.map((mark, at) => (at === index ? { ...mark, kept } : mark)) };
}

/** The mark in hand: the one chosen, else the first that is not decided. */
export function inHand(reading: Reading): number | null {
  const here = marksHere(reading);
  if (reading.current !== null && here.some((one) => one.index === reading.current)) return reading.current;
  return here.find((one) => one.mark.kept === null)?.index ?? here[0]?.index ?? null;
}

/** Decide the mark in hand and go to the next that is not decided. */
export function decide(reading: Reading, kept: boolean): Reading {
  const index = inHand(reading);
  if (index === null) return reading;
  return { ...laid(reading, index, kept), current: null };
}

export function acceptRest(reading: Reading): Reading {
  const here = new Set(marksHere(reading).map((one) => one.index));
  return {
    ...reading,
    current: null,
    marks: reading.marks.map((mark, index) => (here.has(index) && mark.kept === null ? { ...mark, kept: true } : mark)),
  };
}

export function step(reading: Reading, by: number): Reading {
  const here = marksHere(reading).map((one) => one.index);
  if (here.length === 0) return reading;
  const at = Math.max(0, here.indexOf(inHand(reading) ?? -1));
  return { ...reading, current: here[(at + by + here.length) % here.length] ?? null };
}

/**
 * A tap at a place (shares of the picture): on a mark it turns it, elsewhere it adds a mite. `reach` in shares of the
 * width.
 */
export function tap(reading: Reading, x: number, y: number, reach: number): Reading {
  const ratio = reading.height / reading.width;
  const near = marksHere(reading)
    .map(({ mark, index }) => ({ index, mark, away: Math.hypot(mark.x - x, (mark.y - y) * ratio) }))
    .sort((a, b) => a.away - b.away)[0];
  if (near && near.away <= reach) {
    if (!near.mark.found && near.mark.kept === false)
      return { ...reading, marks: reading.marks.filter((_, index) => index !== near.index), current: null };
    return { ...laid(reading, near.index, near.mark.kept !== true), current: near.index };
  }
  return { ...reading, marks: [...reading.marks, { x, y, found: false, kept: true }], current: reading.marks.length };
}

/** Done with the square in hand, all of it decided; on to the next. */
export function squareDone(reading: Reading): Reading {
  if (undecided(reading) > 0) return reading;
  const counted = reading.counted.includes(square(reading)) ? reading.counted : [...reading.counted, square(reading)];
  return { ...reading, counted, at: Math.min(reading.at + 1, reading.order.length - 1), current: null };
}

export function goTo(reading: Reading, wanted: number): Reading {
  return { ...reading, at: Math.max(0, reading.order.indexOf(wanted)), current: null };
}

/** Mites of each square counted, in the order of counting. */
export function squares(reading: Reading): number[] {
  return reading.counted.map(
    (one) => reading.marks.filter((mark) => mark.kept === true && squareOf(reading, mark) === one).length,
  );
}

export const enough = (reading: Reading): boolean =>
  reading.counted.length >= Math.min(FEWEST_SQUARES, reading.order.length);

/**
 * What is told of the reading with the count. Marks outside the counted squares were not decided and are not recorded.
 */
export function asReadFrom(reading: Reading): Schemas["ReadFrom"] {
  const counted = new Set(reading.counted);
  const marks = reading.marks.filter((mark) => mark.kept !== null && counted.has(squareOf(reading, mark)));
  return {
    picture_id: reading.id,
    counted: reading.counted,
    marks: marks.map((mark) => ({ x: mark.x, y: mark.y, found: mark.found, kept: mark.kept === true })),
  };
}
