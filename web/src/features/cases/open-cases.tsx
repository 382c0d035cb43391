/** On Today: the open suspect cases, a line each, with whom it waits for; nothing where there is none. */
import { useQuery } from "@tanstack/react-query";
import { caseWordsQuery, casesQuery } from "@/client/case-queries";
import { TextLink } from "@/ui/link";
import { Notice } from "@/ui/page";
import { whoSays } from "./words";

export function OpenCases() {
  const cases = useQuery(casesQuery({}));
  const vocabulary = useQuery(caseWordsQuery);
  if (!cases.data || cases.data.length === 0 || !vocabulary.data) return null;
  const { words } = vocabulary.data;
  return (
    <ul aria-label="Open cases" className="mt-3 space-y-1">
      {cases.data.map(({ case: row, state, waits_for: waits, clock }) => (
        <li key={row.id}>
          <Notice tone="act">
            <p>
              <TextLink to="/cases/$id" params={{ id: row.id }} className="font-semibold">
                Case {row.number}
              </TextLink>
              {`: ${row.label}, ${row.apiary}; ${words.diseases[row.disease] ?? ""} ${words.states[state]?.name ?? ""}`}
              {waits.length > 0 && `; waits for ${whoSays(waits)}`}
              {clock?.is_over && <b className="text-act">; late</b>}
            </p>
          </Notice>
        </li>
      ))}
    </ul>
  );
}
