/** On the page of a case: the way to its traces. */
import { TextLink } from "@/ui/link";
import { SectionHeading } from "@/ui/page";

export function Tracing({ id }: { id: string }) {
  return (
    <section aria-labelledby="tracing" className="mb-8">
      <SectionHeading id="tracing" says="combs, bees, tools and food, by what is on record">
        Tracing
      </SectionHeading>
      <p className="mt-2">
        <TextLink to="/cases/$id/traces" params={{ id }} search={{}}>
          Where it may have come from and gone to
        </TextLink>
      </p>
    </section>
  );
}
