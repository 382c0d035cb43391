/** The traces of a case as lines and strokes: a line for each colony, or one for each apiary that is folded. */
import type { Schemas } from "@/client/types";
import type { Lane, Link } from "@/instruments/contact-lines";
import { shortDay } from "@/ui/dates";
import { KIND, daysSaid } from "@/features/movements/words";

type Traces = Schemas["Traces"];
type Leg = Schemas["Leg"];
type Node = Lane & { group: string };

/** So many lines are read at a glance; with more, apiaries are folded. */
const MOST_UNFOLDED = 24;
const ELSEWHERE = "elsewhere";

export interface Drawn {
  lanes: Lane[];
  links: Link[];
  first: string;
  /** The strokes of the path to each line. */
  paths: Map<string, Set<string>>;
}

export function drawn(traces: Traces, toggled: ReadonlySet<string>): Drawn {
  const nodes = nodesOf(traces);
  const legs = legsOf(traces);
  const groups = new Map<string, Node[]>();
  for (const node of nodes.values()) groups.set(node.group, [...(groups.get(node.group) ?? []), node]);
  const few = nodes.size + groups.size <= MOST_UNFOLDED;
  const lanes: Lane[] = [];
  const laneOf = new Map<string, string>();
  for (const [group, members] of groups) {
    // A choice turns round what stands by itself; the apiary of the case is open in any crowd.
    const open = (few || members.some((one) => one.isCase)) !== toggled.has(group);
    const head = `apiary ${group}`;
    lanes.push(headLane(head, group, members, open));
    for (const node of members) laneOf.set(node.id, open ? node.id : head);
    if (open) lanes.push(...members);
  }
  const links = new Map<string, Link>();
  const strokeOf = new Map<string, string>();
  for (const leg of legs.values()) {
    const [from, to] = [laneOf.get(leg.origin_id), laneOf.get(leg.target_id)];
    if (from === undefined || to === undefined || from === to) continue;
    // Between folded apiaries what went on one day is one stroke.
    const id = `${from}>${to}@${leg.latest}`;
    strokeOf.set(leg.id, id);
    links.set(id, { id, from, to, earliest: leg.earliest, latest: leg.latest, says: legSaid(leg) });
  }
  const days = [...legs.values()].map((leg) => leg.earliest);
  return {
    lanes,
    links: [...links.values()],
    first: [traces.window.infectious_from, ...days].reduce((a, b) => (a < b ? a : b)),
    paths: pathsOf(traces, laneOf, strokeOf),
  };
}

/** "brood comb 1 May, A to B"; an apiary is said where two are. */
export function legSaid(leg: Leg, today?: string): string {
  const two = leg.origin_apiary !== leg.target_apiary;
  const end = (name: string, apiary: string) => (two && apiary ? `${name} (${apiary})` : name);
  const day = leg.kind === "same_apiary" ? "" : ` ${daysSaid(leg.earliest, leg.latest, today)}`;
  const told = leg.certainty === "told" ? ", told" : "";
  const cleaned = leg.is_disinfected ? ", cleaned" : "";
  const ends = `${end(leg.origin, leg.origin_apiary)} to ${end(leg.target, leg.target_apiary)}`;
  return `${KIND[leg.kind]}${day}${told}${cleaned}, ${ends}`;
}

function headLane(id: string, name: string, members: Node[], open: boolean): Lane {
  const from = least(members.map((one) => one.from));
  const until = members.some((one) => one.from !== null) ? null : greatest(members.map((one) => one.until));
  return {
    id,
    name,
    says: open ? "" : `${members.length} ${members.length === 1 ? "line" : "lines"}`,
    isApiary: true,
    isCase: members.some((one) => one.isCase) && !open,
    from: open ? null : from,
    until: open ? null : until,
  };
}

function nodesOf(traces: Traces): Map<string, Node> {
  const nodes = new Map<string, Node>();
  const add = (node: Node) =>
    nodes.set(node.id, nodes.has(node.id) ? { ...node, ...merged(nodes.get(node.id), node) } : node);
  add({
    id: traces.colony_id,
    name: traces.label,
    says: "the case",
    group: traces.apiary,
    isApiary: false,
    isCase: true,
    from: traces.window.infectious_from,
    until: null,
  });
  for (const one of traces.spread)
    add(contactNode(one, { from: one.on, until: null, says: `${one.band}, from ${shortDay(one.on)}` }));
  for (const one of traces.sources)
    add(contactNode(one, { from: null, until: one.on, says: `${one.band}, until ${shortDay(one.on)}` }));
  for (const leg of legsOf(traces).values())
    for (const [id, name, apiary] of [
      [leg.origin_id, leg.origin, leg.origin_apiary],
      [leg.target_id, leg.target, leg.target_apiary],
    ] as const)
      if (!nodes.has(id))
        add({
          id,
          name,
          says: "",
          group: apiary || ELSEWHERE,
          isApiary: false,
          isCase: false,
          from: null,
          until: null,
        });
  return nodes;
}

const contactNode = (
  one: Schemas["Contact"],
  more: { from: string | null; until: string | null; says: string },
): Node => ({ id: one.colony_id, name: one.label, group: one.apiary, isApiary: false, isCase: false, ...more });

/** A colony on both lists may have carried it before and after. */
const merged = (before: Node | undefined, now: Node) => ({
  from: before?.from ?? now.from,
  until: before?.from != null && now.until !== null ? null : now.until,
  says: before?.says ?? now.says,
});

function legsOf(traces: Traces): Map<string, Leg> {
  const paths = [...traces.sources, ...traces.spread, ...traces.outside].flatMap((one) => one.path);
  return new Map(paths.filter((leg) => leg.kind !== "same_apiary").map((leg) => [leg.id, leg]));
}

function pathsOf(traces: Traces, laneOf: Map<string, string>, strokeOf: Map<string, string>): Map<string, Set<string>> {
  const paths = new Map<string, Set<string>>();
  for (const one of [...traces.sources, ...traces.spread]) {
    const lane = laneOf.get(one.colony_id) ?? one.colony_id;
    const strokes = paths.get(lane) ?? new Set<string>();
    for (const leg of one.path) {
      const stroke = strokeOf.get(leg.id);
      if (stroke) strokes.add(stroke);
    }
    paths.set(lane, strokes);
  }
  return paths;
}

const least = (days: (string | null)[]): string | null =>
  days.reduce((a, b) => (a === null ? b : b === null ? a : a < b ? a : b), null);
const greatest = (days: (string | null)[]): string | null =>
  days.reduce((a, b) => (a === null ? b : b === null ? a : a > b ? a : b), null);
