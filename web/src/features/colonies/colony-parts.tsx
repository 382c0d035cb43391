/** The record of a colony in aligned parts: counts, visits, courses, what it is, and everything in time order. */
import { useNavigate, useSearch } from "@tanstack/react-router";
import { Tabs } from "radix-ui";
import { useState, type ReactNode } from "react";
import type { Schemas } from "@/client/types";
import { Harvests } from "@/features/honey/harvests";
import { countedOf } from "@/features/sampling/meaning";
import { Button } from "@/ui/button";
import { shortDay } from "@/ui/dates";
import { TextLink } from "@/ui/link";
import { rate } from "@/ui/units";
import { COURSE_STATE, METHOD, SAID_OUTCOME, SCALE } from "@/wording/words";
import { ColonyHandlings } from "@/features/handling/colony-handlings";
import { ColonyPests } from "@/features/pests/colony-pests";
import { HiveSection, LineageSection, QueenSection } from "./about-colony";
import type { ColonyForm } from "./colony-forms";
import { COLONY_PARTS, type ColonyPart } from "./colony-part";
import { CountActs, type OnAmend } from "./count-acts";
import { PictureKept } from "./picture-kept";
import { Records } from "./records";

type View = Schemas["ColonyView"];
type Props = { view: View; onAmend: OnAmend; changes: ((form: ColonyForm) => void) | null };

export function ColonyParts({ view, onAmend, changes }: Props) {
  const { part = "counts" } = useSearch({ from: "/in/colonies/$id" });
  const navigate = useNavigate({ from: "/colonies/$id" });
  const names: Record<ColonyPart, string> = {
    counts: `Counts ${view.counts.length}`,
    visits: `Visits ${view.visits.length}`,
    courses: `Courses ${view.courses.length}`,
    honey: "Honey",
    pests: "Pests, entrance",
    colony: "Queen, hive, lineage",
    all: "Every record",
  };
  const to = (next: string) =>
    void navigate({ search: { part: COLONY_PARTS.find((one) => one === next) }, replace: true, resetScroll: false });
  return (
    <Tabs.Root value={part} onValueChange={to} className="min-w-0">
      <Tabs.List aria-label="Record of the colony" className="flex flex-wrap gap-x-5 border-b border-line">
        {COLONY_PARTS.map((one) => (
          <Tabs.Trigger
            key={one}
            value={one}
            className={
              "min-h-14 border-b-4 border-transparent py-1 text-ink-2 desk:min-h-10 " +
              "data-[state=active]:border-ink data-[state=active]:font-bold data-[state=active]:text-ink"
            }>
            {names[one]}
          </Tabs.Trigger>
        ))}
      </Tabs.List>
      <Tabs.Content value={part} className="pt-2">
        {part === "counts" && <CountTable view={view} onAmend={onAmend} />}
        {part === "visits" && <VisitTable view={view} />}
        {part === "courses" && <CourseTable view={view} mayAdd={changes !== null} />}
        {part === "honey" && (
          <Harvests
            colonyId={view.colony.id}
            apiaryId={view.apiary.id}
            today={view.today}
            mayRecord={changes !== null}
          />
        )}
        {part === "pests" && <ColonyPests colonyId={view.colony.id} mayRecord={changes !== null} />}
        {part === "colony" && (
          <div className="grid gap-x-8 gap-y-6 pt-2 desk:grid-cols-2">
            <QueenSection view={view} open={changes} />
            <HiveSection view={view} open={changes} />
            <LineageSection view={view} open={changes} />
            <ColonyHandlings colonyId={view.colony.id} today={view.today} />
          </div>
        )}
        {part === "all" && <Records view={view} onAmend={onAmend} />}
      </Tabs.Content>
    </Tabs.Root>
  );
}

const FEW = 8;

