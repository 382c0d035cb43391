/** What works here: the share killed by each option as it was verified, over apiaries and in each. */
import { useQuery } from "@tanstack/react-query";
import { useNavigate, useSearch } from "@tanstack/react-router";
import { catalogueQuery, whatWorksQuery } from "@/client/queries";
import type { Schemas, WhatWorksWanted } from "@/client/types";
import { TextLink } from "@/ui/link";
import { buttonClass } from "@/ui/button";
import { DateField } from "@/ui/date-field";
import { Details } from "@/ui/details";
import { longDay } from "@/ui/dates";
import { SelectField } from "@/ui/fields";
import { Loaded } from "@/ui/loaded";
import { Empty, Notice, Page, Title } from "@/ui/page";
import { SEASON } from "@/wording/words";
import { TreatmentDoors } from "./doors";

type Season = NonNullable<WhatWorksWanted["season"]>;

export function WhatWorks() {
  const wanted = useSearch({ from: "/in/what-works" });
  const navigate = useNavigate({ from: "/what-works" });
  const query = useQuery(whatWorksQuery(wanted));
  const set = (part: { [K in keyof WhatWorksWanted]?: WhatWorksWanted[K] | undefined }) =>
    void navigate({ search: (old) => ({ ...old, ...part }), replace: true });
  const seasons = Object.entries(SEASON) as [Season, string][];
  return (
    <Page>
      <TreatmentDoors />
      <Title>What works here</Title>
      <p className="mt-1 max-w-3xl text-ink-2">
        Courses that were checked by a count before and after. A bar is the 95 % interval of the mean apiary; few
        courses make a wide bar.
      </p>
      <section aria-label="Which courses" className="mt-4 grid max-w-xl gap-3 desk:grid-cols-2">
        <SelectField
          label="Season of treating"
          name="season"
          value={wanted.season ?? ""}
          options={[["", "all"] as const, ...seasons]}
          onChange={(season) => set({ season: season || undefined })}
        />
        <DateField
          label="Placed from"
          name="since"
          value={wanted.since ?? ""}
          onChange={(since) => set({ since: since || undefined })}
        />
      </section>
      <Loaded query={query} what="Putting the results together …">
        {(view) => <Results view={view} wanted={wanted} />}
      </Loaded>
    </Page>
  );
}

function Results({ view, wanted }: { view: Schemas["WhatWorks"]; wanted: WhatWorksWanted }) {
  const options = useQuery(catalogueQuery).data ?? [];
  const names = new Map(options.map((one) => [one.id, one.name]));
  if (view.options.length === 0)
    return (
      <div className="mt-6">
        <Empty title="No course was checked yet">
          A course is checked by a wash after it; its result stands here with its interval.
        </Empty>
      </div>
    );
  const query = new URLSearchParams(Object.entries(wanted).map(([name, value]) => [name, String(value)])).toString();
  return (
    <>
      <div className="mt-5 flex flex-wrap items-end justify-between gap-3">
        <p className="text-ink-2">Courses placed since {longDay(view.since)}. No keeper is named with a result.</p>
        <p>
          <TextLink to="/handling">What handling did against brood disease</TextLink>
        </p>
        <a className={buttonClass("plain")} href={`/api/v1/what-works.csv${query ? `?${query}` : ""}`} download>
          All figures (CSV)
        </a>
      </div>
      <ol className="mt-3 border-t-2 border-ink">
        {view.options.map((one) => (
          <OptionResult key={one.option_id} of={one} name={names.get(one.option_id) ?? one.option_id} view={view} />
        ))}
      </ol>
    </>
  );
}

type OptionProps = { of: Schemas["OptionEfficacy"]; name: string; view: Schemas["WhatWorks"] };

