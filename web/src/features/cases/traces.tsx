/**
 * The traces of a case: from whom it may have come and to whom it may have gone, drawn through time and as lists, each
 * contact with its way in words; the round in which they are seen; the lists as they were kept.
 */
import { clsx } from "clsx";
import { useQuery } from "@tanstack/react-query";
import { useNavigate, useParams, useSearch } from "@tanstack/react-router";
import { useState } from "react";
import { caseQuery, keptTracesQuery, tracesQuery } from "@/client/case-queries";
import type { Schemas } from "@/client/types";
import { ContactLines } from "@/instruments/contact-lines";
import { Breadcrumbs } from "@/ui/breadcrumbs";
import { plural, shortDay } from "@/ui/dates";
import { SelectField } from "@/ui/fields";
import { Loaded } from "@/ui/loaded";
import { Notice, Page, SectionHeading, Title } from "@/ui/page";
import { ContactTable } from "./contact-table";
import { drawn } from "./trace-lines";
import { TraceRound } from "./trace-round";

type Traces = Schemas["Traces"];

export function TracesOfCase() {
  const { id } = useParams({ from: "/in/cases/$id/traces" });
  const { kept } = useSearch({ from: "/in/cases/$id/traces" });
  const now = useQuery({ ...tracesQuery(id), enabled: kept === undefined });
  const then = useQuery({ ...keptTracesQuery(id, kept ?? 0), enabled: kept !== undefined });
  const number = useQuery(caseQuery(id)).data?.line.case.number;
  return (
    <Page>
      <Breadcrumbs
        path={[
          { name: "Cases", to: "/cases", search: {} },
          { name: number ?? "the case", to: "/cases/$id", params: { id } },
        ]}
      />
      <Title>Tracing</Title>
      <Loaded query={kept === undefined ? now : then} what="Following combs, bees and tools …">
        {(traces) => <Shown id={id} traces={traces} kept={kept} />}
      </Loaded>
    </Page>
  );
}

function Shown({ id, traces, kept }: { id: string; traces: Traces; kept: number | undefined }) {
  return (
    <>
      <p className="mt-1 max-w-prose text-ink-2">
        By what is on record; nobody is contacted by it before the authority says so. Sources are sought back to{" "}
        {shortDay(traces.window.back_to, traces.today)}; it may have spread from{" "}
        {shortDay(traces.window.infectious_from, traces.today)} on
        {traces.window.assumed
          ? ", an assumption: no examination of all its brood without a sign is on record."
          : ", the day after all its brood was seen without a sign."}
      </p>
      <KeptLists id={id} traces={traces} kept={kept} />
      <Diagram id={id} traces={traces} />
      <div className="mt-8 space-y-8">
        <ContactTable
          id="sources"
          title="It may have come from"
          contacts={traces.sources}
          outside={traces.outside.filter((one) => one.direction === "backward")}
          today={traces.today}
        />
        <ContactTable
          id="spread"
          title="It may have gone to"
          contacts={traces.spread}
          outside={traces.outside.filter((one) => one.direction === "forward")}
          today={traces.today}
        />
        <TraceRound stops={traces.round} today={traces.today} />
      </div>
    </>
  );
}

/** Which lists are shown: those of today, or as they were kept; and what has changed since. */
function KeptLists({ id, traces, kept }: { id: string; traces: Traces; kept: number | undefined }) {
  const navigate = useNavigate();
  if (traces.kept.length === 0)
    return <p className="mt-2 text-ink-2">The lists are kept as they stand when the case is confirmed.</p>;
  const last = traces.kept[traces.kept.length - 1];
  return (
    <div className="mt-4 max-w-120">
      <SelectField
        label="Lists"
        name="kept"
        value={kept === undefined ? "now" : String(kept)}
        options={[
          ["now", "as of today"],
          ...traces.kept.map(
            (one) =>
              [
                String(one.number),
                `${one.number}: kept ${shortDay(one.made_on, traces.today)} by ${one.by_name}`,
              ] as const,
          ),
        ]}
        onChange={(next) =>
          void navigate({
            to: "/cases/$id/traces",
            params: { id },
            search: next === "now" ? {} : { kept: Number(next) },
          })
        }
      />
      {kept === undefined && last && (
        <div className="mt-3">
          {traces.changed.length === 0 ? (
            <p className="text-ink-2">Nothing has changed since list {last.number} was kept.</p>
          ) : (
            <Notice>
              <b>Since list {last.number} was kept:</b>
              <ul>
                {traces.changed.map((one) => (
                  <li key={`${one.direction}${one.apiary}${one.label}`}>{changeSaid(one)}</li>
                ))}
              </ul>
            </Notice>
          )}
        </div>
      )}
    </div>
  );
}

function changeSaid({ direction, label, apiary, before, now }: Schemas["ListChanged"]): string {
  const list = direction === "backward" ? "where it may have come from" : "where it may have gone";
  if (before === null) return `${label}, ${apiary}: new among ${list} (${now ?? ""})`;
  if (now === null) return `${label}, ${apiary}: no more among ${list} (it was ${before})`;
  return `${label}, ${apiary}: ${before} before, ${now} now, among ${list}`;
}

function Diagram({ id, traces }: { id: string; traces: Traces }) {
  const { kept, contact } = useSearch({ from: "/in/cases/$id/traces" });
  const navigate = useNavigate();
  const [toggled, setToggled] = useState<ReadonlySet<string>>(new Set());
  const { lanes, links, first, paths } = drawn(traces, toggled);
  if (lanes.length <= 2) return null;
  const choose = (lane: string) => {
    if (lane.startsWith("apiary ")) {
      const group = lane.slice(7);
      const next = new Set(toggled);
      if (!next.delete(group)) next.add(group);
      setToggled(next);
      return;
    }
    const search = { kept, contact: lane === contact ? undefined : lane };
    void navigate({ to: "/cases/$id/traces", params: { id }, search, replace: true, resetScroll: false });
  };
  const of = [...traces.spread, ...traces.sources].find((one) => one.colony_id === contact);
  return (
    <section aria-labelledby="lines" className="mt-8">
      <SectionHeading
        id="lines"
        says="the shaded time is that in which the case may have been infectious; broad lines may have carried it">
        Through time
      </SectionHeading>
      <p className={clsx("mt-1 text-ink-2", !of && "hidden desk:block")}>
        {of
          ? `${of.label}, ${of.apiary}: ${plural(of.path.length, "step")}.`
          : "Choose a colony to see its way alone, an apiary to fold or open it."}
      </p>
      <div className="mt-3">
        <ContactLines
          lanes={lanes}
          links={links}
          first={first}
          last={traces.made_on}
          infectiousFrom={traces.window.infectious_from}
          chosen={contact ?? null}
          lit={(contact && paths.get(contact)) || new Set()}
          onChoose={choose}
        />
      </div>
    </section>
  );
}
