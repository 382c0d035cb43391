/** An apiary: what to do here, and a block of season strips. Colonies are selected for a count or a course together. */
import { clsx } from "clsx";
import { useQuery } from "@tanstack/react-query";
import { useNavigate, useParams, useSearch } from "@tanstack/react-router";
import { useState, type ReactNode } from "react";
import { apiaryQuery } from "@/client/queries";
import type { Schemas } from "@/client/types";
import { StandstillBanner } from "@/features/cases/standstill-banner";
import { AddColony } from "@/features/colonies/add-colony";
import { useMay } from "@/features/session/use-session";
import { StartRound } from "@/features/visits/round";
import { StripHead, StripLegend, stripTop, type Span } from "@/instruments/season-strip";
import { Breadcrumbs } from "@/ui/breadcrumbs";
import { Button } from "@/ui/button";
import { shortDay } from "@/ui/dates";
import { KeyBar } from "@/ui/key-bar";
import { useKeys } from "@/ui/keys";
import { TextLink } from "@/ui/link";
import { Loaded } from "@/ui/loaded";
import { useLongList } from "@/ui/long-list";
import { Empty, Page, Title } from "@/ui/page";
import { OrderChoice } from "@/ui/sort-button";
import { useDesk } from "@/ui/use-desk";
import { useWidth } from "@/ui/use-width";
import { SCHEME, colonies } from "@/wording/words";
import { ApiaryForm } from "./apiary-form";
import { COLONY_ORDER_NAME, coloniesInOrder } from "./apiary-order";
import { ColonyRow } from "./colony-row";
import { ColonyTable } from "./colony-table";
import { ApiaryFigures } from "./figures";
import { headline } from "./headline";
import { OwnPolicy } from "./own-policy";
import { ChooseToSample } from "./sampling-plan";
import { UnseenDisease } from "./unseen";
import { useSelected } from "./use-selected";

type View = Schemas["ApiaryView"];
type Colony = Schemas["ColonyOverview"];
type Selected = ReturnType<typeof useSelected>;
/** A row with its strip, before it has been drawn. */
const ROW_PX = 90;
type Open = "add" | "edit" | "sample" | "policy";

const KEYS: [string, string][] = [
  ["j", "next"],
  ["k", "before"],
  ["x", "select"],
  ["c", "count"],
  ["o", "treat"],
  ["t", "table"],
  ["?", "all keys"],
];

export function Apiary() {
  const { id } = useParams({ from: "/in/apiaries/$id" });
  const query = useQuery(apiaryQuery(id));
  return (
    <Loaded query={query} what="Drawing the season …">
      {(view) => <ApiarySheet view={view} />}
    </Loaded>
  );
}

function ApiarySheet({ view }: { view: View }) {
  const [open, setOpen] = useState<Open | null>(null);
  const mayRecord = useMay("record");
  const { order = "danger" } = useSearch({ from: "/in/apiaries/$id" });
  const living = coloniesInOrder(
    view.colonies.filter((one) => one.is_living),
    order,
    view.forecasts,
  );
  const selected = useSelected(living);
  return (
    <>
      <Page>
        <Breadcrumbs path={[{ name: "Apiaries", to: "/apiaries" }]} />
        <StandstillBanner apiaryId={view.apiary.id} />
        <div className="mt-1 grid gap-x-10 gap-y-4 desk:grid-cols-[minmax(0,19rem)_minmax(0,1fr)_auto]">
          <div>
            <Title>{view.apiary.name}</Title>
            <p className="mt-1 text-ink-2">
              {view.apiary.keeper}, {colonies(living.length)}, {view.apiary.elevation_m} m. Judged {SCHEME[view.scheme]}
              {view.has_own_policy ? ", with a policy of its own" : ""}.
            </p>
          </div>
          <WhatToDo view={view} living={living} selected={selected} />
        </div>
        <Notes apiary={view.apiary} />
        <Tools view={view} living={living} selected={selected} open={setOpen} />
        {living.length === 0 && <NoColonies onAdd={mayRecord ? () => setOpen("add") : null} />}
        {living.length > 0 && selected.isTable && <ColonyTable view={view} living={living} selected={selected} />}
        {living.length > 0 && !selected.isTable && <Strips view={view} living={living} selected={selected} />}
        {living.length > 0 && <ApiaryFigures view={view} />}
        {living.length > 0 && <UnseenDisease apiaryId={view.apiary.id} />}
        <NoLongerHere view={view} />
        <Dialogs view={view} living={living} selected={selected} open={open} onClose={() => setOpen(null)} />
      </Page>
      <KeyBar keys={KEYS} />
    </>
  );
}

