/** Scoops whose bees were counted by hand: from three on they say what the association's own scoop holds. */
import type { Schemas } from "@/client/types";
import { Button } from "@/ui/button";
import { oneDecimal } from "@/ui/units";

type Scoop = Schemas["CountedScoop"];

export function Scoops({
  scoops,
  found,
  disabled,
  errorAt,
  onChange,
}: {
  scoops: Scoop[];
  found: Schemas["Scoop"];
  disabled: boolean;
  errorAt: (field: string) => string | undefined;
  onChange: (scoops: Scoop[]) => void;
}) {
  const change = (index: number, part: Partial<Scoop>) =>
    onChange(scoops.map((one, at) => (at === index ? { ...one, ...part } : one)));
  const wrongAt = scoops.map((_, index) => errorAt(`scoops[${index}].ml`) ?? errorAt(`scoops[${index}].bees`));
  return (
    <section aria-labelledby="scoops" className="space-y-2">
      <h2 id="scoops" className="border-b-2 border-ink pb-1 text-xl">
        Your scoop
      </h2>
      <p>
        <strong>{found.bees_per_ml.toFixed(2)} bees a millilitre</strong>, a level scoop give or take{" "}
        {Math.round(100 * found.cv)} %: about {Math.round(120 * found.bees_per_ml)} bees in 120 ml.
      </p>
      <p className="text-ink-2">
        {wrongAt.some(Boolean)
          ? "Not with these scoops: one of them cannot be."
          : scoops.length >= 3
            ? `From ${scoops.length} scoops counted by hand, and the usual figure.`
            : "The usual figure. Count the bees of three level scoops or more by hand to have your own."}
      </p>
      {scoops.map((scoop, index) => {
        const wrong = wrongAt[index];
        return (
          <div key={index} className="border-b border-line py-1">
            <div className="flex flex-wrap items-center gap-3">
              <input
                type="number"
                className="input w-24!"
                aria-label={`Scoop ${index + 1}, millilitres`}
                value={scoop.ml || ""}
                onChange={(event) => change(index, { ml: Number(event.target.value) })}
              />{" "}
              ml
              <input
                type="number"
                className="input w-24!"
                aria-label={`Scoop ${index + 1}, bees`}
                value={scoop.bees || ""}
                onChange={(event) => change(index, { bees: Math.round(Number(event.target.value)) })}
              />{" "}
              bees
              <span className="text-sm text-ink-2">
                {scoop.ml > 0 && scoop.bees > 0 && `${oneDecimal(scoop.bees / scoop.ml)} a ml`}
              </span>
              {!disabled && (
                <Button
                  variant="quiet"
                  aria-label={`Take scoop ${index + 1} away`}
                  onClick={() => onChange(scoops.filter((_, at) => at !== index))}>
                  Remove
                </Button>
              )}
            </div>
            {wrong && (
              <p role="alert" className="font-semibold text-act">
                {wrong}
              </p>
            )}
          </div>
        );
      })}
      {!disabled && (
        <Button onClick={() => onChange([...scoops, { ml: scoops.at(-1)?.ml ?? 120, bees: 0 }])}>
          Add a counted scoop
        </Button>
      )}
    </section>
  );
}
