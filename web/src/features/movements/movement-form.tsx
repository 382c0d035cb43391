/** What came to a colony or went from it that no other act says: bought, lent, a swarm, bees, a queen, gear, food. */
import { useState } from "react";
import { recordMovement } from "@/client/commands/movements";
import type { Schemas } from "@/client/types";
import { ColonyFields } from "@/features/colonies/colony-fields";
import { useDone } from "@/features/colonies/use-done";
import { Checkbox } from "@/ui/checkbox";
import { ChoiceField } from "@/ui/choice";
import { DateField } from "@/ui/date-field";
import { Dialog } from "@/ui/dialog";
import { SelectField, TextArea, TextField } from "@/ui/fields";
import { SaveForm, bindFields, useDraft, useSave } from "@/ui/save-form";
import { KIND } from "./words";

type Input = Schemas["MovementInput"];
type Kind = Input["kind"];
type Other = "elsewhere" | "colony" | "unknown";

const KINDS: readonly Kind[] = [
  "brood_frame",
  "honey_frame",
  "drawn_comb",
  "bees",
  "queen",
  "queen_cell",
  "swarm",
  "package",
  "purchase",
  "sale",
  "loan",
  "honey_fed",
  "pollen_fed",
  "equipment",
  "extractor",
  "tools",
  "wax",
  "robbing",
];
const NEVER: Record<Input["way"], readonly Kind[]> = { came: ["sale"], went: ["purchase", "package"] };
const CLEANED: readonly Kind[] = ["equipment", "extractor", "tools", "wax"];

export function MovementForm({
  colonyId,
  label,
  today,
  onClose,
}: {
  colonyId: string;
  label: string;
  today: string;
  onClose: () => void;
}) {
  const done = useDone(onClose);
  const [id] = useState(() => crypto.randomUUID());
  const [draft, set, kept] = useDraft(
    {
      way: "came" as Input["way"],
      kind: "brood_frame" as Kind,
      known: "day" as "day" | "span",
      latest: today,
      earliest: today,
      other: "elsewhere" as Other,
      apiary: "",
      other_colony_id: "",
      elsewhere: "",
      by: "seen" as "seen" | "told",
      clean: false,
      note: "",
    },
    `movement:${colonyId}`,
  );
  const kinds = KINDS.filter((one) => !NEVER[draft.way].includes(one));
  const kind = kinds.includes(draft.kind) ? draft.kind : "brood_frame";
  const save = useSave({
    kept,
    check: () => ({
      apiary: draft.other === "colony" && draft.apiary === "" && "choose the apiary",
      other_colony_id: draft.other === "colony" && draft.other_colony_id === "" && "choose the colony",
      elsewhere: draft.other === "elsewhere" && draft.elsewhere.trim() === "" && "say where, or from whom",
    }),
    act: () =>
      recordMovement({
        id,
        colony_id: colonyId,
        way: draft.way,
        kind,
        latest: draft.latest,
        earliest: draft.known === "day" ? draft.latest : draft.earliest,
        other_colony_id: draft.other === "colony" ? draft.other_colony_id : null,
        elsewhere: draft.other === "elsewhere" ? draft.elsewhere : "",
        is_seen: draft.by === "seen",
        is_disinfected: CLEANED.includes(kind) && draft.clean,
        note: draft.note,
      }),
    done,
  });
  const field = bindFields(draft, set, save);
  const others: [Other, string][] = [
    ["elsewhere", "elsewhere"],
    ["colony", "a colony here"],
  ];
  if (draft.way === "came") others.push(["unknown", "not known"]);
  return (
    <Dialog open title={`What came to ${label} or went`} onClose={onClose}>
      <SaveForm
        save={save}
        kept={kept}
        fields={["kind", "earliest", "latest", "apiary", "other_colony_id", "elsewhere", "is_disinfected", "note"]}
        label="Record it">
        <ChoiceField
          label="It"
          value={draft.way}
          options={[
            ["came", "came"],
            ["went", "went"],
          ]}
          onChange={(way) =>
            set({ way, other: way === "went" && draft.other === "unknown" ? "elsewhere" : draft.other })
          }
        />
        <SelectField
          label="What"
          options={kinds.map((one) => [one, KIND[one]] as const)}
          {...field("kind")}
          value={kind}
        />
        <ChoiceField
          label="The day"
          value={draft.known}
          options={[
            ["day", "known"],
            ["span", "between two days"],
          ]}
          onChange={(known) => set({ known })}
        />
        {draft.known === "span" && <DateField label="Not before" max={draft.latest} {...field("earliest")} />}
        <DateField label={draft.known === "span" ? "Not after" : "On"} max={today} {...field("latest")} />
        <ChoiceField
          label={draft.way === "came" ? "From" : "To"}
          value={draft.other}
          options={others}
          onChange={(other) => set({ other })}
        />
        {draft.other === "elsewhere" && (
          <TextField label={draft.way === "came" ? "From whom or where" : "To whom or where"} {...field("elsewhere")} />
        )}
        {draft.other === "colony" && (
          <ColonyFields
            apiary={field("apiary")}
            colony={field("other_colony_id")}
            at={draft.apiary}
            living={false}
            except={colonyId}
          />
        )}
        <ChoiceField
          label="Known by"
          value={draft.by}
          options={[
            ["seen", "I saw it"],
            ["told", "I was told"],
          ]}
          onChange={(by) => set({ by })}
        />
        {CLEANED.includes(kind) && (
          <Checkbox
            label="Flamed, sterilised or cleaned in an accepted way before"
            checked={draft.clean}
            onChange={(clean) => set({ clean })}
          />
        )}
        <TextArea label="Note" {...field("note")} />
      </SaveForm>
    </Dialog>
  );
}
