/** On the page of a colony: what was tried against brood disease, and what became of it. */
import { useQuery } from "@tanstack/react-query";
import { handlingsQuery } from "@/client/handling-queries";
import { TextLink } from "@/ui/link";
import { SectionHeading } from "@/ui/page";
import { HandlingLine } from "./handling-line";

export function ColonyHandlings({ colonyId, today }: { colonyId: string; today: string }) {
  const views = useQuery(handlingsQuery(colonyId)).data ?? [];
  if (views.length === 0) return null;
  return (
    <section aria-labelledby="handled" className="mt-6">
      <SectionHeading id="handled">Brood disease handled</SectionHeading>
      <ul className="mt-2 border-t border-line">
        {views.map((one) => (
          <HandlingLine key={one.handling.id} view={one} today={today} />
        ))}
      </ul>
      <p className="mt-2">
        <TextLink to="/handling">What became of each way across the association</TextLink>
      </p>
    </section>
  );
}
