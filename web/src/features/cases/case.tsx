/** One suspect case: what to do here and now, for whom it waits, its hours, its samples, and its whole record. */
import { useQuery } from "@tanstack/react-query";
import { useParams } from "@tanstack/react-router";
import { useState } from "react";
import { caseQuery } from "@/client/case-queries";
import type { Schemas } from "@/client/types";
import { useMay, useSession } from "@/features/session/use-session";
import { Breadcrumbs } from "@/ui/breadcrumbs";
import { Button } from "@/ui/button";
import { shortDay } from "@/ui/dates";
import { Details } from "@/ui/details";
import { TextLink } from "@/ui/link";
import { Loaded } from "@/ui/loaded";
import { Notice, Page, SectionHeading, Title } from "@/ui/page";
import { Around } from "./around";
import { CaseCourse } from "./case-course";
import { CasePhotos } from "./case-photos";
import { CaseRecord } from "./case-record";
import { ClockLine } from "./cases";
import { Samples } from "./samples";
import { StepForm } from "./step-form";
import { Tracing } from "./tracing";
import { said, useCaseWords, whoSays } from "./words";

type View = Schemas["CaseView"];
/** Acts that are there for the rare turn, not for the next one. */
const RARE = ["reopen", "hold_official", "hold_voluntary", "end_tracing", "end_radius"];
/** Two columns at the desk; on the phone one, in the order in which it is needed at the apiary. */
const COLUMN = "contents desk:block desk:min-w-0 desk:flex-1 desk:space-y-8";

export function Case() {
  const { id } = useParams({ from: "/in/cases/$id" });
  const query = useQuery(caseQuery(id));
  return (
    <Loaded query={query} what="Opening the case …">
      {(view) => <CaseSheet view={view} />}
    </Loaded>
  );
}

function CaseSheet({ view }: { view: View }) {
  const { words } = useCaseWords();
  const { role } = useSession();
  const row = view.line.case;
  const exact = role === "inspector" || role === "administrator";
  return (
    <Page>
      <Breadcrumbs path={[{ name: "Cases", to: "/cases" }]} />
      <div className="mt-1 flex flex-wrap items-baseline gap-x-4">
        <Title>{`${row.number}: ${said(words.diseases, row.disease)}`}</Title>
        <p className="font-head text-2xl font-semibold">{said(words.states, view.line.state).name}</p>
      </div>
      <p className="mt-1 text-ink-2">
        Colony{" "}
        <TextLink to="/colonies/$id" params={{ id: row.colony_id }} search={{}}>
          {row.label}
        </TextLink>
        ,{" "}
        <TextLink to="/apiaries/$id" params={{ id: row.apiary_id }} search={{}}>
          {row.apiary}
        </TextLink>
        ; keeper {row.keeper}; found {shortDay(row.found_on)}; law of {view.law.name}.
      </p>
      <CaseCourse view={view} />
      <div className="mt-6 flex flex-col gap-y-8 desk:flex-row desk:gap-x-10">
        <div className={COLUMN}>
          <Now view={view} />
          <div className="order-3">
            <Samples view={view} />
          </div>
          <div className="order-5">
            <CaseRecord view={view} />
            <CasePhotos view={view} />
          </div>
        </div>
        <div className={COLUMN}>
          <KeeperLines />
          <div className="order-2 space-y-8">
            <Papers view={view} />
            <Hours view={view} />
          </div>
          <div className="order-4">
            {exact && (
              <>
                <Tracing id={row.id} />
                <Around id={row.id} />
              </>
            )}
          </div>
        </div>
      </div>
    </Page>
  );
}

