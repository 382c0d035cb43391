/** Where schools of treating differ on an option, side against side, with what each risks and which is taken here. */
import { useQuery } from "@tanstack/react-query";
import { clsx } from "clsx";
import { schoolsQuery } from "@/client/queries";
import type { Schemas } from "@/client/types";
import { Details } from "@/ui/details";

export function Schools({ optionId }: { optionId: string }) {
  const { data } = useQuery(schoolsQuery);
  const all = data ?? [];
  const own = all.filter((one) => one.school.options.includes(optionId));
  const ofAll = all.filter((one) => one.school.options.length === 0);
  if (own.length + ofAll.length === 0) return null;
  return (
    <div className="mt-4">
      <Details title={`Where schools differ: ${own.length + ofAll.length} questions`} open={false}>
        {[...own, ...ofAll].map((one) => (
          <Question key={one.school.id} here={one} />
        ))}
      </Details>
    </div>
  );
}

function Question({ here: { school, followed } }: { here: Schemas["SchoolHere"] }) {
  const taken = followed ?? school.usual;
  return (
    <section aria-label={school.question} className="border-t border-line py-3 first:border-t-0">
      <h3 className="font-sans text-base font-bold text-ink">{school.question}</h3>
      <div className={clsx("mt-2 grid gap-3", school.sides.length === 2 && "desk:grid-cols-2")}>
        {school.sides.map((side) => (
          <div
            key={side.name}
            className={clsx("border-l-2 pl-2", side.name === taken ? "border-ink" : "border-line-2")}>
            <p className="font-semibold text-ink">
              {side.name}
              {side.name === taken && (followed ? ", as your policy has it" : ", the default")}
            </p>
            <p>{side.says}</p>
            <p className="text-sm">Risk: {side.risk}</p>
          </div>
        ))}
      </div>
      <p className="mt-2 text-sm">
        {!school.sides.some((side) => side.name === taken) && `Default: ${taken}. `}
        {school.why}
      </p>
    </section>
  );
}
