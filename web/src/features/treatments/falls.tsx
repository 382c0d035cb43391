/** The fall after a dose: is it killing, and is it over. With the check count, never instead of it. */
import { clsx } from "clsx";
import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import type { Schemas } from "@/client/types";
import { fallsQuery } from "@/client/queries";
import { FallPicture } from "@/instruments/fall-curve";
import { Details } from "@/ui/details";
import { plural, shortDay } from "@/ui/dates";
import { Notice } from "@/ui/page";
import { chance, rate } from "@/ui/units";
import { useWidth } from "@/ui/use-width";

type Verdict = Schemas["FallReadout"]["verdict"];

const SAID: Record<Verdict, [title: string, text: string]> = {
  killing: [
    "It is killing.",
    "As many mites fall as should. Read another board towards the end to see that it is over.",
  ],
  over: ["It killed, and it is over.", "The last board shows no more than falls by itself."],
  goes_on: [
    "It killed, and mites go on falling.",
    "More fell after three weeks than brood that empties explains: mites may be coming in from outside. Wash to know.",
  ],
  not_killing: [
    "Too few mites fall.",
    "A colony with this load should shed more by now. Look at the dose, its place and its age; mites " +
      "may withstand it. Wash to know, and have another kind of treatment ready.",
  ],
  cannot_tell: [
    "The boards do not tell yet.",
    "Too few mites, or too few days, to tell a kill from what falls by itself. Read a clean board for three days.",
  ],
};

/** Said at the head of the page: it cannot wait until somebody scrolls to the picture. */
export function TooFewFall({ course }: { course: Schemas["CourseView"] }) {
  const found = useQuery({ ...fallsQuery(course.id), enabled: course.placed_on !== null });
  if (found.data?.readout?.verdict !== "not_killing") return null;
  return (
    <div className="mt-4">
      <Notice tone="act">
        <a
          href="#falls"
          className="inline-flex min-h-14 items-center font-semibold underline underline-offset-4 desk:min-h-9">
          Too few mites fall
        </a>{" "}
        for a treatment that kills.
      </Notice>
    </div>
  );
}

export function Falls({ course, mayRecord }: { course: Schemas["CourseView"]; mayRecord: boolean }) {
  const [ref, width] = useWidth<HTMLDivElement>(520);
  const found = useQuery({ ...fallsQuery(course.id), enabled: course.placed_on !== null });
  const curve = found.data;
  if (course.placed_on === null || curve?.span_days === 0) return null;
  const said = curve?.readout ? SAID[curve.readout.verdict] : null;
  return (
    <section aria-labelledby="falls">
      <h2 id="falls" className="border-b-2 border-ink pb-1 text-xl">
        Mites fallen a day
      </h2>
      <div ref={ref} className="mt-3 min-h-20">
        {curve && (curve.boards.length > 0 || curve.days.length > 0) && <FallPicture curve={curve} width={width} />}
        {found.isPending && <p className="text-ink-2">Working out what should fall …</p>}
      </div>
      {curve && (
        <>
          {curve.days.length > 0 && (
            <p className="mt-1 text-sm text-ink-2">
              Shaded: what should fall if it kills, 80 % of cases. Dots: the most that falls by itself. Bars: boards
              {curve.boards.some((board) => !board.judged) ? "; hollow: may have held old mites" : ""}.
            </p>
          )}
          {said && (
            <div className="mt-3">
              <h3 className={clsx("text-2xl", curve.readout?.verdict === "not_killing" && "text-act")}>{said[0]}</h3>
              <p className="mt-1 text-ink-2">{said[1]}</p>
            </div>
          )}
          {curve.why_not && <p className="mt-2 text-ink-2">{curve.why_not}</p>}
          {curve.boards.length === 0 && !curve.why_not && (
            <p className="mt-2 text-ink-2">
              No board was read since the first dose. One put in clean for three days shows early whether it kills.
            </p>
          )}
          {mayRecord && (
            <Link
              to="/bench"
              search={{ apiary: course.apiary_id, colonies: [course.colony_id], method: "board" }}
              className={clsx(
                "mt-1 inline-flex min-h-14 items-center font-semibold underline underline-offset-4",
                "desk:min-h-11",
              )}>
              Put in or read a board
            </Link>
          )}
          {curve.readout && (
            <Details title="Why" open={false}>
              <p>
                Chance that it kills rather than does nothing, both held equally likely before:{" "}
                {chance(curve.readout.p_killing)}. 80 in 100 decide either way.
              </p>
              {curve.boards.map((board) => (
                <p key={board.id}>
                  {shortDay(board.first, curve.today)} to {shortDay(board.last, curve.today)}:{" "}
                  {plural(board.mites, "mite")}, {rate(board.per_day)} a day ({rate(board.low)} to {rate(board.high)}).
                </p>
              ))}
              {curve.counted_on && (
                <p>
                  What should fall follows from the counts up to {shortDay(curve.counted_on, curve.today)}, by the model
                  of the forecast. Of the dead 8 in 10 reach the board.
                </p>
              )}
              <p>A fall is never a rate and verifies nothing: the check count after the course does.</p>
            </Details>
          )}
          {curve.boards.length > 0 && !curve.readout && (
            <Notice>These boards are not judged: {curve.why_not || "they may have held old mites"}.</Notice>
          )}
        </>
      )}
    </section>
  );
}
