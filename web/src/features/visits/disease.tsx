/** What the signs fit: rules first, then conditions by their chance, what would tell, and when to look again. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { diseaseQuery } from "@/client/queries";
import type { Schemas } from "@/client/types";
import { StandstillBanner } from "@/features/cases/standstill-banner";
import { HandlingDialog } from "@/features/handling/handling-dialog";
import { isHandled } from "@/features/handling/words";
import { shortDay } from "@/ui/dates";
import { LeftOut } from "@/ui/fit-terms";
import { TextLink } from "@/ui/link";
import { Notice, SectionHeading } from "@/ui/page";
import { DiseaseFit } from "./disease-fit";
import { HowFirm } from "./how-firm";
import { grouped, percent, rounded } from "@/ui/figures";
import type { View } from "./visit-queue";

type Reading = Schemas["DiseaseReading"];

export function Disease({ view }: { view: View }) {
  const { disease, not_seen: notSeen } = view.assessment;
  if (!disease && notSeen.length === 0) return null;
  return (
    <div className="space-y-4">
      {disease && <WhatFits view={view} whole={disease} />}
      {disease?.raises_case && <CaseOf view={view} />}
      {notSeen.length > 0 && <NotSeen notSeen={notSeen} />}
    </div>
  );
}

/** What follows on a suspicion: a case, from the moment at which the visit is closed. */
function CaseOf({ view }: { view: View }) {
  if (view.visit.state === "closed")
    return <StandstillBanner apiaryId={view.place.apiary_id} colonyId={view.visit.colony_id} />;
  return (
    <Notice tone="act">
      Closing this visit opens a case, and the apiary stands still from then on. It is reported within the hours of the
      law.
    </Notice>
  );
}

function WhatFits({ view, whole }: { view: View; whole: Reading }) {
  const [without, setWithout] = useState<string[]>([]);
  const [ways, setWays] = useState<Fit | null>(null);
  const asked = useQuery({ ...diseaseQuery(view.visit.id, without, whole), enabled: without.length > 0 });
  const struck = without.length > 0 && asked.isSuccess;
  const reading = struck ? asked.data : whole;
  const names = without.map(
    (sign) => whole.fits.flatMap((fit) => fit.terms).find((term) => term.sign === sign)?.name ?? sign,
  );
  return (
    <section aria-labelledby="what-fits">
      <SectionHeading id="what-fits" says="an aid; the laboratory and the authority decide">
        What the signs fit
      </SectionHeading>
      <LeftOut names={names} onAll={() => setWithout([])} />
      {reading ? (
        <ReadingOf
          reading={reading}
          today={view.today}
          visitId={view.visit.id}
          struck={struck}
          onWays={setWays}
          onStrike={(sign) => setWithout((old) => [...old.filter((one) => one !== sign), sign])}
        />
      ) : (
        <p className="mt-2 text-ink-2">Without these nothing speaks of disease.</p>
      )}
      {ways && isHandled(ways.id) && (
        <HandlingDialog
          visitId={view.visit.id}
          isClosed={view.visit.state === "closed"}
          condition={ways.id}
          name={ways.name}
          today={view.today}
          onClose={() => setWays(null)}
        />
      )}
    </section>
  );
}

type Fit = Reading["fits"][number];
type ReadingProps = {
  reading: Reading;
  today: string;
  visitId: string;
  struck: boolean;
  onStrike: (sign: string) => void;
  onWays: (fit: Fit) => void;
};

