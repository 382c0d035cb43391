/**
 * Contacts through time: every colony a line, what went from one to another a stroke on its day, the time in which a
 * colony may have carried the disease drawn broad. Apiaries fold to one line each, so that hundreds can be read.
 */
import { clsx } from "clsx";
import { addDays, monthName, shortDay } from "@/ui/dates";
import { useDesk } from "@/ui/use-desk";
import { useWidth } from "@/ui/use-width";
import { xOf, type Span } from "./season-strip";

export interface Lane {
  id: string;
  name: string;
  /** What stands under the name, in small. */
  says: string;
  /** Heads the lanes of one apiary; folded: it stands for them. */
  isApiary: boolean;
  isCase: boolean;
  /** From when to when it may have carried the disease. */
  from: string | null;
  until: string | null;
}

export interface Link {
  id: string;
  from: string;
  to: string;
  earliest: string;
  latest: string;
  says: string;
}

interface Props {
  lanes: Lane[];
  links: Link[];
  first: string;
  last: string;
  /** From this day on the case counts as infectious. */
  infectiousFrom: string;
  chosen: string | null;
  lit: ReadonlySet<string>;
  onChoose: (lane: string) => void;
}

export function ContactLines({ lanes, links, first, last, infectiousFrom, chosen, lit, onChoose }: Props) {
  const desk = useDesk();
  const [box, width] = useWidth<HTMLDivElement>(600);
  const row = desk ? 30 : 56;
  const span: Span = { first, last: addDays(last, 1), today: last, width: Math.max(120, width - 14) };
  const x = (day: string) => 4 + xOf(span, day < first ? first : day > last ? last : day);
  const y = new Map(lanes.map((lane, index) => [lane.id, index * row + row / 2]));
  const height = lanes.length * row;
  const months = monthStarts(first, last);
  const each = months.length > 0 ? span.width / months.length : span.width;
  const step = Math.max(1, Math.ceil(40 / each));
  return (
    <div className="grid grid-cols-[7.5rem_minmax(0,1fr)] desk:grid-cols-[15rem_minmax(0,1fr)]">
      <span />
      <Months months={months.filter((_, index) => index % step === 0)} x={x} width={width} />
      <ul>
        {lanes.map((lane) => (
          <li key={lane.id} style={{ height: row }} className={clsx(!lane.isApiary && "pl-2 desk:pl-4")}>
            <button
              type="button"
              aria-pressed={chosen === lane.id}
              onClick={() => onChoose(lane.id)}
              style={{ height: row }}
              className={clsx(
                "flex w-full min-w-0 flex-col justify-center text-left leading-tight hover:bg-sheet",
                "desk:flex-row desk:items-center desk:justify-start desk:gap-2",
                chosen === lane.id && "bg-sheet",
                (lane.isApiary || lane.isCase) && "font-semibold",
              )}>
              <span className="max-w-full shrink-0 truncate">{lane.name}</span>
              <span className="truncate text-sm font-normal text-ink-2">{lane.says}</span>
            </button>
          </li>
        ))}
      </ul>
      <div ref={box} className="min-w-0">
        <svg
          width={width}
          height={height}
          className="block"
          role="img"
          aria-label={`${lanes.length} lines from ${shortDay(first)} to ${shortDay(last)}; the same as a list below`}>
          {months.map((day) => (
            <line key={day} x1={x(day)} x2={x(day)} y1="0" y2={height} stroke="var(--line)" />
          ))}
          <rect
            x={x(infectiousFrom)}
            y="0"
            width={Math.max(0, x(last) - x(infectiousFrom))}
            height={height}
            fill="var(--act-wash)"
            opacity="0.5"
          />
          {lanes.map((lane) => (
            <LaneLine key={lane.id} lane={lane} y={y.get(lane.id) ?? 0} x={x} end={width} />
          ))}
          {links.map((link) => (
            <Stroke
              key={link.id}
              link={link}
              x={x}
              y1={y.get(link.from) ?? 0}
              y2={y.get(link.to) ?? 0}
              faint={lit.size > 0 && !lit.has(link.id)}
            />
          ))}
        </svg>
      </div>
    </div>
  );
}

function LaneLine({ lane, y, x, end }: { lane: Lane; y: number; x: (day: string) => number; end: number }) {
  if (lane.isApiary && lane.from === null && lane.until === null)
    return <line x1="0" x2={end} y1={y} y2={y} stroke="var(--line)" strokeDasharray="2 4" />;
  return (
    <>
      <line x1="4" x2={end - 10} y1={y} y2={y} stroke="var(--line-2)" />
      {(lane.from !== null || lane.until !== null) && (
        <line
          x1={lane.from === null ? 4 : x(lane.from)}
          x2={lane.until === null ? end - 10 : x(lane.until)}
          y1={y}
          y2={y}
          stroke={lane.isCase ? "var(--act)" : "var(--ink-2)"}
          strokeWidth={lane.isCase ? 6 : 4}
        />
      )}
    </>
  );
}

function Stroke({
  link,
  x,
  y1,
  y2,
  faint,
}: {
  link: Link;
  x: (day: string) => number;
  y1: number;
  y2: number;
  faint: boolean;
}) {
  const left = x(link.earliest);
  const right = x(link.latest);
  return (
    <g opacity={faint ? 0.15 : 1}>
      <title>{link.says}</title>
      {right - left > 3 && (
        <line x1={left} x2={right} y1={y2} y2={y2} stroke="var(--ink)" strokeWidth="2" strokeDasharray="3 3" />
      )}
      <line x1={right} x2={right} y1={y1} y2={y2} stroke="var(--ink)" strokeWidth="1.5" />
      <circle cx={right} cy={y1} r="2.5" fill="var(--paper)" stroke="var(--ink)" strokeWidth="1.5" />
      <path d={`M${right - 5} ${y2 + (y2 > y1 ? -7 : 7)} h10 L${right} ${y2} z`} fill="var(--ink)" />
    </g>
  );
}

function Months({ months, x, width }: { months: string[]; x: (day: string) => number; width: number }) {
  return (
    <svg width={width} height="22" className="block" aria-hidden="true">
      {months.map((day) => (
        <text key={day} x={Math.min(x(day), width - 34)} y="15" fontSize="13" fill="var(--ink-2)">
          {day.slice(5, 7) === "01" ? day.slice(0, 4) : monthName(day).slice(0, 3)}
        </text>
      ))}
    </svg>
  );
}

function monthStarts(first: string, last: string): string[] {
  const found: string[] = [];
  let [year, month] = [Number(first.slice(0, 4)), Number(first.slice(5, 7))];
  for (;;) {
    month += 1;
    if (month > 12) [year, month] = [year + 1, 1];
    const day = `${year}-${String(month).padStart(2, "0")}-01`;
    if (day > last) return found;
    found.push(day);
  }
}
