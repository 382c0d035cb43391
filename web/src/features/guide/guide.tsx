/** A new association is led through its beginning, with what is left to do, until it is done. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { clsx } from "clsx";
import type { ReactNode } from "react";
import { sayFits } from "@/client/commands/guide";
import { guideQuery } from "@/client/queries";
import type { Schemas } from "@/client/types";
import { Term } from "@/features/help/term";
import { useMay } from "@/features/session/use-session";
import { Button } from "@/ui/button";
import { ErrorText } from "@/ui/field";
import { LinkButton } from "@/ui/link";

type Step = Schemas["GuideStep"];

const TEXT: Record<Step["step"], { name: string; says: ReactNode; act: ReactNode; fits: string }> = {
  season: {
    name: "Place and season",
    says: (
      <>
        When bees build up, peak and go dormant at your place, and when <Term id="winter_bees">winter bees</Term> are
        reared. Levels and dates follow it.
      </>
    ),
    act: (
      <LinkButton to="/association" search={{}} hash="calendar">
        Set the year
      </LinkButton>
    ),
    fits: "The dates fit",
  },
  scoop: {
    name: "Your scoop",
    says: "How many bees your scoop holds: count a few scoops once. Until then about 300 in 120 ml are taken.",
    act: (
      <LinkButton to="/association" search={{}} hash="scoops">
        Enter counted scoops
      </LinkButton>
    ),
    fits: "The usual scoop fits",
  },
  people: {
    name: "People",
    says: "Inspectors, mentors, keepers: each signs in by a link that you send.",
    act: (
      <LinkButton to="/association" search={{ view: "people" }}>
        Invite somebody
      </LinkButton>
    ),
    fits: "I keep it alone",
  },
  apiary: {
    name: "The first apiary",
    says: "Its keeper, and its place: tapped on the map, typed, or where you stand; many at once from a table.",
    act: (
      <LinkButton to="/apiaries" search={{}}>
        Add an apiary
      </LinkButton>
    ),
    fits: "",
  },
  colonies: {
    name: "Its colonies",
    says: "Each with the label on its hive. Then count: everything else follows from the first wash.",
    act: (
      <LinkButton to="/apiaries" search={{}}>
        Add colonies
      </LinkButton>
    ),
    fits: "",
  },
};

export function Guide() {
  const client = useQueryClient();
  const guide = useQuery({ ...guideQuery, enabled: useMay("keep_members") });
  const fits = useMutation({
    mutationFn: sayFits,
    onSuccess: (next) => client.setQueryData(guideQuery.queryKey, next),
  });
  const steps = guide.data?.steps ?? [];
  if (steps.length === 0) return null;
  return (
    <section aria-labelledby="guide" className="mt-4 border-4 border-ink bg-sheet p-4 desk:p-5">
      <h2 id="guide" className="text-2xl">
        To begin: {steps.filter((one) => one.done).length} of {steps.length} done
      </h2>
      <ol className="mt-2">
        {steps.map((one, index) => (
          <li
            key={one.step}
            className={clsx(
              "grid grid-cols-[2rem_minmax(0,1fr)] gap-x-3 border-t border-line py-2.5",
              "desk:grid-cols-[2rem_12rem_minmax(0,1fr)]",
            )}>
            <span className="figure text-xl" aria-hidden="true">
              {one.done ? "✓" : index + 1}
            </span>
            <h3 className="font-sans text-base font-bold">
              {TEXT[one.step].name}
              {one.done && <span className="font-normal text-ink-2">: done</span>}
            </h3>
            {!one.done && (
              <div className="col-start-2 desk:col-start-3 desk:row-start-1">
                <p className="max-w-prose text-ink-2">{TEXT[one.step].says}</p>
                <div className="mt-1.5 flex flex-wrap gap-2">
                  {TEXT[one.step].act}
                  {one.may_fit && <FitsButton step={one.step} pending={fits.isPending} onFits={fits.mutate} />}
                </div>
              </div>
            )}
          </li>
        ))}
      </ol>
      <ErrorText error={fits.error} />
    </section>
  );
}

type FitsProps = { step: Step["step"]; pending: boolean; onFits: (step: "season" | "scoop" | "people") => void };

function FitsButton({ step, pending, onFits }: FitsProps) {
  if (step === "apiary" || step === "colonies") return null;
  return (
    <Button variant="quiet" disabled={pending} onClick={() => onFits(step)}>
      {TEXT[step].fits}
    </Button>
  );
}
