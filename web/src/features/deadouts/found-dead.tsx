/** A colony is found dead, or gone: it is recorded so, and its examination begins. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import { openDeadOut } from "@/client/commands/deadouts";
import { Button } from "@/ui/button";
import { ChoiceField } from "@/ui/choice";
import { moment } from "@/ui/clock";
import { DateField } from "@/ui/date-field";
import { SaveForm, bindFields, useDraft, useSave } from "@/ui/save-form";
import { ErrorText } from "@/ui/field";

function useOpened(colonyId: string) {
  const client = useQueryClient();
  const navigate = useNavigate();
  return async (view: Awaited<ReturnType<typeof openDeadOut>>) => {
    client.setQueryData(["deadout", view.id], view);
    void client.invalidateQueries({
      predicate: (query) => query.queryKey[0] === "deadouts" || query.queryKey[1] === colonyId,
    });
    await navigate({ to: "/deadouts/$id", params: { id: view.id }, search: {} });
  };
}

/** For a colony that is recorded as dead already. */
export function BeginExamination({ colonyId, foundOn }: { colonyId: string; foundOn: string }) {
  const [id] = useState(() => crypto.randomUUID());
  const opened = useOpened(colonyId);
  const open = useMutation({
    mutationFn: () => openDeadOut({ id, colony_id: colonyId, found_on: foundOn, found: "dead", opened_at: moment() }),
    onSuccess: opened,
  });
  return (
    <>
      <Button variant="main" disabled={open.isPending} onClick={() => open.mutate()}>
        Read what it left
      </Button>
      <ErrorText error={open.error} />
    </>
  );
}

export function FoundDeadForm({ colony, today }: { colony: { id: string; label: string }; today: string }) {
  const [id] = useState(() => crypto.randomUUID());
  const opened = useOpened(colony.id);
  const [draft, set, kept] = useDraft({ found: "dead" as "dead" | "gone", found_on: today }, `found-dead:${colony.id}`);
  const save = useSave({
    kept,
    act: () => openDeadOut({ id, colony_id: colony.id, ...draft, opened_at: moment() }),
    done: opened,
  });
  const field = bindFields(draft, set, save);
  return (
    <SaveForm save={save} kept={kept} fields={["found_on"]} label="Record it, and read what it left">
      <p>
        {colony.label} is no longer visited, counted or treated from that day on. Shut it against bees at once; its
        combs stay until foulbrood is excluded.
      </p>
      <ChoiceField
        label="It is"
        value={draft.found}
        options={[
          ["dead", "dead"],
          ["gone", "gone: hardly a bee left"],
        ]}
        onChange={(found) => set({ found })}
      />
      <DateField label="Found on" max={today} {...field("found_on")} />
    </SaveForm>
  );
}
