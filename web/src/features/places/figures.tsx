/**
 * The apiary as a whole: its mean with the interval, the spread between colonies, and how it stands under its scope.
 */
import { Link } from "@tanstack/react-router";
import type { Schemas } from "@/client/types";
import { Term } from "@/features/help/term";
import { Details } from "@/ui/details";
import { LevelWord } from "@/ui/level";
import { chance, oneDecimal, rate } from "@/ui/units";
import { SCHEME, colonies } from "@/wording/words";

type View = Schemas["ApiaryView"];

const REASON: Record<View["status"]["reason"], string> = {
  a_colony_urgent: "a colony is urgent",
  mean_over_act: "the apiary's mean is more likely over the act level than under it",
  a_quarter_over: "a quarter of the colonies counted, or more, are over",
  mean_over_watch: "the apiary's mean is more likely over the watch level than under it",
  a_colony_over: "a colony is over, but neither the mean nor a quarter of the colonies",
  enough_counted_none_over: "enough were counted to find one in ten over, and none is",
  too_few_counted: "too few were counted to say that none is over",
  worst_colony: "the worst colony speaks for it",
  none_counted: "no count is recent enough",
  none_living: "no colony lives here",
};

export function ApiaryFigures({ view }: { view: View }) {
  const { status, estimate } = view;
  const per = (id: string) => view.colonies.find((one) => one.id === id)?.label ?? "";
  const phase = view.phases.find((band) => band.first <= view.today && view.today <= band.last);
  const near = status.watch_too.map(per);
  const leftOut =
    estimate !== null && estimate.counted < status.counted
      ? view.colonies.filter((one) => one.targeted && one.level !== "unknown").length
      : 0;
  return (
    <section className="mt-8 grid gap-x-12 gap-y-6 desk:grid-cols-2" aria-label="The apiary as a whole">
      <div>
        <h2 className="border-b-2 border-ink pb-1 text-xl">The apiary as a whole</h2>
        <p className="mt-3 flex items-center gap-2">
          <LevelWord level={status.level} /> <span className="text-ink-2">{REASON[status.reason] ?? ""}.</span>
        </p>
        <p className="mt-2 text-ink-2">
          {status.counted} of {colonies(status.colonies)} counted recently enough.{" "}
          {status.enough !== null &&
            status.counted < status.enough &&
            `To call it clear ${status.enough} must be counted.`}
          {status.enough === null &&
            status.counted < status.colonies &&
            "To call it clear all must be counted: it is small."}
        </p>
        {near.length > 0 && <p className="mt-2">Watch {near.join(", ")} too: mites drift from those over.</p>}
        {view.urgent_near.length > 0 && (
          <p className="mt-2">
            <strong>Mites may come in</strong> from{" "}
            {view.urgent_near.map((one, index) => (
              <span key={one.id}>
                {index > 0 && "; "}
                <Link to="/apiaries/$id" params={{ id: one.id }} className="underline underline-offset-4">
                  {one.name}
                </Link>
                , {oneDecimal(one.km)} km off, {one.urgent} urgent
              </span>
            ))}
            . A notice: it does not change how this apiary stands.
          </p>
        )}
        <p className="mt-2 text-sm text-ink-2">
          {view.scope === "whole_apiary"
            ? "Treated all together, once one speaks for all."
            : "Only those over are treated; the uncounted are not known."}
        </p>
      </div>
      {estimate && (
        <div>
          <h2 className="border-b-2 border-ink pb-1 text-xl">
            <Term id="apiary_mean">Apiary mean</Term>
          </h2>
          <div className="mt-3 flex items-end gap-4">
            <span className="figure text-5xl">{rate(estimate.mean)}</span>
            <p className="pb-1 text-ink-2">
              mites per 100 bees, {estimate.counted} {estimate.counted === 1 ? "colony" : "colonies"}, each counting the
              same
              <br />
              {leftOut > 0 && (
                <>
                  {leftOut} chosen for a reason left out
                  <br />
                </>
              )}
              {estimate.low !== null && estimate.high !== null ? (
                <strong className="text-ink">
                  {rate(estimate.low)} to {rate(estimate.high)}, <Term id="interval">95 % interval</Term>
                </strong>
              ) : (
                "one colony: no interval for the apiary"
              )}
            </p>
          </div>
          <div className="mt-3">
            <Details title="What it says of the others">
              {view.expected_over !== null && phase && view.axis === "mites_per_100" && (
                <p>
                  <strong className="text-ink">Expected over {phase.act} per 100:</strong> about{" "}
                  {oneDecimal(view.expected_over)} of {estimate.colonies}, counted and not.{" "}
                  {view.p_mean_act !== null && `${chance(view.p_mean_act)} that the mean is.`}
                </p>
              )}
              <p>
                <strong className="text-ink">Spread:</strong>{" "}
                {estimate.kappa_fitted
                  ? `fitted to ${estimate.counted} colonies, shape ${estimate.kappa.toFixed(1)}`
                  : "as usual between colonies (fewer than six were counted)"}
                {estimate.variance_ratio !== null &&
                  `; mites vary ${oneDecimal(estimate.variance_ratio)} times as much as by chance alone`}
                .
              </p>
              <p>
                A colony's own level never uses its neighbours' counts. School: {SCHEME[view.scheme]}; method: counting,
                “The apiary”.
              </p>
            </Details>
          </div>
        </div>
      )}
    </section>
  );
}