function OptionResult({ of, name, view }: OptionProps) {
  const outcomes = [
    [of.worked, "worked"],
    [of.partly, "in part"],
    [of.failed, "failed"],
    [of.cannot_tell, "not known"],
  ] as const;
  return (
    <li className="grid gap-x-8 gap-y-1 border-b border-line py-3 desk:grid-cols-[minmax(0,1fr)_minmax(0,1.3fr)]">
      <div>
        <h2 className="text-lg">{name}</h2>
        <p className="text-ink-2">
          {of.courses} {of.courses === 1 ? "course" : "courses"} in {of.apiaries}{" "}
          {of.apiaries === 1 ? "apiary" : "apiaries"}:{" "}
          {outcomes
            .filter(([number]) => number > 0)
            .map(([number, text]) => `${number} ${text}`)
            .join(", ")}
        </p>
      </div>
      <div>
        {of.pct === null || of.low_pct === null || of.high_pct === null ? (
          <p className="text-ink-2">No figure: too few mites before, or the counts are too far apart.</p>
        ) : (
          <Killed
            pct={of.tells ? of.pct : null}
            low={of.low_pct}
            high={of.high_pct}
            marks={of.by_apiary.map((one) => one.shrunk_pct)}
          />
        )}
        {of.by_apiary.length > 1 && <ByApiary of={of} view={view} />}
      </div>
      {of.resistance === "suspected" && (
        <div className="desk:col-span-2">
          <Notice tone="act">
            <strong>Resistance suspected</strong>: failed in several apiaries, and more often than it worked. Look at
            dose, temperature and timing first; then use another group and compare.
          </Notice>
        </div>
      )}
    </li>
  );
}

const clamp = (value: number) => Math.min(100, Math.max(0, value));
const whole = (value: number) => (value > 99.5 ? "over 99" : value <= 0 ? "none" : String(Math.round(value)));

type KilledProps = { pct: number | null; low: number; high: number; marks: number[] };

/** The share killed on a scale of 0 to 100 %: the mean apiary (null: it tells nothing) with its interval, each apiary a
 * tick below. */
function Killed({ pct, low, high, marks }: KilledProps) {
  const span = `${whole(low)} to ${whole(high)} %`;
  return (
    <div>
      {pct === null ? (
        <p>
          Too few, or too different, to tell: anything from <strong>{span}</strong> killed.
        </p>
      ) : (
        <p>
          <span className="figure text-2xl">{whole(pct)} %</span> killed, <strong>{span}</strong>
        </p>
      )}
      <svg
        viewBox="0 0 400 34"
        className="mt-1 block h-9 w-full"
        role="img"
        aria-label={pct === null ? span : `${whole(pct)} % killed, ${span}`}
        preserveAspectRatio="none">
        <path d="M0 14H400" stroke="var(--line-2)" vectorEffect="non-scaling-stroke" />
        {[0, 25, 50, 75, 100].map((tick) => (
          <path key={tick} d={`M${tick * 4} 10v8`} stroke="var(--line-2)" vectorEffect="non-scaling-stroke" />
        ))}
        <path
          d={`M${clamp(low) * 4} 14H${clamp(high) * 4}`}
          stroke={pct === null ? "var(--line-2)" : "var(--ink)"}
          strokeWidth="5"
        />
        {pct !== null && <rect x={clamp(pct) * 4 - 3} y="4" width="6" height="20" fill="var(--ink)" />}
        {marks.map((mark, at) => (
          <path
            key={at}
            d={`M${clamp(mark) * 4} 26v8`}
            stroke="var(--ink-2)"
            strokeWidth="2"
            vectorEffect="non-scaling-stroke"
          />
        ))}
      </svg>
      <p className="flex justify-between text-sm text-ink-2" aria-hidden="true">
        <span>0 %</span>
        <span>100 %</span>
      </p>
    </div>
  );
}

function ByApiary({ of, view }: Omit<OptionProps, "name">) {
  return (
    <Details title={`In each of ${of.by_apiary.length} apiaries`}>
      <table className="w-full text-left">
        <thead>
          <tr>
            <th scope="col">apiary</th>
            <th scope="col">courses</th>
            <th scope="col">its own</th>
            <th scope="col">with the others</th>
          </tr>
        </thead>
        <tbody>
          {of.by_apiary.map((one) => (
            <tr key={one.apiary_id} className="border-t border-line">
              <th scope="row" className="py-1 font-normal">
                <TextLink to="/apiaries/$id" params={{ id: one.apiary_id }}>
                  {view.apiaries[one.apiary_id]}
                </TextLink>
              </th>
              <td>{one.courses}</td>
              <td>{whole(one.own_pct)} %</td>
              <td>
                {whole(one.shrunk_pct)} %, {whole(one.low_pct)} to {whole(one.high_pct)} %
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="text-sm">Few counts of one apiary are drawn towards the others, by as much as they agree.</p>
    </Details>
  );
}
