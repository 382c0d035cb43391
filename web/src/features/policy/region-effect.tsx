/** What another word on disease in the region would have changed of the latest visits. */
import { useQuery } from "@tanstack/react-query";
import { previewRegion } from "@/client/commands/policy";
import type { Schemas } from "@/client/types";
import { plural, shortDay } from "@/ui/dates";
import { percent } from "@/ui/figures";
import { TextLink } from "@/ui/link";
import { SectionHeading } from "@/ui/page";

type Region = Schemas["DiseaseRegion"];
type Leading = Schemas["Leading"];

export function EffectOnVisits({ region, changed }: { region: Region; changed: boolean }) {
  const preview = useQuery({
    queryKey: ["policy", "disease-region", "preview", region],
    queryFn: () => previewRegion(region),
    enabled: changed,
  });
  if (!changed || !preview.data) return null;
  const { visits, changes } = preview.data;
  return (
    <section aria-labelledby="region-effect">
      <SectionHeading id="region-effect" says="had it been so on their days; closed visits keep what they said">
        The latest visits with a sign
      </SectionHeading>
      <p className="mt-2">
        {changes.length} of {plural(visits, "visit")} would be read otherwise.
      </p>
      {changes.length > 0 && (
        <ul className="mt-1 border-t border-line">
          {changes.map((one) => (
            <li key={one.visit_id} className="border-b border-line py-1.5">
              <TextLink to="/visits/$id" params={{ id: one.visit_id }} search={{ part: "follows" }}>
                {one.label}, {one.apiary}, {shortDay(one.visited_on)}
              </TextLink>
              <span className="block">
                {said(one.before)}; then {said(one.after)}
              </span>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

/** Whether something else is said of disease than before; the law bears on no reading. */
export const isOther = (now: Region, before: Region): boolean =>
  JSON.stringify({ ...now, law: "" }) !== JSON.stringify({ ...before, law: "" });

const said = (leading: Leading | null): string =>
  leading === null ? "nothing" : `${leading.name} ${percent(leading.chance)}`;
