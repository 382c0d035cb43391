/** Opening a colony from a list: for its six facts, or frame by frame. */
import { Button } from "@/ui/button";
import { ErrorText } from "@/ui/field";
import { useOpenVisit } from "./use-open-visit";

type Props = { colonyId: string; label: string; main?: boolean };

export function VisitButtons({ colonyId, label, main = false }: Props) {
  const opening = useOpenVisit();
  return (
    <div className="flex flex-wrap gap-2">
      <Button
        variant={main ? "main" : "plain"}
        disabled={opening.isPending}
        onClick={() => opening.mutate({ colonyId, quick: true })}>
        Quick visit to {label}
      </Button>
      <Button variant="quiet" disabled={opening.isPending} onClick={() => opening.mutate({ colonyId })}>
        Frame by frame
      </Button>
      <ErrorText error={opening.error} />
    </div>
  );
}
