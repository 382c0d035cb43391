/** Change between counts: boards of a month together, and any two counts compared. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "@/client/types";
import { comparisonQuery } from "@/client/queries";
import { plural, shortDay } from "@/ui/dates";
import { Details } from "@/ui/details";
import { Notice } from "@/ui/page";
import { chance, oneDecimal, rate } from "@/ui/units";
import { doubling } from "@/wording/growth";
import { TREND, METHOD } from "@/wording/words";

/** Of what is compared; what falls after a treatment stands with its course. */
const SCALES: string[] = ["mites_per_100", "mites_per_day"];

type View = Schemas["ColonyView"];
type Growth = { rate_per_day: number; low_per_day: number; high_per_day: number };

const WHY_NOT: Record<NonNullable<Schemas["Comparison"]["why_not"]>, string> = {
  same_day: "Both are of one day.",
  scale: "They stand on different scales and cannot be compared.",
  no_rate: "One of them has no rate.",
  treated: "A treatment lies between them: that is no growth. Its course says what it did.",
  divided: "A split or a merger lies between them: that is no growth.",
};

/** "3.2 times as many in 28 days (1.4 to 8.1)". */
function times(growth: Growth, days: number): string {
  const over = (rate: number) => oneDecimal(Math.exp(rate * days));
  return (
    `${over(growth.rate_per_day)} times as many in ${days} days (${over(growth.low_per_day)} to ` +
    `${over(growth.high_per_day)})`
  );
}

export function ChangeBetweenCounts({ view }: { view: View }) {
  const counts = view.counts.filter(
    (one) => one.scale !== null && SCALES.includes(one.scale) && one.method !== "board_after_treatment",
  );
  const { boards } = view;
  if (counts.length < 2) return null;
  return (
    <section aria-labelledby="rise" className="mt-8">
      <h2 id="rise" className="border-b-2 border-ink pb-1 text-xl">
        Change between counts
      </h2>
      {boards && (
        <div className="mt-3">
          <p>
            {plural(boards.boards, "board")} of this month together: <strong>{rate(boards.fall_per_day)}</strong> a day
            ({rate(boards.low_per_day)} to {rate(boards.high_per_day)}).
          </p>
          {boards.differ && (
            <div className="mt-2">
              <Notice>
                These boards differ by more than chance: the fall is not steady, and the interval is too narrow.
              </Notice>
            </div>
          )}
        </div>
      )}
      <Details title="Compare two counts">
        <Compare key={counts[0]?.id} counts={counts} today={view.today} />
      </Details>
    </section>
  );
}

function Compare({ counts, today }: { counts: Schemas["Count"][]; today: string }) {
  const [later, setLater] = useState(counts[0]?.id ?? "");
  const [earlier, setEarlier] = useState(
    (counts.find((one) => one.id !== later && one.scale === counts[0]?.scale) ?? counts[1])?.id ?? "",
  );
  const found = useQuery({ ...comparisonQuery(earlier, later), enabled: earlier !== later });
  const said = (one: Schemas["Count"]) =>
    `${shortDay(one.taken_on, today)}, ${METHOD[one.method]}: ${rate(one.median ?? 0)} ` +
    `${one.scale === "mites_per_day" ? "a day" : "per 100"}`;
  const choice = (label: string, value: string, choose: (id: string) => void) => (
    <label className="block text-sm">
      {label}
      <select
        className="mt-1 block min-h-14 w-full border border-line-2 bg-sheet px-3 text-base desk:min-h-11"
        value={value}
        onChange={(event) => choose(event.target.value)}>
        {counts.map((one) => (
          <option key={one.id} value={one.id}>
            {said(one)}
          </option>
        ))}
      </select>
    </label>
  );
  const growth = found.data?.growth;
  return (
    <div className="mt-3">
      <div className="grid gap-3 desk:grid-cols-2">
        {choice("From", earlier, setEarlier)}
        {choice("to", later, setLater)}
      </div>
      <p className="mt-2 min-h-12" role="status">
        {earlier === later && "Choose two counts."}
        {growth && (
          <>
            <strong>{TREND[growth.words]}</strong>
            {doubling(growth)}: {times(growth, growth.days)}; {chance(growth.p_rose_cautious)} that it rose.
          </>
        )}
        {found.data?.why_not && WHY_NOT[found.data.why_not]}
        {found.isError && earlier !== later && "No connection: they cannot be compared now."}
      </p>
    </div>
  );
}
