/** Winter losses of the association: of what went in, what was lost, with intervals, against the winters before. */
import { useQuery } from "@tanstack/react-query";
import { wintersQuery } from "@/client/deadout-queries";
import { clsx } from "clsx";
import type { ReactNode } from "react";
import type { Schemas } from "@/client/types";
import { Breadcrumbs } from "@/ui/breadcrumbs";
import { longDay, shortDay } from "@/ui/dates";
import { percent } from "@/ui/figures";
import { TextLink } from "@/ui/link";
import { Loaded } from "@/ui/loaded";
import { Empty, Page, SectionHeading, Title } from "@/ui/page";
import { capital, SIZE_GOING_IN, TREATED_IN_TIME } from "@/wording/words";

type Winter = Schemas["Winter"];
type Group = Schemas["LossGroup"];

export function Winters() {
  const query = useQuery(wintersQuery);
  return (
    <Page>
      <Breadcrumbs path={[{ name: "Dead colonies", to: "/deadouts" }]} />
      <Title>Winter losses</Title>
      <p className="mt-1 max-w-prose text-ink-2">
        Of the colonies that lived when a winter began, those that died or disappeared by its end; merged ones are left
        out. Colonies of one apiary fare alike, so the intervals are wider than their number alone would make them.{" "}
        <TextLink to="/methods/$name" params={{ name: "winter-losses" }}>
          How it is reckoned
        </TextLink>
      </p>
      <Loaded query={query} what="Counting …">
        {({ winters, names, today }) =>
          winters.length === 0 ? (
            <div className="mt-6">
              <Empty title="No winter is on record yet">It is counted from the colonies that lived on 1 October.</Empty>
            </div>
          ) : (
            <>
              <Against winters={winters} />
              {winters.map((one) => (
                <OfWinter key={one.since} winter={one} names={names} today={today} />
              ))}
              <p className="mt-6">
                <a className="inline-block py-1 underline underline-offset-4" href="/api/v1/winters.csv" download>
                  These figures as a table (CSV)
                </a>
              </p>
            </>
          )
        }
      </Loaded>
    </Page>
  );
}

const named = (winter: Winter) =>
  `${winter.since.slice(0, 4)}/${String(Number(winter.since.slice(0, 4)) + 1).slice(2)}`;

/** One line a winter, so that this one stands against those before. */
function Against({ winters }: { winters: Winter[] }) {
  return (
    <section aria-labelledby="against" className="mt-6">
      <SectionHeading id="against">Winter by winter</SectionHeading>
      <Groups
        label="Winters"
        groups={winters.map((one) => ({ ...one.losses.whole, key: named(one) }))}
        name={(key) => key}
        first="Winter"
      />
    </section>
  );
}

type Names = Schemas["Winters"]["names"];

function OfWinter({ winter, names, today }: { winter: Winter; names: Names; today: string }) {
  const { losses } = winter;
  const id = `winter-${winter.since}`;
  return (
    <section aria-labelledby={id} className="mt-8">
      <SectionHeading
        id={id}
        says={`${longDay(winter.since)} to ${longDay(winter.until)}${winter.is_over ? "" : ", not over yet"}`}>
        Winter {named(winter)}
      </SectionHeading>
      <p className="mt-2">
        <strong>
          {losses.whole.lost} of {losses.whole.of}
        </strong>{" "}
        colonies lost
        {losses.whole.clustering > 1.05 &&
          `; losses lay together in apiaries (${losses.whole.clustering.toFixed(1)} times more than by chance)`}
        .{winter.merged > 0 && ` ${winter.merged} more were merged and are left out.`}
      </p>
      <div className="mt-3 grid gap-x-10 gap-y-6 desk:grid-cols-2">
        <Part title="By treatment" id={`${id}-treated`}>
          <Groups label="By treatment" groups={losses.by_treatment} name={(key) => TREATED_IN_TIME[key] ?? key} />
          {winter.winter_bees && (
            <p className="mt-1 text-sm text-ink-2">Winter bees begun {shortDay(winter.winter_bees, today)}.</p>
          )}
        </Part>
        <Part title="By size going in" id={`${id}-size`}>
          <Groups label="By size" groups={losses.by_size} name={(key) => SIZE_GOING_IN[key] ?? key} />
        </Part>
        {losses.whole.lost > 0 && (
          <Part title="By cause" id={`${id}-cause`}>
            <Causes losses={losses} names={names} />
          </Part>
        )}
        {losses.whole.lost > 0 && (
          <Part title="By apiary" id={`${id}-apiary`}>
            <Groups
              label="By apiary"
              groups={losses.by_apiary.filter((one) => one.lost > 0)}
              name={(key) => key}
              first="Apiary that lost"
            />
          </Part>
        )}
      </div>
    </section>
  );
}

