/** What a dead hive's findings fit: the chain, what must be done, each cause with its findings, what would tell. */
import { clsx } from "clsx";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { DeadOutView } from "@/client/commands/deadouts";
import { deadReadingQuery } from "@/client/deadout-queries";
import type { Schemas } from "@/client/types";
import { FitSummary, FitTerms, LeftOut } from "@/ui/fit-terms";
import { percent } from "@/ui/figures";
import { TextLink } from "@/ui/link";
import { Notice, SectionHeading } from "@/ui/page";
import { capital } from "@/wording/words";

type Reading = Schemas["DeadReading"];

export function DeadReading({ view }: { view: DeadOutView }) {
  const [without, setWithout] = useState<string[]>([]);
  const asked = useQuery({ ...deadReadingQuery(view.id, without, view.reading), enabled: without.length > 0 });
  const reading = without.length > 0 && asked.data ? asked.data : view.reading;
  const names = without.map(
    (sign) => view.reading.fits.flatMap((fit) => fit.terms).find((term) => term.sign === sign)?.name ?? sign,
  );
  return (
    <section aria-labelledby="why">
      <SectionHeading id="why" says="an aid; what fits, not what happened">
        What it died of
      </SectionHeading>
      <LeftOut names={names} onAll={() => setWithout([])} />
      <div className="mt-3 space-y-4">
        <Headline reading={reading} />
        {reading.orders.length > 0 && <DeadOrders reading={reading} />}
        <ul aria-label="Causes" className="border-t border-line">
          {reading.fits.map((fit) => (
            <Fit
              key={fit.id}
              fit={fit}
              settled={reading.is_settled}
              onStrike={(sign) => setWithout((old) => [...old.filter((one) => one !== sign), sign])}
            />
          ))}
        </ul>
        <p className="text-sm text-ink-2">
          None of these: {percent(reading.undetermined)}. Each figure is the chance that it had a part: they do not add
          up. Estimates of practitioners, not measured in hives.{" "}
          <TextLink to="/methods/$name" params={{ name: "dead-outs" }}>
            How it is reckoned
          </TextLink>
        </p>
        {reading.unexplained.length > 0 && <p>Not explained by it: {reading.unexplained.join(", ")}.</p>}
        <NextLooks reading={reading} />
      </div>
    </section>
  );
}

/** The chain in one sentence; where nothing settles it, that it cannot be told yet. */
export function Headline({ reading }: { reading: Reading }) {
  if (!reading.is_settled)
    return (
      <p className="text-lg font-bold leading-snug">
        It cannot be told yet.{" "}
        <span className="font-normal text-ink-2">
          Nothing that was found settles it; the figures are what is usual at this season.
        </span>
      </p>
    );
  return (
    <div>
      <ol className="flex flex-wrap items-center gap-x-2 text-lg font-bold leading-snug" aria-label="Chain of causes">
        {reading.chain.map((name, at) => (
          <li key={name} className="flex items-center gap-2">
            {at > 0 && <span aria-hidden="true">→</span>}
            {at === 0 ? capital(name) : name}
          </li>
        ))}
      </ol>
      {reading.after.length > 0 && <p>After or with it: {reading.after.join(", ")}.</p>}
    </div>
  );
}

export function DeadOrders({ reading }: { reading: Reading }) {
  const stops = reading.suspects_foulbrood || reading.raises_case;
  return (
    <Notice tone={stops ? "act" : "watch"}>
      <ul className="space-y-0.5">
        {reading.orders.map((order) => (
          <li key={order} className={clsx(stops && "font-semibold")}>
            {order}
          </li>
        ))}
      </ul>
      <p className="mt-1 text-sm text-ink-2">
        Because: {reading.rules.map((one) => one.says.replace(/\.$/, "")).join("; ")}.
      </p>
    </Notice>
  );
}

function Fit({
  fit,
  settled,
  onStrike,
}: {
  fit: Schemas["CauseFit"];
  settled: boolean;
  onStrike: (sign: string) => void;
}) {
  const pinned = fit.pinned_by.length > 0;
  return (
    <li className="border-b border-line">
      <details>
        <FitSummary
          name={fit.name}
          chance={fit.chance}
          pinned={pinned}
          hatched={!fit.has_own}
          {...(fit.has_own ? {} : { note: settled ? "no finding of its own" : "usual share" })}
        />
        <div className="space-y-3 pb-3 pt-1">
          <dl className="grid gap-x-4 gap-y-1 desk:grid-cols-[7rem_1fr]">
            <dt className="font-semibold">Marks</dt>
            <dd>{fit.tells}</dd>
            <dt className="font-semibold">Taken for it</dt>
            <dd>{capital(fit.like)}.</dd>
            <dt className="font-semibold">Settled by</dt>
            <dd>{capital(fit.settles)}.</dd>
          </dl>
          {fit.terms.length > 0 && <FitTerms terms={fit.terms} onStrike={onStrike} />}
        </div>
      </details>
    </li>
  );
}

/** What would tell most for its minutes. */
export function NextLooks({ reading }: { reading: Reading }) {
  if (reading.tests.length === 0) return null;
  return (
    <div>
      <h3 className="font-semibold">What would tell</h3>
      <ol className="mt-1">
        {reading.tests.map((test) => (
          <li key={test.id} className="grid grid-cols-[minmax(0,1fr)_auto] gap-x-4 border-t border-line py-1.5">
            <span className={clsx(test.forced_by && "font-semibold")}>{test.how}.</span>
            <span className="whitespace-nowrap text-ink-2">
              {test.forced_by ? "first" : test.tells}, {test.minutes} min
            </span>
          </li>
        ))}
      </ol>
    </div>
  );
}
