/** A visit written down afterwards: the day on which the hive was opened. */
import { DateField } from "@/ui/date-field";
import { SaveForm, bindFields, useDraft, useSave } from "@/ui/save-form";
import { useOpenVisit } from "./use-open-visit";

export function EarlierVisit({ colonyId, today }: { colonyId: string; today: string }) {
  const opening = useOpenVisit();
  const [draft, set] = useDraft({ day: today });
  const save = useSave({ act: () => opening.mutateAsync({ colonyId, ...draft }), done: () => undefined });
  const field = bindFields(draft, set, save);
  return (
    <SaveForm save={save} fields={["opened_at"]} label="Write the visit down" disabled={draft.day === ""}>
      <DateField label="Opened on" max={today} {...field("day", "opened_at")} />
    </SaveForm>
  );
}
