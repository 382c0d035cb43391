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
import { whereAmI } from "@/ui/position";
import { SaveForm, useDraft, useSave, type Save } from "@/ui/save-form";

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
  const [draft, set] = useDraft(() => draftOf(keepers, apiary));
  const isNew = apiary === undefined && draft.keeper === NEW;
  const save = useSave({
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
  return (
    <SaveForm save={save} fields={FIELDS} label={apiary ? "Record the change" : "Add the apiary"} big>
      <TextField
        label="Name"
        name="name"
        error={save.at("name")}
        maxLength={120}
        value={draft.name}
        onChange={(name) => set({ name })}
      />
      {!apiary && <KeeperPart draft={draft} set={set} save={save} keepers={keepers} />}
      <Place draft={draft} set={set} save={save} />
      <TextField
        label="Height above the sea, m"
        name="elevation"
        error={save.at("elevation_m")}
        inputMode="numeric"
        value={draft.elevation}
        onChange={(elevation) => set({ elevation })}
      />
      <TextArea
        label="Access"
        name="access"
        error={save.at("access_note")}
        value={draft.access}
        onChange={(access) => set({ access })}
      />
      <TextArea
        label="Forage"
        name="forage"
        error={save.at("forage_note")}
        value={draft.forage}
        onChange={(forage) => set({ forage })}
      />
    </SaveForm>
  );
}

/** Whose apiary it is: one of the keepers, or a new one. */
function KeeperPart({ draft, set, save, keepers }: Part & { keepers: Keeper[] }) {
  const mayAddKeepers = useMay("keep_keepers");
  const known = keepers.map((one) => [one.id, one.name] as const);
  return (
    <>
      <SelectField
        label="Keeper"
        name="keeper"
        error={save.at("keeper_id")}
        value={draft.keeper}
        options={mayAddKeepers ? [...known, [NEW, "a new keeper"]] : known}
        onChange={(keeper) => set({ keeper })}
      />
      {draft.keeper === NEW && (
        <div className="grid grid-cols-2 gap-4">
          <TextField
            label="Keeper’s name"
            name="newKeeper"
            error={save.at("newKeeper")}
            maxLength={120}
            value={draft.newKeeper}
            onChange={(newKeeper) => set({ newKeeper })}
          />
          <TextField
            label="Registration no."
            name="registration"
            error={save.at("registration")}
            maxLength={40}
            value={draft.registration}
            onChange={(registration) => set({ registration })}
          />
        </div>
      )}
    </>
  );
}

function Place({ draft, set, save }: Part) {
  const locate = useMutation({
    mutationFn: whereAmI,
    onSuccess: (here) => set({ latitude: here.latitude.toFixed(5), longitude: here.longitude.toFixed(5) }),
  });
  return (
    <>
      <div className="grid grid-cols-2 gap-4">
        <TextField
          label="Latitude, °"
          name="latitude"
          error={save.at("latitude")}
          inputMode="decimal"
          value={draft.latitude}
          onChange={(latitude) => set({ latitude })}
        />
        <TextField
          label="Longitude, °"
          name="longitude"
          error={save.at("longitude")}
          inputMode="decimal"
          value={draft.longitude}
          onChange={(longitude) => set({ longitude })}
        />
      </div>
      <Button variant="quiet" disabled={locate.isPending} onClick={() => locate.mutate()}>
        Use my location
      </Button>
      <ErrorText error={locate.error} />
    </>
  );
}
