/** Whether foulbrood is excluded for a dead colony: what holds its combs, and the act that releases them. */
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { excludeFoulbrood, withdrawExclusion } from "@/client/commands/deadouts";
import type { Schemas } from "@/client/types";
import { Button } from "@/ui/button";
import { ChoiceField } from "@/ui/choice";
import { DateField } from "@/ui/date-field";
import { shortDay } from "@/ui/dates";
import { Dialog } from "@/ui/dialog";
import { TextField } from "@/ui/fields";
import { Notice } from "@/ui/page";
import { SaveForm, bindFields, useDraft, useSave } from "@/ui/save-form";

type View = Schemas["FatesView"];

const HELD: Record<NonNullable<View["held"]>, string> = {
  uncleared:
    "Nothing leaves this hive before foulbrood is excluded: every comb read for scale, a match through remains.",
  suspect: "Foulbrood is suspected: nothing leaves this hive.",
  trace: "This colony was in contact with a case: only the laboratory releases what it left.",
  poison: "Poisoning is possible: nothing leaves before the residues are known. Record them at the last step.",
  case: "Its suspect case is open: the case decides.",
  hold: "Somebody put it on hold: an inspector lifts that.",
  standstill: "The apiary stands still for a case: nothing leaves it.",
};

export function Exclusion({ view }: { view: View }) {
  const [open, setOpen] = useState<"exclude" | "withdraw" | null>(null);
  const { exclusion, held } = view;
  return (
    <div className="mt-3 max-w-prose space-y-2">
      {held && <Notice tone="act">{HELD[held]}</Notice>}
      {exclusion && (
        <Notice tone="course">
          Foulbrood excluded by{" "}
          {exclusion.found_by === "laboratory" ? `the laboratory (${exclusion.reference})` : "examination"},{" "}
          {shortDay(exclusion.excluded_on, view.today)}, {exclusion.by_name}: {exclusion.why}.
        </Notice>
      )}
      {!exclusion && held !== "case" && view.may_exclude && (
        <Button variant="main" onClick={() => setOpen("exclude")}>
          Foulbrood is excluded
        </Button>
      )}
      {exclusion && view.may_exclude && (
        <Button variant="quiet" onClick={() => setOpen("withdraw")}>
          That does not hold
        </Button>
      )}
      <Dialog open={open === "exclude"} onClose={() => setOpen(null)} title="Foulbrood is excluded">
        <ExcludeForm view={view} onDone={() => setOpen(null)} />
      </Dialog>
      <Dialog open={open === "withdraw"} onClose={() => setOpen(null)} title="Withdraw the exclusion">
        <WithdrawForm view={view} onDone={() => setOpen(null)} />
      </Dialog>
    </div>
  );
}

function useReleased(view: View, onDone: () => void) {
  const client = useQueryClient();
  return async () => {
    await client.invalidateQueries({
      predicate: (query) => query.queryKey[0] === "deadouts" || query.queryKey[1] === view.colony_id,
    });
    onDone();
  };
}

function ExcludeForm({ view, onDone }: { view: View; onDone: () => void }) {
  const done = useReleased(view, onDone);
  const [id] = useState(() => crypto.randomUUID());
  const byLaboratory = view.may_exclude_by_laboratory;
  const [draft, set, kept] = useDraft(
    { found_by: "examination" as "examination" | "laboratory", excluded_on: view.today, reference: "", why: "" },
    `exclude:${view.colony_id}`,
  );
  const save = useSave({ kept, act: () => excludeFoulbrood(view.colony_id, { id, ...draft }), done });
  const field = bindFields(draft, set, save);
  return (
    <SaveForm
      save={save}
      kept={kept}
      fields={["found_by", "excluded_on", "reference", "why"]}
      label="Release what it left">
      <p>What this colony left may then go where its cause allows. It stays on record who said so, and why.</p>
      <ChoiceField
        label="Excluded by"
        value={draft.found_by}
        options={[
          ["examination", "examination: every comb, no remains that draw"],
          ...(byLaboratory ? [["laboratory", "the laboratory"] as const] : []),
        ]}
        error={save.at("found_by")}
        onChange={(by) => set({ found_by: by })}
      />
      {draft.found_by === "laboratory" && (
        <TextField label="Number of its report" maxLength={80} {...field("reference")} />
      )}
      <DateField label="On" max={view.today} {...field("excluded_on")} />
      <TextField label="Why?" maxLength={400} {...field("why")} />
    </SaveForm>
  );
}

function WithdrawForm({ view, onDone }: { view: View; onDone: () => void }) {
  const done = useReleased(view, onDone);
  const [draft, set, kept] = useDraft({ why: "" }, `withdraw:${view.colony_id}`);
  const save = useSave({ kept, act: () => withdrawExclusion(view.colony_id, draft), done });
  const field = bindFields(draft, set, save);
  return (
    <SaveForm save={save} kept={kept} fields={["why"]} label="Hold everything again">
      <p>Everything that is still there is held again.</p>
      <TextField label="Why?" maxLength={400} {...field("why")} />
    </SaveForm>
  );
}
