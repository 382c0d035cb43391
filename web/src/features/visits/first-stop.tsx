/** Opening the colony that the round of an apiary comes to next, from the door where one records. */
import { useQuery } from "@tanstack/react-query";
import { roundQuery } from "@/client/queries";
import { useSession } from "@/features/session/use-session";
import { Button } from "@/ui/button";
import { ErrorText } from "@/ui/field";
import { nextStop } from "./stops";
import { useOpenVisit } from "./use-open-visit";

export function FirstStop({ apiaryId }: { apiaryId: string }) {
  const round = useQuery(roundQuery(apiaryId));
  const opening = useOpenVisit();
  const session = useSession();
  const next = nextStop(round.data ?? [], session.today);
  if (!next) return null;
  const open = (quick: boolean) => opening.mutate({ colonyId: next.id, quick });
  return (
    <>
      <Button disabled={opening.isPending} onClick={() => open(true)}>
        Quick visit to {next.label}
      </Button>
      <Button disabled={opening.isPending} onClick={() => open(false)}>
        Visit {next.label}, frame by frame
      </Button>
      <ErrorText error={opening.error} />
    </>
  );
}
