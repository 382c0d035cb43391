/** On the pages of an apiary and its colonies: the open cases there, and that it stands still. */
import { useQuery } from "@tanstack/react-query";
import { caseWordsQuery, casesQuery } from "@/client/case-queries";
import type { Schemas } from "@/client/types";
import { TextLink } from "@/ui/link";
import { Notice } from "@/ui/page";

export function StandstillBanner({ apiaryId, colonyId }: { apiaryId: string; colonyId?: string }) {
  const cases = useQuery(casesQuery({ apiary: apiaryId }));
  const words = useQuery(caseWordsQuery);
  if (!cases.data || cases.data.length === 0 || !words.data) return null;
  const lines = cases.data.map((line) => ({ line, still: standsStill(line, colonyId) }));
  return (
    <div className="mt-3">
      <Notice tone={cases.data.some((line) => line.case.hold === "official") ? "act" : "watch"}>
        {lines.some((one) => one.still) && <b>Nothing goes in or out.</b>}
        {lines.map(({ line, still }) => (
          <CaseNotice key={line.case.id} line={line} still={still} words={words.data.words} colonyId={colonyId} />
        ))}
      </Notice>
    </div>
  );
}

/** Whether a case keeps this colony still, or any of its apiary where no colony is meant. */
function standsStill({ case: row }: Schemas["CaseLine"], colonyId: string | undefined): boolean {
  const held = row.hold === "official" || row.hold === "voluntary";
  return held && (row.hold_covers !== "colony" || colonyId === undefined || colonyId === row.colony_id);
}

type NoticeProps = {
  line: Schemas["CaseLine"];
  still: boolean;
  words: Schemas["CaseWords"];
  colonyId: string | undefined;
};

function CaseNotice({ line, still, words, colonyId }: NoticeProps) {
  const row = line.case;
  return (
    <p>
      <TextLink to="/cases/$id" params={{ id: row.id }}>
        Case {row.number}
      </TextLink>
      : {words.diseases[row.disease]} {words.states[line.state]?.name}
      {colonyId === row.colony_id ? " in this colony" : `, colony ${row.label}`}
      {still && `; ${words.holds[row.hold]}`}
    </p>
  );
}
