/** Every record of a colony, the latest first: counts, visits, courses. */
import { Link } from "@tanstack/react-router";
import { useState, type ReactNode } from "react";
import type { Schemas } from "@/client/types";
import { countedOf } from "@/features/sampling/meaning";
import { Button } from "@/ui/button";
import { shortDay } from "@/ui/dates";
import { rate } from "@/ui/units";
import { COURSE_STATE, METHOD, SCALE } from "@/wording/words";
import { CountActs, type OnAmend } from "./count-acts";
import { PictureKept } from "./picture-kept";

type View = Schemas["ColonyView"];
type Entry = { key: string; day: string; body: ReactNode };
const NAME = "inline-block py-0.5 font-bold underline underline-offset-4";

export function Records({ view, onAmend }: { view: View; onAmend: OnAmend }) {
  const [all, setAll] = useState(false);
  const [picture, setPicture] = useState<string | null>(null);
  const entries: Entry[] = [
    ...view.counts.map((one) => ({
      key: one.id,
      day: one.taken_on,
      body: <CountEntry count={one} onAmend={onAmend} onPicture={setPicture} />,
    })),
    ...view.visits.map((one) => ({ key: one.id, day: one.visited_on, body: <VisitEntry visit={one} /> })),
    ...view.courses.map((one) => ({
      key: one.id,
      day: one.placed_on ?? one.start_on,
      body: <CourseEntry course={one} />,
    })),
  ].sort((a, b) => b.day.localeCompare(a.day));
  const shown = all ? entries : entries.slice(0, 12);
  return (
    <section aria-label="Every record">
      {entries.length === 0 && (
        <p className="mt-3 text-ink-2">
          {view.colony.is_living
            ? "Nothing recorded about this colony yet. Begin with a count."
            : "Nothing was recorded."}
        </p>
      )}
      <ol>
        {shown.map((entry) => (
          <li key={entry.key} className="grid grid-cols-[6.5rem_1fr] gap-3 border-b border-line py-2">
            <span className="text-ink-2">{shortDay(entry.day, view.today)}</span>
            <div>{entry.body}</div>
          </li>
        ))}
      </ol>
      {entries.length > shown.length && (
        <Button variant="quiet" onClick={() => setAll(true)}>
          Show all {entries.length} records
        </Button>
      )}
      {picture && <PictureKept id={picture} onClose={() => setPicture(null)} />}
    </section>
  );
}

type CountEntryProps = { count: Schemas["Count"]; onAmend: OnAmend; onPicture: (id: string) => void };

function CountEntry({ count, onAmend, onPicture }: CountEntryProps) {
  return (
    <>
      <strong>
        {METHOD[count.method].slice(0, 1).toUpperCase() + METHOD[count.method].slice(1)}
        {count.shakes && count.shakes.length > 1 ? ` ${count.shakes.join(" + ")}` : ""}
      </strong>
      : {countedOf(count)}
      {count.median !== null && count.scale && (
        <>
          : <strong>{rate(count.median)}</strong> {SCALE[count.scale]} ({rate(count.low ?? 0)} to{" "}
          {rate(count.high ?? 0)})
        </>
      )}
      {count.version > 1 && <em className="text-ink-2"> amended</em>}.{" "}
      <span className="text-ink-2">{count.by_name}</span>
      {count.note && <span className="block text-ink-2">{count.note}</span>}
      <CountActs count={count} onAmend={onAmend} onPicture={onPicture} />
    </>
  );
}

function VisitEntry({ visit }: { visit: View["visits"][number] }) {
  return (
    <>
      <Link to="/visits/$id" params={{ id: visit.id }} className={NAME}>
        Visit
      </Link>
      {visit.strength !== null && `: ${visit.strength} ${visit.strength_unit} of bees`}
      {visit.capped_brood !== "unknown" && (visit.capped_brood === "yes" ? ", sealed brood" : ", no sealed brood")}
      {visit.eggs_seen && ", eggs"}
      {visit.queen_seen && ", queen seen"}
      {visit.supers_on && ", supers on"}. <span className="text-ink-2">{visit.by_name}</span>
      {visit.note && <span className="block text-ink-2">{visit.note}</span>}
    </>
  );
}

function CourseEntry({ course }: { course: Schemas["CourseView"] }) {
  return (
    <>
      <Link to="/courses/$id" params={{ id: course.id }} className={NAME}>
        {course.option.name}
      </Link>
      , {COURSE_STATE[course.state]}
      {course.verdict?.median_pct != null && ` (${Math.round(course.verdict.median_pct)} % killed)`}.{" "}
      <span className="text-ink-2">{course.by_name}</span>
    </>
  );
}
