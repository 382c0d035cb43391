/** The apiaries around a case, the nearest first, and what their inspection found. */
import { clsx } from "clsx";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { aroundQuery } from "@/client/case-queries";
import type { Schemas } from "@/client/types";
import { Button } from "@/ui/button";
import { shortDay } from "@/ui/dates";
import { TextLink } from "@/ui/link";
import { Loaded } from "@/ui/loaded";
import { SectionHeading } from "@/ui/page";
import { AroundForm, OUTCOME, type Target } from "./around-form";

type Around = Schemas["Around"];
type Inspected = Around["apiaries"][number];

export function Around({ id }: { id: string }) {
  const query = useQuery(aroundQuery(id));
  const [target, setTarget] = useState<Target | null>(null);
  return (
    <section aria-labelledby="around">
      <SectionHeading id="around" says="by straight line; the inspector's eyes only">
        Apiaries around
      </SectionHeading>
      <Loaded query={query} what="Measuring …">
        {(around) => (
          <>
            <Progress around={around} />
            {around.apiaries.length + around.unregistered.length > 0 && (
              <ul className="mt-1 border-t border-line">
                {around.apiaries.map((one) => (
                  <ApiaryLine
                    key={one.apiary.id}
                    one={one}
                    around={around}
                    onRecord={() => setTarget({ apiary: one.apiary.id, name: one.apiary.name })}
                  />
                ))}
                {around.unregistered.map((one) => (
                  <li key={one.place} className="border-b border-line py-2">
                    <b>{one.place}</b>, not registered
                    <Visits visits={one.visits} state={one.state} today={around.today} />
                  </li>
                ))}
              </ul>
            )}
            {around.is_open && (
              <div className="mt-2">
                <Button onClick={() => setTarget({ apiary: null, name: "" })}>One that is not registered</Button>
              </div>
            )}
            {target && <AroundForm caseId={id} target={target} today={around.today} onClose={() => setTarget(null)} />}
          </>
        )}
      </Loaded>
    </section>
  );
}

function Progress({ around }: { around: Around }) {
  const all = around.apiaries.length + around.unregistered.length;
  if (all === 0) return <p className="mt-2 text-ink-2">None within {around.outer_km} km.</p>;
  if (around.ended === 0 && !around.is_open) return null;
  return (
    <p className="mt-2">
      <b>
        {around.ended} of {all}
      </b>{" "}
      inspected or settled.
    </p>
  );
}

function ApiaryLine({ one, around, onRecord }: { one: Inspected; around: Around; onRecord: () => void }) {
  const { apiary } = one;
  const near = apiary.distance_m <= 1000 * around.inner_km;
  return (
    <li className="grid grid-cols-[minmax(0,1fr)_auto] gap-x-4 border-b border-line py-2">
      <span>
        <TextLink
          to="/apiaries/$id"
          params={{ id: apiary.id }}
          search={{}}
          className="inline-flex min-h-14 min-w-14 items-center desk:min-h-0">
          {apiary.name}
        </TextLink>
        <span className="block text-ink-2">
          {apiary.keeper}; {apiary.colonies} colonies;{" "}
          {apiary.last_examined ? `examined ${shortDay(apiary.last_examined, around.today)}` : "not examined"}
        </span>
      </span>
      <span className="text-right">
        {(apiary.distance_m / 1000).toFixed(1)} km
        {near && <span className="block text-sm">within {around.inner_km} km</span>}
      </span>
      <span className="col-span-2">
        <Visits visits={one.visits} state={one.state} today={around.today} />
        {around.is_open && (
          <button
            type="button"
            aria-label={`Record a visit to ${apiary.name}`}
            className="min-h-14 underline underline-offset-4 desk:min-h-8"
            onClick={onRecord}>
            Record a visit
          </button>
        )}
      </span>
    </li>
  );
}

function Visits({ visits, state, today }: { visits: Inspected["visits"]; state: Inspected["state"]; today: string }) {
  if (visits.length === 0) return null;
  return (
    <span className="block">
      <b className={clsx((state === "suspect" || state === "to_see") && "text-act")}>
        {state === "to_see" ? "to be seen again" : OUTCOME[state]}
      </b>
      {visits.map((one) => (
        <span key={one.id} className="block text-ink-2">
          {shortDay(one.visited_on, today)}: {OUTCOME[one.outcome]}
          {one.letter_sent && ", a letter left"}
          {one.note && `; ${one.note}`} ({one.by_name})
        </span>
      ))}
    </span>
  );
}