/** The next act here with the buttons that begin it, and the keys of the page. */
function WhatToDo({ view, living, selected }: { view: View; living: Colony[]; selected: Selected }) {
  const navigate = useNavigate();
  const mayRecord = useMay("record");
  const search = { apiary: view.apiary.id, colonies: selected.wanted };
  const count = () => void navigate({ to: "/bench", search });
  const treat = () => void navigate({ to: "/treat", search });
  const { title, text, tone } = headline(view);
  const some = selected.selected.size > 0 ? ` (${selected.selected.size})` : "";
  const onCurrent = (act: (id: string) => void) => {
    const current = selected.current();
    if (current) act(current.id);
  };
  useKeys([
    { key: "j", says: "next colony", run: () => selected.go(1) },
    { key: "k", says: "colony before", run: () => selected.go(-1) },
    { key: "x", says: "select the colony", run: () => onCurrent(selected.toggle) },
    { key: "c", says: "count", run: count },
    { key: "o", says: "choose a treatment", run: treat },
    { key: "t", says: "table or strips", run: selected.otherView },
    {
      key: "Enter",
      shown: "Return",
      says: "open the colony",
      run: () => onCurrent((id) => void navigate({ to: "/colonies/$id", params: { id } })),
    },
  ]);
  const act = tone === "act";
  return (
    <>
      <div className="max-w-prose">
        <p className="font-head text-2xl font-semibold leading-tight">{title}</p>
        <p className="mt-1 text-ink-2">{text}</p>
      </div>
      {mayRecord && living.length > 0 && (
        <div className="flex flex-wrap content-start items-start gap-2">
          <Button variant={act ? "main" : "plain"} onClick={treat} className="flex-1 desk:flex-none">
            Choose a treatment{some}
          </Button>
          <Button variant={act ? "plain" : "main"} onClick={count} className="flex-1 desk:flex-none">
            Count{some || " colonies"}
          </Button>
          <StartRound apiaryId={view.apiary.id} today={view.today} className="flex-1 desk:flex-none" />
        </div>
      )}
    </>
  );
}

function Notes({ apiary }: { apiary: View["apiary"] }) {
  if (!apiary.access_note && !apiary.forage_note) return null;
  return (
    <p className="mt-3 text-sm text-ink-2">
      {apiary.access_note && (
        <>
          <strong className="text-ink">Access:</strong> {apiary.access_note}{" "}
        </>
      )}
      {apiary.forage_note && (
        <>
          <strong className="text-ink">Forage:</strong> {apiary.forage_note}
        </>
      )}
    </p>
  );
}

function Tool({ onClick, className = "", children }: { onClick: () => void; className?: string; children: ReactNode }) {
  return (
    <button type="button" className={clsx("min-h-8 underline underline-offset-4", className)} onClick={onClick}>
      {children}
    </button>
  );
}

type ToolsProps = { view: View; living: Colony[]; selected: Selected; open: (dialog: Open) => void };

function Tools({ view, living, selected, open }: ToolsProps) {
  const mayRecord = useMay("record");
  const mayKeep = useMay("keep_places");
  const mayDiffer = useMay("set_apiary_policy");
  const desk = useDesk();
  const all = selected.selected.size === living.length;
  const acts = (
    <>
      {mayRecord && living.length > 0 && (
        <>
          <Tool onClick={() => selected.select(all ? [] : living.map((one) => one.id))}>
            {all ? "Select none" : "Select all"}
          </Tool>
          <Tool onClick={() => selected.select(living.filter((one) => one.is_over).map((one) => one.id))}>
            Select colonies over the level
          </Tool>
          <Tool onClick={() => open("sample")}>Choose colonies to sample</Tool>
          <Tool onClick={() => open("add")}>Add a colony</Tool>
          <TextLink
            to="/earlier"
            search={{ apiary: view.apiary.id, colonies: selected.wanted }}
            className="inline-flex min-h-14 items-center desk:min-h-8">
            Add earlier treatments
          </TextLink>
          <TextLink
            to="/honey"
            search={{ apiary: view.apiary.id, colonies: [...selected.selected] }}
            className="inline-flex min-h-14 items-center desk:min-h-8">
            Record honey taken
          </TextLink>
          <TextLink
            to="/autumn"
            search={{ apiary: view.apiary.id }}
            className="inline-flex min-h-14 items-center desk:min-h-8">
            Autumn programme
          </TextLink>
        </>
      )}
      {mayDiffer && (
        <Tool onClick={() => open("policy")}>{view.has_own_policy ? "Its own policy" : "Set apiary policy"}</Tool>
      )}
      {mayKeep && <Tool onClick={() => open("edit")}>Edit apiary</Tool>}
      {living.length > 0 && (
        <TextLink
          to="/apiaries/$id/sheets"
          params={{ id: view.apiary.id }}
          className="inline-flex min-h-14 items-center desk:min-h-8">
          Blank sheets
        </TextLink>
      )}
      {living.length > 1 && <OrderChoice order={selected.order} names={COLONY_ORDER_NAME} onOrder={selected.orderBy} />}
      <Tool className="desk:ml-auto" onClick={() => selected.showTable(!selected.isTable)}>
        {selected.isTable ? "Show the strips" : "Show as a table"}
      </Tool>
    </>
  );
  const row = "flex flex-wrap items-center gap-x-6 gap-y-1";
  // In the field the colonies come first; what is done with all of them is a tap away.
  return desk ? (
    <div className={clsx("mt-4 text-sm", row)}>{acts}</div>
  ) : (
    <details className="mt-2 text-sm">
      <summary className="font-semibold underline underline-offset-4">Order, select, add, print</summary>
      <div className={row}>{acts}</div>
    </details>
  );
}

