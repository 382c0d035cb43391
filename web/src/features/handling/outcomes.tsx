/** What became of the ways that were chosen across the association: how many got better, with intervals. */
import { useQuery } from "@tanstack/react-query";
import { handlingOutcomesQuery } from "@/client/handling-queries";
import type { Schemas } from "@/client/types";
import { percent } from "@/ui/figures";
import { Loaded } from "@/ui/loaded";
import { Empty, Page, SectionHeading, Title } from "@/ui/page";
import { oneDecimal } from "@/ui/units";
import { capital } from "@/wording/words";

export function HandlingOutcomes() {
  const query = useQuery(handlingOutcomesQuery);
  return (
    <Page>
      <Title>What handling did</Title>
      <p className="mt-1 max-w-prose text-ink-2">
        The ways that were chosen against brood disease, and what later looks found. Who chose what was not drawn by
        lot: a way that is kept for bad cases looks worse than it is.
      </p>
      <Loaded query={query} what="Comparing …">
        {(conditions) =>
          conditions.length === 0 ? (
            <div className="mt-6">
              <Empty title="Nothing was chosen yet">
                A visit that finds brood disease shows the ways side by side.
              </Empty>
            </div>
          ) : (
            conditions.map((one) => <OfCondition key={one.condition} compared={one} />)
          )
        }
      </Loaded>
    </Page>
  );
}

function OfCondition({ compared }: { compared: Schemas["ConditionCompared"] }) {
  const id = `of-${compared.condition}`;
  return (
    <section aria-labelledby={id} className="mt-6">
      <SectionHeading id={id}>{capital(compared.name)}</SectionHeading>
      <div className="overflow-x-auto" tabIndex={0} role="region" aria-label={`Table of ${compared.name}`}>
        <table aria-labelledby={id} className="mt-2 w-full min-w-160">
          <thead>
            <tr className="text-left text-sm text-ink-2">
              <th className="font-normal">Way</th>
              <th className="text-right font-normal">Chosen</th>
              <th className="text-right font-normal">Looked again</th>
              <th className="text-right font-normal">Gone</th>
              <th className="text-right font-normal">Less</th>
              <th className="text-right font-normal">Same</th>
              <th className="text-right font-normal">More</th>
              <th className="w-64 pl-6 font-normal">Gone or less, 90 % interval</th>
              <th className="text-right font-normal">Days to gone</th>
            </tr>
          </thead>
          <tbody>
            {compared.options.map(({ name, compared: one }) => (
              <tr key={one.option} className="border-t border-line">
                <th scope="row" className="py-2 text-left font-semibold">
                  {name}
                </th>
                <td className="figure text-right">{one.chosen}</td>
                <td className="figure text-right">{one.known}</td>
                {(["gone", "less", "same", "more"] as const).map((word) => (
                  <td key={word} className="figure text-right">
                    {one.outcomes[word]}
                  </td>
                ))}
                <td className="pl-6">
                  <Interval one={one} />
                </td>
                <td className="figure text-right">{one.days_to_gone === null ? "-" : oneDecimal(one.days_to_gone)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}

function Interval({ one }: { one: Schemas["Compared"] }) {
  if (one.better === null || one.low === null || one.high === null) return <>not known</>;
  const [low, high, at] = [one.low * 100, one.high * 100, one.better * 100];
  return (
    <span className="flex items-center gap-3">
      <span className="relative block h-4 w-28 shrink-0 border-x border-line-2" aria-hidden="true">
        <span
          className="absolute top-1/2 h-1 -translate-y-1/2 bg-ink-2"
          style={{ left: `${low}%`, width: `${high - low}%` }}
        />
        <span className="absolute top-0 h-4 w-0.5 bg-ink" style={{ left: `calc(${at}% - 1px)` }} />
      </span>
      <span className="whitespace-nowrap">
        {(one.outcomes.gone ?? 0) + (one.outcomes.less ?? 0)} of {one.known} ({percent(one.low)} to{" "}
        {one.high === 1 ? "100 %" : percent(one.high)})
      </span>
    </span>
  );
}
