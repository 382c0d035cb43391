/** What is next for a colony that died: to be read, to be gone on with, or what was found. */
import { useQuery } from "@tanstack/react-query";
import { deadOutsQuery } from "@/client/deadout-queries";
import type { Schemas } from "@/client/types";
import { useMay } from "@/features/session/use-session";
import { LinkButton } from "@/ui/link";
import { BeginExamination } from "./found-dead";

export function LostColony({ colony }: { colony: Schemas["ColonyOverview"] }) {
  const mayRecord = useMay("record");
  const query = useQuery(deadOutsQuery(colony.apiary_id));
  const line = query.data?.lines.find((one) => one.colony_id === colony.id);
  if (!query.isSuccess) return null;
  return (
    <div className="flex flex-wrap content-start gap-2">
      {line?.deadout_id ? (
        <>
          <LinkButton to="/deadouts/$id" params={{ id: line.deadout_id }} search={{}} variant="main">
            {line.state === "draft" ? "Go on with the examination" : "What it died of"}
          </LinkButton>
          {line.state === "closed" && (
            <LinkButton to="/colonies/$id/combs" params={{ id: colony.id }}>
              Combs and boxes
            </LinkButton>
          )}
        </>
      ) : (
        mayRecord && <BeginExamination colonyId={colony.id} foundOn={colony.state_since} />
      )}
    </div>
  );
}
