/** One condition that the signs may fit: its chance, and opened its marks, what is done, each finding as a bar. */
import { clsx } from "clsx";
import type { Schemas } from "@/client/types";
import { Button } from "@/ui/button";
import { FitTerms } from "@/ui/fit-terms";
import { percent } from "@/ui/figures";
import { capital } from "@/wording/words";

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
        <summary
          className={clsx(
            "grid min-h-14 cursor-pointer grid-cols-[minmax(0,1fr)_6rem_5.5rem] items-center gap-3",
            "desk:min-h-11",
          )}>
          <span className={clsx("font-semibold underline underline-offset-4", pinned && "text-act")}>
            {capital(fit.name)}
          </span>
          <span className="h-2.5 border border-line-2 bg-sheet" aria-hidden="true">
            <span
              className={clsx("block h-full", pinned ? "bg-act" : "bg-ink-2")}
              style={{ width: `${100 * fit.chance}%` }}
            />
          </span>
          <span className="figure whitespace-nowrap text-right">{percent(fit.chance)}</span>
        </summary>
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
