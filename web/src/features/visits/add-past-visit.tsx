/** A visit written down afterwards: the day on which the hive was opened. */
import { useState } from "react";
import { Problem } from "@/client/types";
import { Button } from "@/ui/button";
import { Field, FormError, described } from "@/ui/field";
import { useOpenVisit } from "./use-open-visit";

export function EarlierVisit({ colonyId, today }: { colonyId: string; today: string }) {
  const opening = useOpenVisit();
  const [day, setDay] = useState(today);
  const problem = opening.error instanceof Problem ? opening.error : null;
  return (
    <form
      noValidate
      className="space-y-4"
      onSubmit={(event) => {
        event.preventDefault();
        opening.mutate({ colonyId, day });
      }}>
      <Field label="Opened on" name="opened_at" error={problem?.at("opened_at")}>
        <input
          type="date"
          className="input"
          max={today}
          value={day}
          onChange={(event) => setDay(event.target.value)}
          {...described("opened_at", problem?.at("opened_at"))}
        />
      </Field>
      <FormError error={opening.error} fields={["opened_at"]} />
      <Button type="submit" variant="main" className="w-full" disabled={opening.isPending || day === ""}>
        Write the visit down
      </Button>
    </form>
  );
}
