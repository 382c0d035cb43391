/** From where several open cases of a disease may have come. */
import { useQuery } from "@tanstack/react-query";
import { sourcesQuery } from "@/client/case-queries";
import type { Schemas } from "@/client/types";
import { moment } from "@/ui/clock";
import { TextLink } from "@/ui/link";
import { SectionHeading } from "@/ui/page";
import { Way } from "./contact-table";
import { said, useCaseWords } from "./words";

export function CommonSources() {
  const { words } = useCaseWords();
  const sources = useQuery(sourcesQuery).data ?? [];
  if (sources.length === 0) return null;
  return (
    <section aria-labelledby="in-common" className="mt-8">
      <SectionHeading id="in-common" says="places on the way back from several open cases">
        In common
      </SectionHeading>
      <ul className="mt-2 border-t border-line">
        {sources.map((source) => (
          <li
            key={`${source.disease}${source.place}${source.apiary}`}
            className="grid gap-x-4 border-b border-line py-2 desk:grid-cols-[16rem_minmax(0,1fr)]">
            <Place source={source} disease={said(words.diseases, source.disease)} />
            <ul>
              {source.cases.map((one) => (
                <li key={one.case_id}>
                  <TextLink to="/cases/$id" params={{ id: one.case_id }}>
                    {one.number}
                  </TextLink>{" "}
                  <Way path={one.path} isCertain today={moment().slice(0, 10)} />
                </li>
              ))}
            </ul>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Place({ source, disease }: { source: Schemas["Source"]; disease: string }) {
  const name = source.apiary ? `${source.place}, ${source.apiary}` : source.place;
  return (
    <span>
      {source.colony_id ? (
        <TextLink to="/colonies/$id/where" params={{ id: source.colony_id }}>
          {name}
        </TextLink>
      ) : (
        <b>{name}</b>
      )}
      <span className="block text-ink-2">
        {disease}, {source.cases.length} cases
      </span>
    </span>
  );
}
