/**
 * Where names stand on a map so that none lies on another or on a mark: next to its mark where there is room, else a
 * little way off at the end of a line, else not at all.
 */
export type Spot = { x: number; y: number };
export type Label = { left: number; top: number; width: number; height: number; leader: [Spot, Spot] | null };
export type Box = { left: number; top: number; width: number; height: number };

const GAP = 3;
/** How far from its mark a name may stand at the end of a line, and in how many directions it is tried. */
const REACHES = [26, 44, 64, 88];
const DIRECTIONS = 16;

export const meet = (a: Box, b: Box) =>
  a.left < b.left + b.width && b.left < a.left + a.width && a.top < b.top + b.height && b.top < a.top + a.height;

function inside(box: Box, frame: { width: number; height: number }): boolean {
  return box.left >= 0 && box.top >= 0 && box.left + box.width <= frame.width && box.top + box.height <= frame.height;
}

/** Whether a line from a mark to its name runs through a box. */
function crosses([a, b]: [Spot, Spot], box: Box): boolean {
  for (let step = 0; step <= 12; step++) {
    const x = a.x + ((b.x - a.x) * step) / 12;
    const y = a.y + ((b.y - a.y) * step) / 12;
    if (x > box.left && x < box.left + box.width && y > box.top && y < box.top + box.height) return true;
  }
  return false;
}

/** The places tried for a name of this size, the best first. */
function* places(at: Spot, width: number, height: number, mark: number): Generator<Label> {
  const half = mark / 2 + GAP;
  const middle = at.y - height / 2;
  const close = (left: number, top: number): Label => ({ left, top, width, height, leader: null });
  yield close(at.x + half, middle);
  yield close(at.x - half - width, middle);
  for (const left of [at.x - width / 2, at.x - mark / 2, at.x + mark / 2 - width]) {
    yield close(left, at.y - half - height);
    yield close(left, at.y + half);
  }
  for (const reach of REACHES)
    for (let turn = 0; turn < DIRECTIONS; turn++) {
      // To the right first, then up and down by turns, to the left last.
      const angle = (Math.PI * 2 * (turn % 2 === 0 ? turn / 2 : -(turn + 1) / 2)) / DIRECTIONS;
      const end = { x: at.x + Math.cos(angle) * reach, y: at.y - Math.sin(angle) * reach };
      const left = Math.cos(angle) >= 0 ? end.x : end.x - width;
      const start = { x: at.x + (Math.cos(angle) * mark) / 2, y: at.y - (Math.sin(angle) * mark) / 2 };
      yield { left, top: end.y - height / 2, width, height, leader: [start, end] };
    }
}

/** A name for each spot, null where there is no room, `widths` wide each. The most crowded spots choose first. */
export function placeLabels(
  spots: Spot[],
  widths: number[],
  height: number,
  mark: number,
  frame: { width: number; height: number },
): (Label | null)[] {
  const marks = spots.map(({ x, y }): Box => ({ left: x - mark / 2, top: y - mark / 2, width: mark, height: mark }));
  const near = (at: Spot) => spots.filter((one) => Math.abs(one.x - at.x) < 130 && Math.abs(one.y - at.y) < 40).length;
  const order = spots
    .map((at, index) => ({ at, index, width: widths[index] ?? 0, crowd: near(at) }))
    .sort((a, b) => b.crowd - a.crowd || a.index - b.index);
  const found: (Label | null)[] = spots.map(() => null);
  const taken: Label[] = [];
  for (const { at, index, width } of order) {
    const boxes = [...marks.filter((_, other) => other !== index), ...taken];
    for (const label of places(at, width, height, mark)) {
      const { leader } = label;
      const free =
        inside(label, frame) &&
        !boxes.some((box) => meet(label, box) || (leader !== null && crosses(leader, box))) &&
        !taken.some((one) => one.leader !== null && crosses(one.leader, label));
      if (!free) continue;
      found[index] = label;
      taken.push(label);
      break;
    }
  }
  return found;
}
