/** What a colony is: its queen, its hive, its lineage; each with the form that changes it. */
import type { ReactNode } from "react";
import type { Schemas } from "@/client/types";
import { PURPOSE, useFrameName } from "@/features/colonies/boxes";
import { TextLink } from "@/ui/link";
import { shortDay } from "@/ui/dates";
import { QueenMark } from "@/ui/level";
import { Notice } from "@/ui/page";
import { QUEEN_STATUS } from "@/wording/words";
import type { ColonyForm } from "./colony-forms";
import { LineageEvent } from "./lineage-event";

type Props = { view: Schemas["ColonyView"]; open: ((form: ColonyForm) => void) | null };

function Section({ id, title, acts, children }: { id: string; title: string; acts: ReactNode; children: ReactNode }) {
  return (
    <section aria-labelledby={id}>
      <h2 id={id} className="flex items-baseline justify-between border-b-2 border-ink pb-1 text-xl">
        {title}
        {acts}
      </h2>
      {children}
    </section>
  );
}

function HeadButton({ onClick, children }: { onClick: () => void; children: ReactNode }) {
  return (
    <button
      type="button"
      className="min-h-14 font-sans text-base font-normal underline underline-offset-4 desk:min-h-8"
      onClick={onClick}>
      {children}
    </button>
  );
}

export function QueenSection({ view, open }: Props) {
  const queen = view.queens[0];
  const acts = open && (
    <span className="flex gap-5">
      <HeadButton onClick={() => open("brood")}>The laying stopped</HeadButton>
      <HeadButton onClick={() => open("queen")}>Change</HeadButton>
    </span>
  );
  return (
    <Section id="queen" title="Queen" acts={acts}>
      {queen && queen.queen.until === null ? (
        <div className="mt-2">
          <p className="flex items-center gap-2">
            {queen.queen.mark_seen && <QueenMark colour={queen.queen.mark_seen} />}
            <span>
              <strong>{queen.queen.year ?? "year not known"}</strong>
              {queen.queen.mark_seen ? `, marked ${queen.queen.mark_seen}` : ", no mark seen"}
              {queen.mark_expected && !queen.queen.mark_seen && ` (her year's colour is ${queen.mark_expected})`},{" "}
              {QUEEN_STATUS[queen.queen.status]}
            </span>
          </p>
          <p className="text-sm text-ink-2">
            queen since {shortDay(queen.queen.since, view.today)}
            {queen.queen.laying_since && `, laying since ${shortDay(queen.queen.laying_since, view.today)}`};{" "}
            <TextLink to="/queens/$id" params={{ id: queen.queen.id }}>
              where she has been
            </TextLink>
          </p>
          {queen.mark_differs && (
            <div className="mt-2">
              <Notice>{queen.mark_differs}</Notice>
            </div>
          )}
        </div>
      ) : (
        <p className="mt-2 text-ink-2">No queen on record.</p>
      )}
    </Section>
  );
}

export function HiveSection({ view, open }: Props) {
  const frameName = useFrameName();
  const acts = open && (
    <span className="flex gap-5">
      <HeadButton onClick={() => open("hive")}>Change the boxes</HeadButton>
      <HeadButton onClick={() => open("move")}>Move it</HeadButton>
    </span>
  );
  return (
    <Section id="hive" title="Hive" acts={acts}>
      {view.hive.length === 0 ? (
        <p className="mt-2 text-ink-2">No hive on record.</p>
      ) : (
        <>
          <p className="mt-2">
            {view.hive[0]?.hive_type}
            {(view.hive[0]?.labels ?? []).length > 1 && `, shared by ${(view.hive[0]?.labels ?? []).join(" and ")}`}
            {view.hive[0]?.divided_after != null &&
              `, divided after frame ${view.hive[0].divided_after}: ${view.colony.label} lives on ` +
                `the ${view.hive[0].left_label === view.colony.label ? "left" : "right"}`}
          </p>
          <ol className="mt-1 flex flex-col-reverse text-sm">
            {view.hive
              .filter((one) => one.position !== null)
              .map((one) => (
                <li
                  key={one.position}
                  className="-mt-px flex justify-between gap-3 border border-line-2 bg-sheet px-3 py-1">
                  <span>
                    {PURPOSE[one.purpose as keyof typeof PURPOSE]}
                    {one.frames ? `, ${one.frames} x ${frameName(one.frame_format)}` : ""}
                  </span>
                  <span className="whitespace-nowrap text-ink-2">
                    {one.since && `since ${shortDay(one.since, view.today)}`}
                  </span>
                </li>
              ))}
          </ol>
        </>
      )}
    </Section>
  );
}

export function LineageSection({ view, open }: Props) {
  const acts = open && <HeadButton onClick={() => open("state")}>Renumber, merge or end</HeadButton>;
  return (
    <Section id="lineage" title="Lineage" acts={acts}>
      <ul className="mt-2 space-y-1">
        {view.events.map((event) => (
          <li key={event.id} className="grid grid-cols-[7rem_1fr] gap-2">
            <span className="text-ink-2">{shortDay(event.happened_on, view.today)}</span>
            <span>
              <LineageEvent event={event} own={view.colony.id} />
            </span>
          </li>
        ))}
      </ul>
      <p className="mt-2">
        <TextLink to="/colonies/$id/where" params={{ id: view.colony.id }}>
          Where it has been, what came and went
        </TextLink>
      </p>
    </Section>
  );
}
