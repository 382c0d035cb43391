/** The round of an apiary: which colony is next, suspects last, each with its own clean tool. */
import { useQuery } from "@tanstack/react-query";
import { Link } from "@tanstack/react-router";
import { roundQuery } from "@/client/queries";
import { Button } from "@/ui/button";
import { Notice } from "@/ui/page";
import { nextStop, suspect } from "./stops";
import { useOpenVisit } from "./use-open-visit";

/** What to mind with the tools at this colony. */
export function ToolReminder({ apiaryId, colonyId }: { apiaryId: string; colonyId: string }) {
  const round = useQuery(roundQuery(apiaryId));
  const stop = round.data?.find((one) => one.id === colonyId);
  if (!stop || !suspect(stop)) return null;
  return (
    <Notice tone="act">
      <strong>A suspect colony: last in the round.</strong> A tool and gloves of its own; flame or change them before
      the next hive. Nothing goes from here into another hive.
    </Notice>
  );
}

type NextStopProps = { apiaryId: string; colonyId: string; today: string; quick: boolean };

/** After a visit is closed: the colony to open next, without going back to a list. */
export function NextStop({ apiaryId, colonyId, today, quick }: NextStopProps) {
  const round = useQuery(roundQuery(apiaryId));
  const opening = useOpenVisit();
  const stops = round.data ?? [];
  const here = stops.findIndex((one) => one.id === colonyId);
  const left = [...stops.slice(here + 1), ...stops.slice(0, Math.max(0, here))].filter(
    (one) => one.last_visit !== today || one.draft !== null,
  );
  const next = left[0];
  const done = stops.length - left.length;
  if (round.isPending) return null;
  return (
    <section aria-label="The round" className="border-4 border-ink bg-sheet p-4">
      <p className="text-ink-2">
        {done} of {stops.length} opened today.
      </p>
      {next ? (
        <>
          <div className="mt-2 flex flex-wrap gap-2">
            {[quick, !quick].map((short, at) => (
              <Button
                key={String(short)}
                variant={at === 0 ? "main" : "quiet"}
                disabled={opening.isPending}
                onClick={() => opening.mutate({ colonyId: next.id, quick: short })}>
                {at === 0 && "Next: "}
                {short ? `quick visit to ${next.label}` : `open ${next.label}`}
              </Button>
            ))}
          </div>
          <p className="mt-2">
            {suspect(next) ? (
              <strong className="text-act">
                {next.label} is a suspect: a clean tool of its own, and nothing after it with the same.
              </strong>
            ) : (
              "Clean the tool if dead brood was seen."
            )}{" "}
            {left.length > 1 && (
              <span className="text-ink-2">
                Then{" "}
                {left
                  .slice(1, 7)
                  .map((one) => one.label)
                  .join(", ")}
                .
              </span>
            )}
          </p>
        </>
      ) : (
        <p className="mt-1 font-semibold">
          The round is done.{" "}
          <Link to="/apiaries/$id" params={{ id: apiaryId }} className="underline underline-offset-4">
            Back to the apiary
          </Link>
        </p>
      )}
      {opening.error && (
        <p role="alert" className="mt-2 font-semibold text-act">
          {opening.error.message}
        </p>
      )}
    </section>
  );
}

/** Begins the round of an apiary, or goes on with it. */
export function StartRound({ apiaryId, today, className }: { apiaryId: string; today: string; className: string }) {
  const round = useQuery(roundQuery(apiaryId));
  const opening = useOpenVisit();
  const stops = round.data ?? [];
  const next = nextStop(stops, today);
  if (!next) return null;
  const begun = stops.some((one) => one.draft !== null || one.last_visit === today);
  return (
    <>
      <Button className={className} disabled={opening.isPending} onClick={() => opening.mutate({ colonyId: next.id })}>
        {begun ? `Go on with the round: ${next.label}` : "Start the round"}
      </Button>
      {opening.error && (
        <p role="alert" className="w-full font-semibold text-act">
          {opening.error.message}
        </p>
      )}
    </>
  );
}