function Part({ title, id, children }: { title: string; id: string; children: ReactNode }) {
  return (
    <div>
      <h3 id={id} className="text-lg">
        {title}
      </h3>
      {children}
    </div>
  );
}

function Causes({ losses, names }: { losses: Schemas["Losses"]; names: Names }) {
  if (losses.examined === 0)
    return <p className="text-ink-2">None of the dead was examined to an end: nobody knows of what.</p>;
  return (
    <>
      <ul>
        {losses.by_cause.map((one) => (
          <li
            key={one.cause}
            className={clsx(
              "grid grid-cols-[minmax(0,1fr)_2rem_15rem] items-center gap-x-3",
              "border-t border-line py-1",
            )}>
            <span>{capital(names[one.cause] ?? one.cause)}</span>
            <span className="figure text-right">{one.lost}</span>
            <Interval share={one.share} low={one.low} high={one.high} />
          </li>
        ))}
      </ul>
      <p className="mt-1 text-sm text-ink-2">
        {losses.examined} of {losses.whole.lost} were examined with an answer. {losses.avoidable} of them had something
        on record that a timely act would have met
        {losses.avoidable_low !== null &&
          losses.avoidable_high !== null &&
          ` (${percent(losses.avoidable_low)} to ${percent(losses.avoidable_high)})`}
        .
      </p>
    </>
  );
}

type GroupsProps = { label: string; groups: Group[]; name: (key: string) => string; first?: string };

function Groups({ label, groups, name, first = "" }: GroupsProps) {
  return (
    <table className="w-full">
      <caption className="sr-only">{label}</caption>
      <thead>
        <tr className="text-left text-sm text-ink-2">
          <th className="font-normal">{first || <span className="sr-only">Group</span>}</th>
          <th className="text-right font-normal">went in</th>
          <th className="text-right font-normal">lost</th>
          <th className="w-1/2 pl-4 font-normal">share, 95 % interval</th>
        </tr>
      </thead>
      <tbody>
        {groups.map((one) => (
          <tr key={one.key} className="border-t border-line">
            <th scope="row" className="py-1 pr-2 text-left font-semibold">
              {capital(name(one.key))}
            </th>
            <td className="figure text-right">{one.of}</td>
            <td className="figure text-right">{one.lost}</td>
            <td className="pl-4">
              {one.share !== null && one.low !== null && one.high !== null && (
                <Interval share={one.share} low={one.low} high={one.high} />
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** A share that may be none or all. */
const exact = (share: number): string => (share === 0 ? "0 %" : share === 1 ? "100 %" : percent(share));

function Interval({ share, low, high }: { share: number; low: number; high: number }) {
  return (
    <span className="flex items-center gap-2">
      <span className="relative block h-4 w-20 shrink-0 border-x border-line-2 desk:w-28" aria-hidden="true">
        <span
          className="absolute top-1/2 h-1 -translate-y-1/2 bg-ink-2"
          style={{ left: `${100 * low}%`, width: `${100 * (high - low)}%` }}
        />
        <span className="absolute top-0 h-4 w-0.5 bg-ink" style={{ left: `calc(${100 * share}% - 1px)` }} />
      </span>
      <span className="text-sm">
        {exact(share)} ({exact(low)} to {exact(high)})
      </span>
    </span>
  );
}