/** A table of records, the latest first; a long one shows its latest and the rest on demand. */
function Table({ name, heads, rows, none }: { name: string; heads: string[]; rows: ReactNode[]; none: string }) {
  const [all, setAll] = useState(false);
  if (rows.length === 0) return <p className="py-2 text-ink-2">{none}</p>;
  return (
    <>
      <div className="overflow-x-auto">
        <table className="w-full border-collapse text-left">
          <caption className="sr-only">{name}</caption>
          <thead className="text-sm text-ink-2">
            <tr>
              {heads.map((head) => (
                <th key={head} scope="col" className="py-1 pr-4 font-normal">
                  {head}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>{all ? rows : rows.slice(0, FEW)}</tbody>
        </table>
      </div>
      {!all && rows.length > FEW && (
        <Button variant="quiet" onClick={() => setAll(true)}>
          Show all {rows.length}
        </Button>
      )}
    </>
  );
}

function Row({ day, today, children }: { day: string; today: string; children: ReactNode }) {
  return (
    <tr className="border-t border-line align-top">
      <th scope="row" className="py-1.5 pr-4 whitespace-nowrap">
        {shortDay(day, today)}
      </th>
      {children}
    </tr>
  );
}

const CELL = "py-1.5 pr-4";

function CountTable({ view, onAmend }: { view: View; onAmend: OnAmend }) {
  const [picture, setPicture] = useState<string | null>(null);
  return (
    <>
      <Table
        name="Counts"
        heads={["date", "counted", "figure", "by"]}
        none={view.colony.is_living ? "Never counted. Begin with a wash." : "It was never counted."}
        rows={view.counts.map((one) => (
          <Row key={one.id} day={one.taken_on} today={view.today}>
            <td className={CELL}>
              {METHOD[one.method]}: {one.shakes && one.shakes.length > 1 ? `${one.shakes.join(" + ")}, ` : ""}
              {countedOf(one)}
              {one.note && <span className="block text-sm text-ink-2">{one.note}</span>}
            </td>
            <td className={CELL}>
              <CountFigure count={one} />
            </td>
            <td className={CELL}>
              {one.by_name}
              {one.version > 1 && <em className="text-sm text-ink-2"> amended</em>}{" "}
              <CountActs count={one} onAmend={onAmend} onPicture={setPicture} />
            </td>
          </Row>
        ))}
      />
      {picture && <PictureKept id={picture} onClose={() => setPicture(null)} />}
    </>
  );
}

function CountFigure({ count }: { count: Schemas["Count"] }) {
  if (count.median === null || !count.scale) return <>–</>;
  return (
    <>
      <strong>{rate(count.median)}</strong>{" "}
      <span className="whitespace-nowrap text-ink-2">
        {rate(count.low ?? 0)} to {rate(count.high ?? 0)}
      </span>
      <span className="block text-sm text-ink-2">{SCALE[count.scale]}</span>
    </>
  );
}

/** The share killed by its check count, else what somebody said of it. */
function killed({ verdict, earlier }: Schemas["CourseView"]): string {
  if (verdict?.median_pct != null) return `${Math.round(verdict.median_pct)} %`;
  return earlier?.outcome ? `${SAID_OUTCOME[earlier.outcome]}, it is said` : "–";
}

const BROOD = { yes: "sealed brood", no: "no sealed brood", unknown: "–" } as const;

function VisitTable({ view }: { view: View }) {
  return (
    <Table
      name="Visits"
      heads={["date", "strength", "brood", "queen", "by"]}
      none="No visit yet."
      rows={view.visits.map((one) => (
        <Row key={one.id} day={one.visited_on} today={view.today}>
          <td className={CELL}>
            <TextLink to="/visits/$id" params={{ id: one.id }} className="font-semibold">
              {one.strength === null ? "visit" : `${one.strength} ${one.strength_unit} of bees`}
            </TextLink>
            {one.note && <span className="block text-sm text-ink-2">{one.note}</span>}
          </td>
          <td className={CELL}>{BROOD[one.capped_brood]}</td>
          <td className={CELL}>
            {[one.queen_seen && "seen", one.eggs_seen && "eggs"].filter(Boolean).join(", ") || "–"}
          </td>
          <td className={CELL}>{one.by_name}</td>
        </Row>
      ))}
    />
  );
}

function CourseTable({ view, mayAdd }: { view: View; mayAdd: boolean }) {
  return (
    <>
      <Table
        name="Courses"
        heads={["start", "treatment", "state", "killed", "by"]}
        none="No treatment on record."
        rows={view.courses.map((one) => (
          <Row key={one.id} day={one.placed_on ?? one.start_on} today={view.today}>
            <td className={CELL}>
              <TextLink to="/courses/$id" params={{ id: one.id }} className="font-semibold">
                {one.option.name}
              </TextLink>
            </td>
            <td className={CELL}>{COURSE_STATE[one.state]}</td>
            <td className={CELL}>{killed(one)}</td>
            <td className={CELL}>{one.by_name}</td>
          </Row>
        ))}
      />
      {mayAdd && (
        <TextLink
          to="/earlier"
          search={{ apiary: view.apiary.id, colonies: [view.colony.id] }}
          className="mt-2 inline-flex min-h-14 items-center desk:min-h-8">
          Add earlier treatments
        </TextLink>
      )}
    </>
  );
}
