/** A hold: no comb leaves the colony until somebody who may lifts it, with the reason kept. */
import { holdColony, liftHold } from "@/client/commands/colonies";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { Problem, type Schemas } from "@/client/types";
import { useMay } from "@/features/session/use-session";
import { shortDay } from "@/ui/dates";
import { Choice } from "@/ui/choice";
import { Button } from "@/ui/button";
import { Field, FormError, described } from "@/ui/field";
import { useDone } from "./use-done";

export function HoldForm({ view, onDone }: { view: Schemas["ColonyView"]; onDone: () => void }) {
  const done = useDone(onDone);
  const mayLift = useMay("release_combs");
  const [id] = useState(() => crypto.randomUUID());
  const [since, setSince] = useState(view.today);
  const [why, setWhy] = useState("");
  const [kind, setKind] = useState<"notifiable" | "other">("other");
  const save = useMutation({
    mutationFn: () =>
      view.hold ? liftHold(view.colony.id, { why }) : holdColony(view.colony.id, { id, kind, since, why }),
    onSuccess: done,
  });
  const problem = save.error instanceof Problem ? save.error : null;
  if (view.hold && !mayLift)
    return (
      <p>
        On hold since {shortDay(view.hold.since, view.today)}: {view.hold.why}. An inspector or the administrator lifts
        it.
      </p>
    );
  return (
    <form
      noValidate
      className="space-y-4"
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate();
      }}>
      <p>
        {view.hold
          ? `On hold since ${shortDay(view.hold.since, view.today)}: ${view.hold.why}.`
          : "No comb, bee or queen leaves a colony on hold; it is not split, merged or moved. An inspector lifts it."}
      </p>
      {!view.hold && (
        <Choice
          label="Reason"
          value={kind}
          options={[
            ["other", "another reason"],
            ["notifiable", "a notifiable disease is suspected"],
          ]}
          onChange={setKind}
        />
      )}
      {!view.hold && (
        <Field label="Since" name="since" error={problem?.at("since")}>
          <input
            type="date"
            className="input"
            max={view.today}
            value={since}
            onChange={(event) => setSince(event.target.value)}
            {...described("since", problem?.at("since"))}
          />
        </Field>
      )}
      <Field label={view.hold ? "Why is it lifted?" : "Why?"} name="why" error={problem?.at("why")}>
        <input
          className="input"
          maxLength={400}
          value={why}
          onChange={(event) => setWhy(event.target.value)}
          {...described("why", problem?.at("why"))}
        />
      </Field>
      <FormError error={save.error} fields={["since", "why"]} />
      <Button type="submit" variant="main" className="w-full" disabled={save.isPending}>
        {view.hold ? "Lift the hold" : `Hold ${view.colony.label}`}
      </Button>
    </form>
  );
}
