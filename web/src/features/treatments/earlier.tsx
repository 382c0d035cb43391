/** Treatments that colonies had before anybody planned them here: entered for one or for all of an apiary in one go. */
import { useQuery } from "@tanstack/react-query";
import { useNavigate, useSearch } from "@tanstack/react-router";
import { useEffect, useRef, useState } from "react";
import { apiaryQuery, catalogueQuery } from "@/client/queries";
import type { Schemas } from "@/client/types";
import { useMay } from "@/features/session/use-session";
import { Breadcrumbs } from "@/ui/breadcrumbs";
import { Button } from "@/ui/button";
import { Checkbox } from "@/ui/checkbox";
import { TextLink } from "@/ui/link";
import { Loaded } from "@/ui/loaded";
import { Empty, Notice, Page, SectionHeading, Title } from "@/ui/page";
import { colonies } from "@/wording/words";
import { EarlierForm } from "./earlier-form";
import { KnownSince } from "./known-since";

export function EarlierTreatments() {
  const { apiary } = useSearch({ from: "/in/earlier" });
  const place = useQuery({ ...apiaryQuery(apiary ?? ""), enabled: apiary !== undefined });
  const catalogue = useQuery(catalogueQuery);
  if (apiary === undefined)
    return (
      <Page>
        <Title>Earlier treatments</Title>
        <div className="mt-6">
          <Empty title="Of which apiary?">
            Earlier treatments are entered for colonies of one apiary.{" "}
            <TextLink to="/apiaries">Go to the apiaries</TextLink>
          </Empty>
        </div>
      </Page>
    );
  return (
    <Loaded query={place} what="Fetching the colonies …">
      {(view) => (
        <Loaded query={catalogue} what="Fetching the catalogue …">
          {(options) => <Entry view={view} options={options} />}
        </Loaded>
      )}
    </Loaded>
  );
}

type EntryProps = { view: Schemas["ApiaryView"]; options: Schemas["OptionView"][] };

function Entry({ view, options }: EntryProps) {
  const mayRecord = useMay("record");
  const [saved, setSaved] = useState<Saved | null>(null);
  const chosen = useChosen(view);
  return (
    <Page>
      <Breadcrumbs path={[{ name: view.apiary.name, to: "/apiaries/$id", params: { id: view.apiary.id } }]} />
      <Title>Earlier treatments</Title>
      <p className="mt-1 max-w-2xl text-ink-2">
        What was given before it was planned here. Gaps, the yearly maximum, rotation and resistance are judged by it.
      </p>
      {!mayRecord ? (
        <div className="mt-4">
          <Notice>Your role reads, and records nothing.</Notice>
        </div>
      ) : (
        <div className="mt-4 grid items-start gap-x-12 gap-y-8 desk:grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)]">
          <div className="space-y-6">
            <Which view={view} chosen={chosen} />
            {saved && <WasSaved saved={saved} />}
            <EarlierForm
              key={saved?.id}
              view={view}
              options={options}
              colonyIds={chosen.ids}
              onSaved={(id, what, rows) => setSaved({ id, what, rows })}
            />
          </div>
          <section aria-labelledby="nothing-else">
            <SectionHeading id="nothing-else">Nothing else was given</SectionHeading>
            <KnownSince view={view} colonyIds={chosen.ids} />
          </section>
        </div>
      )}
    </Page>
  );
}

/** The colonies that it is entered for: in the address, so that a reload keeps them. */
function useChosen(view: Schemas["ApiaryView"]) {
  const { colonies: wanted } = useSearch({ from: "/in/earlier" });
  const navigate = useNavigate({ from: "/earlier" });
  const ids = view.colonies.filter((one) => wanted?.includes(one.id)).map((one) => one.id);
  const set = (next: string[]) => void navigate({ search: (old) => ({ ...old, colonies: next }), replace: true });
  return { ids, set };
}

type WhichProps = { view: Schemas["ApiaryView"]; chosen: ReturnType<typeof useChosen> };

function Which({ view, chosen }: WhichProps) {
  const living = view.colonies.filter((one) => one.is_living);
  const shown = [...living, ...view.colonies.filter((one) => !one.is_living && chosen.ids.includes(one.id))];
  const all = living.every((one) => chosen.ids.includes(one.id));
  const toggle = (id: string) =>
    chosen.set(chosen.ids.includes(id) ? chosen.ids.filter((one) => one !== id) : [...chosen.ids, id]);
  return (
    <fieldset>
      <legend className="font-semibold">
        Which colonies had it? {chosen.ids.length > 0 && <span>{colonies(chosen.ids.length)}</span>}
      </legend>
      <div className="mt-1 flex flex-wrap gap-x-5 border-y border-line">
        {shown.map((one) => (
          <Checkbox
            key={one.id}
            label={one.label}
            checked={chosen.ids.includes(one.id)}
            onChange={() => toggle(one.id)}
          />
        ))}
      </div>
      <Button className="mt-2" onClick={() => chosen.set(all ? [] : living.map((one) => one.id))}>
        {all ? "Select none" : `Select all ${living.length}`}
      </Button>
    </fieldset>
  );
}

type Saved = { id: string; what: string; rows: Schemas["EarlierRow"][] };

function WasSaved({ saved }: { saved: Saved }) {
  // The form above which it stands is empty again: whoever saved it from its foot sees what became of it.
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    box.current?.scrollIntoView({ block: "center" });
  }, [saved.id]);
  return (
    <div role="status" ref={box}>
      <Notice tone="course">
        Recorded: {saved.what}, of{" "}
        {saved.rows.map((row, index) => (
          <span key={row.colony_id}>
            {index > 0 && ", "}
            {row.course_id ? (
              <TextLink to="/courses/$id" params={{ id: row.course_id }}>
                {row.label}
              </TextLink>
            ) : (
              row.label
            )}
          </span>
        ))}
        . Was there another?
      </Notice>
    </div>
  );
}
