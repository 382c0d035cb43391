/** Which lines are shown: all of it stands in the address. */
import { useQuery } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { clsx } from "clsx";
import { useState } from "react";
import { catalogueQuery, keepersQuery, placesQuery } from "@/client/queries";
import type { RegisterWanted } from "@/client/types";
import { Button } from "@/ui/button";
import { Checkbox } from "@/ui/checkbox";
import { DateField } from "@/ui/date-field";
import { SelectField, TextField } from "@/ui/fields";

export function RegisterFilter({ wanted }: { wanted: RegisterWanted }) {
  const navigate = useNavigate({ from: "/register" });
  const set = (part: { [K in keyof RegisterWanted]?: RegisterWanted[K] | undefined }) =>
    void navigate({ search: (old) => ({ ...old, ...part }), replace: true });
  const keepers = useQuery(keepersQuery).data ?? [];
  const places = useQuery(placesQuery()).data?.places ?? [];
  const options = (useQuery(catalogueQuery).data ?? []).filter((one) => one.kind === "chemical");
  const apiaries = places.filter((one) => !wanted.keeper || one.keeper_id === wanted.keeper);
  const [open, setOpen] = useState(false);
  const narrowed = Object.values(wanted).filter((value) => value !== undefined).length;
  return (
    <>
      <Button className="mt-3 desk:hidden" aria-expanded={open} onClick={() => setOpen(!open)}>
        Which lines{narrowed > 0 && ` (${narrowed} set)`}
      </Button>
      <section
        aria-label="Which lines"
        className={clsx("mt-4 grid-cols-2 gap-3 desk:grid desk:grid-cols-6", open ? "grid" : "hidden")}>
        {keepers.length > 1 && (
          <SelectField
            label="Keeper"
            name="keeper"
            value={wanted.keeper ?? ""}
            options={[["", "all"] as const, ...keepers.map((one) => [one.id, one.name] as const)]}
            onChange={(keeper) => set({ keeper: keeper || undefined, apiary: undefined })}
          />
        )}
        <SelectField
          label="Apiary"
          name="apiary"
          value={wanted.apiary ?? ""}
          options={[["", "all"] as const, ...apiaries.map((one) => [one.id, one.name] as const)]}
          onChange={(apiary) => set({ apiary: apiary || undefined })}
        />
        <SelectField
          label="Treatment"
          name="option"
          value={wanted.option ?? ""}
          options={[["", "all"] as const, ...options.map((one) => [one.id, one.name] as const)]}
          onChange={(option) => set({ option: option || undefined })}
        />
        <div className="col-span-2 desk:col-span-1">
          <DateField
            label="Placed from"
            name="since"
            value={wanted.since ?? ""}
            onChange={(since) => set({ since: since || undefined })}
          />
        </div>
        <div className="col-span-2 desk:col-span-1">
          <DateField
            label="Placed to"
            name="until"
            value={wanted.until ?? ""}
            onChange={(until) => set({ until: until || undefined })}
          />
        </div>
        <TextField
          label="Lot on the pack"
          name="lot"
          maxLength={80}
          value={wanted.lot ?? ""}
          onChange={(lot) => set({ lot: lot || undefined })}
        />
        <div className="col-span-2 flex flex-wrap items-center gap-4 desk:col-span-6">
          <Checkbox
            label="Only lines that lack something"
            checked={wanted.incomplete ?? false}
            onChange={() => set({ incomplete: wanted.incomplete ? undefined : true })}
          />
          {narrowed > 0 && (
            <Button variant="quiet" onClick={() => void navigate({ search: {}, replace: true })}>
              Show all
            </Button>
          )}
        </div>
      </section>
    </>
  );
}
