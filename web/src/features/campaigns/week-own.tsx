/** What a keeper sees of a count week: the own apiaries, and where they stand among all. */
import { Link } from "@tanstack/react-router";
import type { Schemas } from "@/client/types";
import { buttonClass } from "@/ui/button";
import { Empty } from "@/ui/page";
import { rate } from "@/ui/units";
import { QUARTER, colonies } from "@/wording/words";

export function WeekOwn({ view }: { view: Schemas["CountWeekView"] }) {
  if (view.own.length === 0)
    return (
      <div className="mt-8">
        <Empty title="No apiary of yours takes part">You are not invited to this week, or keep no apiary here.</Empty>
      </div>
    );
  return (
    <ul className="mt-6 border-t border-line">
      {view.own.map((one) => (
        <li
          key={one.apiary_id}
          className="flex flex-wrap items-center justify-between gap-x-6 gap-y-2 border-b border-line py-3">
          <div>
            <Link
              to="/apiaries/$id"
              params={{ id: one.apiary_id }}
              className="font-head text-xl font-semibold hover:underline">
              {one.name}
            </Link>
            <p className="text-ink-2">
              {one.counted} of {colonies(one.colonies)} counted
            </p>
            {one.near_urgent && (
              <p className="max-w-prose">
                <strong>Raised risk of mites coming in.</strong> A neighbourhood within two cells of the map is urgent:
                look at entrances, stop robbing, and count again in three weeks.
              </p>
            )}
          </div>
          <p>
            <span className="figure text-3xl">{one.rate === null ? "–" : rate(one.rate)}</span> mites per 100 bees
            <span className="block text-sm text-ink-2">
              {one.quarter === null
                ? one.counted < 3
                  ? "a rank needs three colonies"
                  : "too few keepers have counted for a rank"
                : `${QUARTER[one.quarter]} of ${one.of} apiaries`}
            </span>
          </p>
          <Link
            to="/bench"
            search={{ apiary: one.apiary_id }}
            className={buttonClass(one.counted === 0 ? "main" : "plain")}>
            {one.counted === 0 ? "Count it" : "Count more"}
          </Link>
        </li>
      ))}
    </ul>
  );
}
