/** One condition that the signs may fit: its chance, and opened its marks, what is done, each finding as a bar. */
import type { Schemas } from "@/client/types";
import { Button } from "@/ui/button";
import { FitSummary, FitTerms } from "@/ui/fit-terms";

type Props = {
  fit: Schemas["Fit"];
  leads: boolean;
  onStrike: (sign: string) => void;
  /** Where schools differ: shows the ways to handle it. */
  onWays?: (() => void) | undefined;
};

/** `leads`: it stands first, and what is done now is said without opening it. */
export function DiseaseFit({ fit, leads, onStrike, onWays }: Props) {
  const pinned = fit.pinned_by.length > 0;
  return (
    <li className="border-b border-line">
      <details>
        <FitSummary name={fit.name} chance={fit.chance} pinned={pinned} />
        <div className="space-y-3 pb-3 pt-1">
          <dl className="grid gap-x-4 gap-y-1 desk:grid-cols-[7rem_1fr]">
            <dt className="font-semibold">Marks</dt>
            <dd>{fit.tells}</dd>
            <dt className="font-semibold">Taken for it</dt>
            <dd>{fit.like}.</dd>
            <dt className="font-semibold">Proved by</dt>
            <dd>{fit.proves}.</dd>
            {!leads && (
              <>
                <dt className="font-semibold">Now</dt>
                <dd>{fit.now.join(". ")}.</dd>
              </>
            )}
            <dt className="font-semibold">Never</dt>
            <dd>{fit.never.join(", ")}.</dd>
          </dl>
          {fit.terms.length > 0 && <FitTerms terms={fit.terms} onStrike={onStrike} />}
        </div>
      </details>
      {leads && (
        <p className="pb-2">
          <strong>Now:</strong> {fit.now.join(". ")}.
        </p>
      )}
      {onWays && (
        <div className="pb-3">
          <Button onClick={onWays}>Ways to handle it</Button>
        </div>
      )}
    </li>
  );
}
