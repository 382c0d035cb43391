/** Adding an apiary, and its keeper where he or she is new; changing what is recorded of one. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import { addApiary, addKeeper, amendApiary } from "@/client/commands/places";
import type { Schemas } from "@/client/types";
import { useMay } from "@/features/session/use-session";
import { Button } from "@/ui/button";
import { Dialog } from "@/ui/dialog";
import { ErrorText } from "@/ui/field";
import { SelectField, TextArea, TextField } from "@/ui/fields";
import type { Place } from "@/instruments/island-ground";
import { whereAmI } from "@/ui/position";
import { SaveForm, bindFields, useDraft, useSave, type Save } from "@/ui/save-form";
import { PlaceMap } from "./place-map";

type Apiary = Schemas["Apiary"];
type Keeper = Schemas["Keeper"];
type Draft = {
  name: string;
  keeper: string;
  newKeeper: string;
  registration: string;
  latitude: string;
  longitude: string;
  elevation: string;
  access: string;
  forage: string;
};
type Part = { draft: Draft; set: (part: Partial<Draft>) => void; save: Save };
const FIELDS = [
  "name",
  "keeper_id",
  "newKeeper",
  "registration",
  "latitude",
  "longitude",
  "elevation_m",
  "access_note",
  "forage_note",
];
const NEW = "new";

type Props = { open: boolean; onClose: () => void; keepers: Keeper[]; apiary?: Apiary };

export function ApiaryForm({ open, onClose, keepers, apiary }: Props) {
  return (
    <Dialog open={open} onClose={onClose} title={apiary ? `Edit ${apiary.name}` : "Add an apiary"}>
      <Entry onClose={onClose} keepers={keepers} apiary={apiary} />
    </Dialog>
  );
}

function draftOf(keepers: Keeper[], apiary: Apiary | undefined): Draft {
  return {
    name: apiary?.name ?? "",
    keeper: keepers[0]?.id ?? NEW,
    newKeeper: "",
    registration: "",
    latitude: apiary ? String(apiary.latitude) : "",
    longitude: apiary ? String(apiary.longitude) : "",
    elevation: String(apiary?.elevation_m ?? 0),
    access: apiary?.access_note ?? "",
    forage: apiary?.forage_note ?? "",
  };
}

/** Degrees as they are typed; a decimal comma is taken as a point. */
const degrees = (text: string) => Number(text.replace(",", "."));
function wrongDegrees(text: string, limit: number): string | false {
  if (text.trim() === "") return "Enter degrees, as 44.2350";
  return !(Math.abs(degrees(text)) <= limit) && `Degrees from -${limit} to ${limit}, as 44.2350`;
}

type EntryProps = { onClose: () => void; keepers: Keeper[]; apiary: Apiary | undefined };

function Entry({ onClose, keepers, apiary }: EntryProps) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const [ids] = useState(() => ({ apiary: crypto.randomUUID(), keeper: crypto.randomUUID() }));
  const [draft, set, kept] = useDraft(
    () => draftOf(keepers, apiary),
    `apiary:${apiary?.id ?? "new"}:${apiary?.version ?? 0}`,
  );
  const isNew = apiary === undefined && draft.keeper === NEW;
  const save = useSave({
    kept,
    act: async () => {
      const fields = {
        name: draft.name,
        latitude: degrees(draft.latitude),
        longitude: degrees(draft.longitude),
        elevation_m: Math.round(Number(draft.elevation)),
        access_note: draft.access,
        forage_note: draft.forage,
      };
      if (apiary) return amendApiary(apiary.id, apiary.version, fields);
      const { newKeeper: name, registration } = draft;
      if (isNew) await addKeeper({ id: ids.keeper, name, phone: "", registration });
      return addApiary({ id: ids.apiary, keeper_id: isNew ? ids.keeper : draft.keeper, ...fields });
    },
    check: () => ({
      name: draft.name.trim() === "" && "Give it a name",
      newKeeper: isNew && draft.newKeeper.trim() === "" && "Enter the keeper’s name",
      latitude: wrongDegrees(draft.latitude, 90),
      longitude: wrongDegrees(draft.longitude, 180),
    }),
    done: async (made) => {
      await client.invalidateQueries();
      onClose();
      if (!apiary) await navigate({ to: "/apiaries/$id", params: { id: made.id } });
    },
  });
  const field = bindFields(draft, set, save);
  return (
    <SaveForm save={save} kept={kept} fields={FIELDS} label={apiary ? "Record the change" : "Add the apiary"} big>
      <TextField label="Name" maxLength={120} {...field("name")} />
      {!apiary && <KeeperPart draft={draft} set={set} save={save} keepers={keepers} />}
      <WhereItStands draft={draft} set={set} save={save} />
      <TextField label="Height above the sea, m" inputMode="numeric" {...field("elevation", "elevation_m")} />
      <TextArea label="Access" {...field("access", "access_note")} />
      <TextArea label="Forage" {...field("forage", "forage_note")} />
    </SaveForm>
  );
}

/** Whose apiary it is: one of the keepers, or a new one. */
function KeeperPart({ draft, set, save, keepers }: Part & { keepers: Keeper[] }) {
  const field = bindFields(draft, set, save);
  const mayAddKeepers = useMay("keep_keepers");
  const known = keepers.map((one) => [one.id, one.name] as const);
  return (
    <>
      <SelectField
        label="Keeper"
        options={mayAddKeepers ? [...known, [NEW, "a new keeper"]] : known}
        {...field("keeper", "keeper_id")}
      />
      {draft.keeper === NEW && (
        <div className="grid grid-cols-2 gap-4">
          <TextField label="Keeper’s name" maxLength={120} {...field("newKeeper")} />
          <TextField label="Registration no." maxLength={40} {...field("registration")} />
        </div>
      )}
    </>
  );
}

function WhereItStands({ draft, set, save }: Part) {
  const field = bindFields(draft, set, save);
  const stand = (at: Place) => set({ latitude: at.latitude.toFixed(5), longitude: at.longitude.toFixed(5) });
  const locate = useMutation({ mutationFn: whereAmI, onSuccess: stand });
  const isKnown = !wrongDegrees(draft.latitude, 90) && !wrongDegrees(draft.longitude, 180);
  const place = isKnown ? { latitude: degrees(draft.latitude), longitude: degrees(draft.longitude) } : null;
  return (
    <>
      <PlaceMap place={place} onPlace={stand} />
      <div className="grid grid-cols-2 gap-4">
        <TextField label="Latitude, °" inputMode="decimal" {...field("latitude")} />
        <TextField label="Longitude, °" inputMode="decimal" {...field("longitude")} />
      </div>
      <Button variant="quiet" disabled={locate.isPending} onClick={() => locate.mutate()}>
        Use my location
      </Button>
      <ErrorText error={locate.error} />
    </>
  );
}