function NoColonies({ onAdd }: { onAdd: (() => void) | null }) {
  return (
    <div className="mt-4">
      <Empty title="No colonies here">
        <p>Its colonies will stand here, each with its season.</p>
        {onAdd && (
          <Button variant="main" className="mt-3" onClick={onAdd}>
            Add a colony
          </Button>
        )}
      </Empty>
    </div>
  );
}

function Strips({ view, living, selected }: { view: View; living: Colony[]; selected: Selected }) {
  const mayRecord = useMay("record");
  const [box, width] = useWidth<HTMLDivElement>(700);
  const rows = useLongList<HTMLUListElement>({ count: living.length, estimate: ROW_PX, current: selected.index });
  const span: Span = { first: view.first, last: view.last, today: view.today, width };
  const falls = view.axis === "mites_per_day";
  const top = stripTop(
    view.counts.flatMap((one) => (one.median === null ? [] : [one.median])),
    falls,
  );
  return (
    <div className="mt-1">
      <div className="grid grid-cols-1 desk:grid-cols-[14.5rem_minmax(0,1fr)_11.5rem]">
        <div className="hidden self-end pb-1.5 text-sm text-ink-2 desk:block">colony</div>
        <div ref={box}>
          <StripHead span={span} phases={view.phases} />
        </div>
        <div className="hidden self-end pb-1.5 pl-5 text-sm text-ink-2 desk:block">
          {view.axis === "mites_per_day" ? "mites a day" : "mites per 100 bees"}
        </div>
      </div>
      <ul ref={rows.container} style={{ paddingTop: rows.before, paddingBottom: rows.after }}>
        {rows.drawn.map((index) => {
          const colony = living[index];
          return (
            colony && (
              <ColonyRow
                key={colony.id}
                place={{ index, of: living.length, measure: rows.measure }}
                view={view}
                colony={colony}
                span={span}
                top={top}
                first={index === 0}
                current={index === selected.index}
                selected={selected.selected.has(colony.id)}
                onSelect={mayRecord ? () => selected.toggle(colony.id) : null}
              />
            )
          );
        })}
      </ul>
      <div className="mt-2">
        <StripLegend />
      </div>
    </div>
  );
}

function NoLongerHere({ view }: { view: View }) {
  const others = view.colonies.filter((one) => !one.is_living);
  if (others.length === 0) return null;
  return (
    <section className="mt-8">
      <h2 className="border-b border-line pb-1 text-lg">No longer here</h2>
      <ul className="mt-2 flex flex-wrap gap-x-6 gap-y-1 text-ink-2">
        {others.map((one) => (
          <li key={one.id}>
            <TextLink to="/colonies/$id" params={{ id: one.id }}>
              {one.label}
            </TextLink>
            , {one.state} {shortDay(one.state_since, view.today)}
          </li>
        ))}
      </ul>
    </section>
  );
}

type DialogsProps = { view: View; living: Colony[]; selected: Selected; open: Open | null; onClose: () => void };

function Dialogs({ view, living, selected, open, onClose }: DialogsProps) {
  const { apiary, today } = view;
  return (
    <>
      {open === "policy" && <OwnPolicy apiaryId={apiary.id} today={today} onClose={onClose} />}
      {open === "sample" && <ChooseToSample view={view} living={living} onClose={onClose} onSelect={selected.select} />}
      <AddColony
        open={open === "add"}
        onClose={onClose}
        apiaryId={apiary.id}
        today={today}
        hives={view.hives}
        colonies={living}
      />
      <ApiaryForm key={apiary.version} open={open === "edit"} onClose={onClose} keepers={[]} apiary={apiary} />
    </>
  );
}
