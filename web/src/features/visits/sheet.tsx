/** The keeper's sheet: one page of a visit in plain words, to print or as PDF. */
import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "@tanstack/react-router";
import { useMemo } from "react";
import { signsQuery, visitQuery } from "@/client/queries";
import type { Schemas } from "@/client/types";
import { useSession } from "@/features/session/use-session";
import { BoxPlan } from "@/instruments/box-plan";
import { longDay } from "@/ui/dates";
import { Button, buttonClass } from "@/ui/button";
import { ErrorPage, Loading } from "@/ui/page";
import { rate, temperature } from "@/ui/units";
import { useReasons, useSentence } from "@/features/session/use-sentence";
import { Figures } from "./next-steps";
import { floorName, planBoxes } from "./plan";
import { LevelWord, MARK } from "@/ui/level";
import { SCALE } from "@/wording/words";

const NONE = {};

/** What was known of the mites on the day: the level with its figure, and each course with its dates. */
function Known({ known, day }: { known: Schemas["VisitPlace"]["known"]; day: string }) {
  if (!known) return null;
  return (
    <div className="mt-3 border-y border-line py-2">
      <p className="flex flex-wrap items-baseline gap-x-3">
        Level on {longDay(day)}: <LevelWord level={known.level} />
        {known.rate !== null && known.counted_on ? (
          <span>
            <strong className="figure text-2xl">{rate(known.rate)}</strong> ({rate(known.low ?? 0)} to{" "}
            {rate(known.high ?? 0)}) {SCALE[known.scale ?? "mites_per_100"]}, counted {longDay(known.counted_on)}
          </span>
        ) : (
          "never counted"
        )}
      </p>
      {known.courses.map((one) => (
        <p key={`${one.name} ${one.placed_on}`}>
          {one.name}, placed {longDay(one.placed_on)}, {one.ended_on ? `ended ${longDay(one.ended_on)}` : "under way"}
          {one.honey_clear_on && `; honey clear ${longDay(one.honey_clear_on)}`}.
        </p>
      ))}
    </div>
  );
}

export function VisitSheetPage() {
  const { id } = useParams({ from: "/in/visits/$id/sheet" });
  const query = useQuery(visitQuery(id, undefined));
  const signs = useQuery(signsQuery);
  const units = useSession().person;
  const say = useSentence();
  const reasons = useReasons();
  const boxes = useMemo(() => (query.data ? planBoxes({ ...query.data, previous: [] }, NONE) : []), [query.data]);
  if (query.isPending) return <Loading what="Writing the sheet …" />;
  if (query.isError) return <ErrorPage error={query.error} retry={() => void query.refetch()} />;
  const view = query.data;
  const { visit, assessment } = view;
  const order = { act: 0, watch: 1, note: 2 };
  const findings = [...assessment.findings].sort((a, b) => order[a.level] - order[b.level]);
  const seen = new Map<string, number>();
  for (const frame of view.records)
    for (const one of frame.record.signs) seen.set(one.sign, (seen.get(one.sign) ?? 0) + 1);
  const next = visit.after.next_visit ?? assessment.suggested.on;
  const weather = [
    visit.before.air_temp_c == null ? "" : temperature(visit.before.air_temp_c, units),
    visit.before.wind ?? "",
    visit.before.rain ?? "",
  ]
    .filter(Boolean)
    .join(", ");
  return (
    <main id="main" className="mx-auto w-full max-w-[820px] flex-1 bg-sheet px-6 py-6 print:p-0">
      <p className="mb-4 flex flex-wrap gap-3 print:hidden">
        <Button variant="main" onClick={() => window.print()}>
          Print
        </Button>
        <a
          className={buttonClass("plain")}
          href={`/api/v1/visits/${visit.id}/sheet.pdf`}
          target="_blank"
          rel="noreferrer">
          As PDF
        </a>
        <Link to="/visits/$id" params={{ id: visit.id }} className={buttonClass("quiet")}>
          Back to the visit
        </Link>
      </p>
      <h1 className="text-3xl">
        {view.place.label}, {view.place.apiary}
      </h1>
      <p className="mt-1">
        Keeper {view.place.keeper}. Visit of {longDay(visit.visited_on)} by {visit.by_name}
        {weather && `; ${weather}`}.{visit.state === "draft" && <strong> A draft: not closed yet.</strong>}
      </p>
      <Known known={view.place.known} day={visit.visited_on} />
      <div className="mt-3">
        <Figures view={view} />
      </div>
      {view.records.length > 0 && (
        <div className="mt-3">
          <BoxPlan
            boxes={boxes}
            at={null}
            floor={floorName(view)}
            queenMark={view.colony.mark_seen ? MARK[view.colony.mark_seen] : null}
            dividedAfter={null}
            comparedWith={null}
            onChoose={() => undefined}
          />
        </div>
      )}
      <h2 className="mt-4 border-b-2 border-ink text-xl">Findings and next steps</h2>
      <ul className="mt-1 space-y-1">
        {findings.map((one) => (
          <li key={one.code}>
            <strong className={one.level === "act" ? "text-act" : ""}>{say(one)}</strong>
            {one.because.length > 0 && ` Because: ${reasons(one.because)}.`}
          </li>
        ))}
        {seen.size > 0 && (
          <li>
            Signs:{" "}
            {[...seen]
              .map(
                ([sign, frames]) =>
                  `${signs.data?.find((one) => one.id === sign)?.name ?? sign} on ${frames} ` +
                  `${frames === 1 ? "frame" : "frames"}`,
              )
              .join("; ")}
            .
          </li>
        )}
      </ul>
      {visit.after.decided && (
        <>
          <h2 className="mt-4 border-b-2 border-ink text-xl">Decided, and why</h2>
          <p className="mt-1">{visit.after.decided}</p>
        </>
      )}
      <h2 className="mt-4 border-b-2 border-ink text-xl">What to do, by when</h2>
      <ul className="mt-1 space-y-1">
        {view.hold && <li>☐ On hold: {view.hold.why}. No comb leaves this hive.</li>}
        {findings
          .filter((one) => one.level === "act")
          .map((one) => (
            <li key={one.code}>☐ {say(one)}</li>
          ))}
        <li>
          ☐ Next visit by <strong>{longDay(next)}</strong>
          {visit.after.next_why ? ` (${visit.after.next_why})` : ""}.
        </li>
      </ul>
      {visit.after.note && (
        <>
          <h2 className="mt-4 border-b-2 border-ink text-xl">Note</h2>
          <p className="mt-1">{visit.after.note}</p>
        </>
      )}
      <p className="mt-5 text-sm text-ink-2">
        A decision aid: labels, local law and licensed practice come first. What was not seen at this examination is not
        ruled out.
      </p>
    </main>
  );
}