/** What stands still, what is next and for whom, with the acts that are this person's. */
function Now({ view }: { view: View }) {
  const { words } = useCaseWords();
  const mayRecord = useMay("record");
  const [act, setAct] = useState<Schemas["NextAct"] | null>(null);
  const row = view.line.case;
  const mine = view.next.filter((one) => one.mine && mayRecord);
  const first = mine.filter((one) => !RARE.includes(one.act));
  const rare = mine.filter((one) => RARE.includes(one.act));
  const state = said(words.states, view.line.state);
  return (
    <section aria-labelledby="now">
      <SectionHeading id="now">Now</SectionHeading>
      <p className="mt-2 font-head text-xl font-semibold">{state.says}</p>
      {view.line.due && (
        <p className="mt-1">
          From {shortDay(view.line.due.first)} to {shortDay(view.line.due.last)}.
        </p>
      )}
      {view.rules.length > 0 && (
        <Details title="On what it rests">
          <ul>
            {view.rules.map((rule) => (
              <li key={rule.id}>
                {rule.id}: {rule.says}
              </li>
            ))}
          </ul>
        </Details>
      )}
      {view.laboratory_decides && view.line.state === "suspected" && (
        <p className="mt-1">A thread, a scale, a tongue or a kit: only the laboratory settles this.</p>
      )}
      {row.hold !== "none" && row.hold !== "lifted" && (
        <div className="mt-3">
          <Notice tone={row.hold === "official" ? "act" : "watch"}>
            <p className="font-semibold">
              {said(words.holds, row.hold)}
              {row.hold_covers && `, ${said(words.fields, "covers").choices?.[row.hold_covers] ?? ""}`}
              {row.hold_since && `, since ${shortDay(row.hold_since)}`}
              {row.hold_reference && `; ${row.hold_reference}`}
            </p>
            <p className="text-ink-2">What happened all the same is recorded with its reason, and noted here.</p>
          </Notice>
        </div>
      )}
      {view.line.waits_for.length > 0 && (
        <p className="mt-3">
          Waits for <b>{whoSays(view.line.waits_for)}</b>.
        </p>
      )}
      <div className="mt-3 flex flex-wrap gap-2">
        {first.map((one, number) => (
          <Button key={one.act} variant={number === 0 ? "main" : "plain"} onClick={() => setAct(one)}>
            {said(words.acts, one.act).name}
          </Button>
        ))}
      </div>
      {rare.length > 0 && (
        <div className="mt-3">
          <Details title="For the rare turn">
            <div className="flex flex-wrap gap-2">
              {rare.map((one) => (
                <Button key={one.act} onClick={() => setAct(one)}>
                  {said(words.acts, one.act).name}
                </Button>
              ))}
            </div>
          </Details>
        </div>
      )}
      {act && <StepForm view={view} act={act} onClose={() => setAct(null)} />}
    </section>
  );
}

function Hours({ view }: { view: View }) {
  if (view.clocks.length === 0) return null;
  return (
    <section aria-labelledby="hours">
      <SectionHeading id="hours" says="how long, of how long the law gives">
        Hours
      </SectionHeading>
      <ul className="mt-1">
        {view.clocks.map((clock) => (
          <li key={clock.id} className="border-b border-line py-2">
            <ClockLine clock={clock} />
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What whoever keeps the bees does now and what not, as on the sheet. */
function KeeperLines() {
  const { words } = useCaseWords();
  const parts = [
    ["Do now", words.keeper.now],
    ["Do not", words.keeper.never],
    ["What else holds", words.keeper.rules],
  ] as const;
  return (
    <section aria-labelledby="keeper">
      <SectionHeading id="keeper">At the apiary</SectionHeading>
      {parts.map(([title, lines]) => (
        <div key={title} className="mt-2">
          <h3 className="font-semibold">{title}</h3>
          <ul className="ml-5 list-disc">
            {lines.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
        </div>
      ))}
    </section>
  );
}

function Papers({ view }: { view: View }) {
  const id = view.line.case.id;
  return (
    <section aria-labelledby="papers">
      <SectionHeading id="papers">Papers</SectionHeading>
      <ul className="mt-1">
        <li>
          <PaperLink href={`/api/v1/cases/${id}/keeper-sheet.pdf`}>Sheet for the keeper (PDF)</PaperLink>
        </li>
        <li>
          <PaperLink href={`/api/v1/cases/${id}/notice.pdf`}>Notice to the authority (PDF)</PaperLink>
        </li>
        <li>
          <PaperLink href={`/api/v1/cases/${id}/neighbours.pdf`}>Sheet for keepers around, no names (PDF)</PaperLink>
        </li>
        {view.steps.some((one) => one.act === "order") && (
          <li>
            <PaperLink href={`/api/v1/cases/${id}/order.pdf`}>The order and what is to be shown (PDF)</PaperLink>
          </li>
        )}
      </ul>
      <p className="mt-1 text-ink-2">
        {view.law.authority}
        {view.law.telephone && `, ${view.law.telephone}`}
      </p>
    </section>
  );
}

function PaperLink({ href, children }: { href: string; children: string }) {
  return (
    <a
      href={href}
      className="inline-flex min-h-14 items-center underline underline-offset-4 desk:min-h-9"
      target="_blank"
      rel="noreferrer">
      {children}
    </a>
  );
}
