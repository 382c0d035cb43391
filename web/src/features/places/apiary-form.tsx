/** Adding an apiary, and its keeper where he or she is new; changing what is recorded of one. */
import { addApiary, addKeeper, amendApiary } from "@/client/commands/places";
import { whereAmI } from "@/ui/position";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import { useForm, type UseFormReturn } from "react-hook-form";
import { Problem, type Schemas } from "@/client/types";
import { useMay } from "@/features/session/use-session";
import { Dialog } from "@/ui/dialog";
import { Button } from "@/ui/button";
import { Field, FormError, described } from "@/ui/field";

type Entry = {
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
const FIELDS = [
  "name",
  "keeper_id",
  "latitude",
  "longitude",
  "elevation_m",
  "access_note",
  "forage_note",
  "registration",
];
const NEW = "new";

export function ApiaryForm({
  open,
  onClose,
  keepers,
  apiary,
}: {
  open: boolean;
  onClose: () => void;
  keepers: Schemas["Keeper"][];
  apiary?: Schemas["Apiary"];
}) {
  return (
    <Dialog open={open} onClose={onClose} title={apiary ? `Edit ${apiary.name}` : "Add an apiary"}>
      <Fields onClose={onClose} keepers={keepers} apiary={apiary} />
    </Dialog>
  );
}

function Fields({
  onClose,
  keepers,
  apiary,
}: {
  onClose: () => void;
  keepers: Schemas["Keeper"][];
  apiary: Schemas["Apiary"] | undefined;
}) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const [ids] = useState(() => ({ apiary: crypto.randomUUID(), keeper: crypto.randomUUID() }));
  const form = useForm<Entry>({
    defaultValues: {
      name: apiary?.name ?? "",
      keeper: keepers[0]?.id ?? NEW,
      newKeeper: "",
      registration: "",
      latitude: apiary ? String(apiary.latitude) : "",
      longitude: apiary ? String(apiary.longitude) : "",
      elevation: String(apiary?.elevation_m ?? 0),
      access: apiary?.access_note ?? "",
      forage: apiary?.forage_note ?? "",
    },
  });
  const isNew = apiary === undefined && form.watch("keeper") === NEW;
  const add = useMutation({
    mutationFn: async (entry: Entry) => {
      const fields = {
        name: entry.name,
        latitude: Number(entry.latitude),
        longitude: Number(entry.longitude),
        elevation_m: Math.round(Number(entry.elevation)),
        access_note: entry.access,
        forage_note: entry.forage,
      };
      if (apiary) return amendApiary(apiary.id, apiary.version, fields);
      if (isNew)
        await addKeeper({ id: ids.keeper, name: entry.newKeeper, phone: "", registration: entry.registration });
      return addApiary({ id: ids.apiary, keeper_id: isNew ? ids.keeper : entry.keeper, ...fields });
    },
    onSuccess: async (made) => {
      await client.invalidateQueries();
      onClose();
      if (!apiary) await navigate({ to: "/apiaries/$id", params: { id: made.id } });
    },
  });
  const problem = add.error instanceof Problem ? add.error : null;
  const { errors } = form.formState;
  return (
    <form
      noValidate
      className="space-y-4"
      onSubmit={(event) => void form.handleSubmit((entry) => add.mutate(entry))(event)}>
      <Field label="Name" name="name" error={errors.name?.message ?? problem?.at("name")}>
        <input
          className="input"
          maxLength={120}
          {...form.register("name", { required: "Give it a name" })}
          {...described("name", errors.name?.message ?? problem?.at("name"))}
        />
      </Field>
      {!apiary && <KeeperPart form={form} problem={problem} keepers={keepers} />}
      <Place form={form} problem={problem} />
      <Field label="Height above the sea, m" name="elevation" error={problem?.at("elevation_m")}>
        <input
          inputMode="numeric"
          className="input"
          {...form.register("elevation")}
          {...described("elevation", problem?.at("elevation_m"))}
        />
      </Field>
      <Field label="Access" name="access" error={problem?.at("access_note")}>
        <textarea rows={2} className="input" maxLength={2000} {...form.register("access")} {...described("access")} />
      </Field>
      <Field label="Forage" name="forage" error={problem?.at("forage_note")}>
        <textarea rows={2} className="input" maxLength={2000} {...form.register("forage")} {...described("forage")} />
      </Field>
      <FormError error={add.error} fields={FIELDS} />
      <Button type="submit" variant="main" big className="w-full" disabled={add.isPending}>
        {apiary ? "Record the change" : "Add the apiary"}
      </Button>
    </form>
  );
}

type PartProps = { form: UseFormReturn<Entry>; problem: Problem | null };

/** Whose apiary it is: one of the keepers, or a new one. */
function KeeperPart({ form, problem, keepers }: PartProps & { keepers: Schemas["Keeper"][] }) {
  const mayAddKeepers = useMay("keep_keepers");
  const { errors } = form.formState;
  const isNew = form.watch("keeper") === NEW;
  return (
    <>
      <Field label="Keeper" name="keeper" error={problem?.at("keeper_id")}>
        <select className="input" {...form.register("keeper")} {...described("keeper", problem?.at("keeper_id"))}>
          {keepers.map((one) => (
            <option key={one.id} value={one.id}>
              {one.name}
            </option>
          ))}
          {mayAddKeepers && <option value={NEW}>a new keeper</option>}
        </select>
      </Field>
      {isNew && (
        <div className="grid grid-cols-2 gap-4">
          <Field label="Keeper’s name" name="newKeeper" error={errors.newKeeper?.message}>
            <input
              className="input"
              maxLength={120}
              {...form.register("newKeeper", {
                validate: (value) => !isNew || value.trim() !== "" || "Enter the keeper’s name",
              })}
              {...described("newKeeper", errors.newKeeper?.message)}
            />
          </Field>
          <Field label="Registration no." name="registration" error={problem?.at("registration")}>
            <input
              className="input"
              maxLength={40}
              {...form.register("registration")}
              {...described("registration", problem?.at("registration"))}
            />
          </Field>
        </div>
      )}
    </>
  );
}

function Place({ form, problem }: PartProps) {
  const { errors } = form.formState;
  const degrees = (limit: number) => ({
    required: "Enter degrees, as 44.2350",
    validate: (value: string) =>
      (value.trim() !== "" && Math.abs(Number(value)) <= limit) || `Degrees from -${limit} to ${limit}, as 44.2350`,
  });
  const locate = useMutation({
    mutationFn: whereAmI,
    onSuccess: (here) => {
      form.setValue("latitude", here.latitude.toFixed(5));
      form.setValue("longitude", here.longitude.toFixed(5));
    },
  });
  return (
    <>
      <div className="grid grid-cols-2 gap-4">
        <Field label="Latitude, °" name="latitude" error={errors.latitude?.message ?? problem?.at("latitude")}>
          <input
            inputMode="decimal"
            className="input"
            {...form.register("latitude", degrees(90))}
            {...described("latitude", errors.latitude?.message)}
          />
        </Field>
        <Field label="Longitude, °" name="longitude" error={errors.longitude?.message ?? problem?.at("longitude")}>
          <input
            inputMode="decimal"
            className="input"
            {...form.register("longitude", degrees(180))}
            {...described("longitude", errors.longitude?.message)}
          />
        </Field>
      </div>
      <Button variant="quiet" disabled={locate.isPending} onClick={() => locate.mutate()}>
        Use my location
      </Button>
      {locate.error && <p role="alert">{locate.error.message}</p>}
    </>
  );
}
