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
  return (
    <div className="mt-3 space-y-2">
      {cases.data.map((line) => (
        <CaseNotice key={line.case.id} line={line} words={words.data.words} colonyId={colonyId} />
      ))}
    </div>
  );
}

type NoticeProps = { line: Schemas["CaseLine"]; words: Schemas["CaseWords"]; colonyId: string | undefined };

function CaseNotice({ line, words, colonyId }: NoticeProps) {
  const row = line.case;
  const still = row.hold === "official" || row.hold === "voluntary";
  const here = row.hold_covers !== "colony" || colonyId === undefined || colonyId === row.colony_id;
  const disease = words.diseases[row.disease];
  const state = words.states[line.state]?.name;
  return (
    <Notice tone={row.hold === "official" ? "act" : "watch"}>
      <p>
        <b>{still && here ? "Nothing goes in or out. " : ""}</b>
        <TextLink to="/cases/$id" params={{ id: row.id }}>
          Case {row.number}
        </TextLink>
        : {disease} {state}
        {colonyId === row.colony_id ? " in this colony" : `, colony ${row.label}`}
        {still && here && `; ${words.holds[row.hold]}`}
      </p>
    </Notice>
  );
}