function ReadingOf({ reading, today, visitId, struck, onStrike, onWays }: ReadingProps) {
  const [first, second] = reading.fits;
  return (
    <div className="mt-3 space-y-4">
      {reading.orders.length > 0 && <Orders reading={reading} />}
      {reading.sick && (
        <p>
          At least <strong>{grouped(reading.sick.cells)} sick cells</strong> among about{" "}
          {grouped(rounded(reading.sick.of_brood))} of brood on the combs looked at: {percent(reading.sick_share ?? 0)}.
        </p>
      )}
      <ul aria-label="Conditions">
        {reading.fits.map((fit) => (
          <DiseaseFit
            key={fit.id}
            fit={fit}
            leads={fit === first}
            onStrike={onStrike}
            onWays={fit.schools_differ ? () => onWays(fit) : undefined}
          />
        ))}
      </ul>
      <p className="text-sm text-ink-2">
        None of these: {percent(reading.healthy)}. Each figure is the chance that it is there, alone or with others:
        they do not add up. Estimates of practitioners, not measured in hives.{" "}
        <TextLink to="/methods/$name" params={{ name: "brood-diagnosis" }}>
          How it is reckoned
        </TextLink>
      </p>
      {reading.tie && first && second && (
        <Notice>
          <strong>
            {first.name} and {second.name} cannot be distinguished
          </strong>{" "}
          by what was found so far.
        </Notice>
      )}
      {!struck && reading.fits.length > 0 && <HowFirm visitId={visitId} />}
      {reading.unexplained.length > 0 && <p>Not explained by it: {reading.unexplained.join(", ")}.</p>}
      {reading.tests.length > 0 && <Tests tests={reading.tests} />}
      {reading.recheck && (
        <p>
          Look again <strong>{shortDay(reading.recheck.on, today)}</strong>
          {reading.recheck.latest !== reading.recheck.on && ` to ${shortDay(reading.recheck.latest, today)}`}
          {reading.recheck.name ? `, for ${reading.recheck.name}.` : ": this is not settled."}
        </p>
      )}
    </div>
  );
}

function Orders({ reading }: { reading: Reading }) {
  const [first, ...others] = reading.orders;
  return (
    <Notice tone="act">
      <strong className="text-act">{first}</strong>
      {others.length > 0 && (
        <ul className="mt-1 list-disc pl-5">
          {others.map((one) => (
            <li key={one}>{one}</li>
          ))}
        </ul>
      )}
      <span className="mt-1 block text-sm text-ink-2">
        {reading.rules.map((one) => `${one.says.replace(/\.$/, "")} (${one.id}).`).join(" ")}
      </span>
    </Notice>
  );
}

const TELLS: Record<string, string> = { much: "tells much", some: "tells something", little: "tells little" };

function Tests({ tests }: { tests: Reading["tests"] }) {
  return (
    <section aria-labelledby="would-tell">
      <h3 id="would-tell" className="text-lg">
        What would tell
      </h3>
      <ol className="mt-1">
        {tests.map((one) => (
          <li key={one.id} className="flex items-baseline justify-between gap-4 border-b border-line py-1.5">
            <span>
              {one.how}
              {one.forced_by && <strong className="text-act"> first</strong>}
            </span>
            <span className="shrink-0 text-sm text-ink-2">
              {one.minutes < 30 ? `${one.minutes} min, ` : ""}
              {TELLS[one.tells]}
            </span>
          </li>
        ))}
      </ol>
    </section>
  );
}

const EFFORT = { glance: "with bees on the combs", standard: "", thorough: "" } as const;

function NotSeen({ notSeen }: { notSeen: Schemas["NotSeen"][] }) {
  const combs = notSeen.filter((one) => one.combs_read !== null);
  const bees = notSeen.filter((one) => one.bees !== null);
  const [first] = combs;
  return (
    <section aria-labelledby="not-seen">
      <h3 id="not-seen" className="text-lg">
        Not seen at this examination
      </h3>
      {first && (
        <p>
          <strong>{combs.map((one) => one.name).join(", ")}</strong>: on {first.combs_read}
          {first.brood_combs !== null && ` of ${first.brood_combs}`} brood combs
          {first.effort === "thorough" && ", bees shaken off"}
          {EFFORT[first.effort] && `, ${EFFORT[first.effort]}`}.
        </p>
      )}
      {bees[0] && (
        <p>
          <strong>{bees.map((one) => one.name).join(", ")}</strong>: among {bees[0].bees} bees.
        </p>
      )}
      <p className="text-sm text-ink-2">That is no proof that it is not there.</p>
    </section>
  );
}
