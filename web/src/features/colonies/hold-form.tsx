/** A hold: no comb leaves the colony until somebody who may lifts it, with the reason kept. */
import { useState } from "react";
import { holdColony, liftHold } from "@/client/commands/colonies";
import type { Schemas } from "@/client/types";
import { useMay } from "@/features/session/use-session";
import { Choice } from "@/ui/choice";
import { shortDay } from "@/ui/dates";
import { DateField } from "@/ui/date-field";
import { TextField } from "@/ui/fields";
import { SaveForm, bindFields, useDraft, useSave } from "@/ui/save-form";
import { useDone } from "./use-done";

export function HoldForm({ view, onDone }: { view: Schemas["ColonyView"]; onDone: () => void }) {
  const done = useDone(onDone);
  const mayLift = useMay("release_combs");
  const [id] = useState(() => crypto.randomUUID());
  const [draft, set, kept] = useDraft(
    { since: view.today, why: "", kind: "other" as "notifiable" | "other" },
    `hold:${view.colony.id}:${view.hold?.id ?? "none"}`,
  );
  const save = useSave({
    kept,
    act: () =>
      view.hold ? liftHold(view.colony.id, { why: draft.why }) : holdColony(view.colony.id, { id, ...draft }),
    done,
  });
  const field = bindFields(draft, set, save);
  if (view.hold && !mayLift)
    return (
      <p>
        On hold since {shortDay(view.hold.since, view.today)}: {view.hold.why}. An inspector or the administrator lifts
        it.
      </p>
    );
  return (
    <SaveForm
      save={save}
      kept={kept}
      fields={["since", "why"]}
      label={view.hold ? "Lift the hold" : `Hold ${view.colony.label}`}>
      <p>
        {view.hold
          ? `On hold since ${shortDay(view.hold.since, view.today)}: ${view.hold.why}.`
          : "No comb, bee or queen leaves a colony on hold; it is not split, merged or moved. An inspector lifts it."}
      </p>
      {!view.hold && (
        <Choice
          label="Reason"
          value={draft.kind}
          options={[
            ["other", "another reason"],
            ["notifiable", "a notifiable disease is suspected"],
          ]}
          onChange={(kind) => set({ kind })}
        />
      )}
      {!view.hold && <DateField label="Since" max={view.today} {...field("since")} />}
      <TextField label={view.hold ? "Why is it lifted?" : "Why?"} maxLength={400} {...field("why")} />
    </SaveForm>
  );
}
