/** The entrance as it stands, what speaks against it, and what each width is good for. */
import { clsx } from "clsx";
import { useState } from "react";
import { setEntrance } from "@/client/commands/pests";
import type { Schemas } from "@/client/types";
import { Button } from "@/ui/button";
import { Checkbox } from "@/ui/checkbox";
import { ChoiceField } from "@/ui/choice";
import { DateField } from "@/ui/date-field";
import { shortDay } from "@/ui/dates";
import { Dialog } from "@/ui/dialog";
import { TextField } from "@/ui/fields";
import { Notice, SectionHeading } from "@/ui/page";
import { SaveForm, bindFields, useDraft, useSave } from "@/ui/save-form";
import { Stepper } from "@/ui/stepper";
import { capital } from "@/wording/words";
import { DEVICE, ENTRANCE_WARNING } from "./words";

type View = Schemas["ColonyPests"];
type Props = { view: View; colonyId: string; mayRecord: boolean; onSaved: () => Promise<unknown> };

export function Entrances({ view, colonyId, mayRecord, onSaved }: Props) {
  const [open, setOpen] = useState(false);
  const { entrance, warnings } = view;
  return (
    <section aria-labelledby="entrance">
      <SectionHeading id="entrance">Entrance</SectionHeading>
      {entrance ? (
        <p className="mt-2">
          <strong>{capital(inWords(entrance))}</strong> since {shortDay(entrance.since, view.today)}
          {entrance.why && `: ${entrance.why}`}.
        </p>
      ) : (
        <p className="mt-2 text-ink-2">Not on record.</p>
      )}
      {warnings.length > 0 && (
        <Notice tone="act">
          <ul>
            {warnings.map((one) => (
              <li key={one}>{capital(ENTRANCE_WARNING[one])}.</li>
            ))}
          </ul>
        </Notice>
      )}
      <TradeOff widths={view.widths} width={entrance?.device === "shut" ? null : (entrance?.width_mm ?? null)} />
      {view.entrances.length > 1 && (
        <p className="mt-1 text-sm text-ink-2">
          Before:{" "}
          {view.entrances
            .slice(1, 5)
            .map((one) => `${inWords(one)} from ${shortDay(one.since, view.today)}`)
            .join("; ")}
          .
        </p>
      )}
      {mayRecord && (
        <Button className="mt-2" onClick={() => setOpen(true)}>
          Change the entrance
        </Button>
      )}
      <Dialog open={open} onClose={() => setOpen(false)} title={`Entrance of ${view.label}`}>
        <EntranceForm
          view={view}
          colonyId={colonyId}
          onDone={async () => {
            await onSaved();
            setOpen(false);
          }}
        />
      </Dialog>
    </section>
  );
}

function inWords({ device, width_mm: width, mesh_shut: mesh }: Schemas["Entrance"]): string {
  if (device === "shut") return "shut";
  const parts = [device === "open" && width === null ? "open over its full width" : DEVICE[device]];
  if (width !== null) parts.push(`${width} mm wide`);
  if (mesh) parts.push("mesh floor shut");
  return parts.join(", ");
}

const GRADE = { poor: 1, fair: 2, good: 3, very_good: 4, best: 5 } as const;

/** Defence against air, width by width: what one gains the other loses. */
function TradeOff({ widths, width }: { widths: View["widths"]; width: number | null }) {
  return (
    <table className="mt-2 w-full text-sm">
      <caption className="sr-only">What each width is good for</caption>
      <thead>
        <tr className="text-left text-ink-2">
          <th className="font-normal">width</th>
          <th className="font-normal">defence</th>
          <th className="font-normal">air</th>
          <th className="font-normal">for</th>
        </tr>
      </thead>
      <tbody>
        {widths.map((one) => {
          const here = width !== null && width >= one.least_mm && width <= one.most_mm;
          return (
            <tr key={one.least_mm} className={clsx("border-t border-line", here && "bg-ink text-sheet")}>
              <th scope="row" className="whitespace-nowrap py-1 pl-1 pr-3 text-left font-semibold">
                {one.bees_a_minute === null ? "full" : `to ${one.most_mm} mm`}
              </th>
              <td className="pr-3">
                <Grade grade={one.defence} />
              </td>
              <td className="pr-3">
                <Grade grade={one.air} />
              </td>
              <td>
                {one.use}
                {one.bees_a_minute !== null && `; about ${one.bees_a_minute} bees a minute`}
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

function Grade({ grade }: { grade: keyof typeof GRADE }) {
  return (
    <span className="inline-flex gap-0.5">
      <span className="sr-only">{grade.replace("_", " ")}</span>
      {[1, 2, 3, 4, 5].map((one) => (
        <span
          key={one}
          aria-hidden="true"
          className={clsx("h-3 w-2 border border-current", one <= GRADE[grade] && "bg-current")}
        />
      ))}
    </span>
  );
}

const DEVICES = (Object.keys(DEVICE) as (keyof typeof DEVICE)[]).map((one) => [one, capital(DEVICE[one])] as const);

function EntranceForm({ view, colonyId, onDone }: { view: View; colonyId: string; onDone: () => Promise<void> }) {
  const [id] = useState(() => crypto.randomUUID());
  const now = view.entrance;
  const [draft, set, kept] = useDraft(
    {
      device: now?.device ?? "reducer",
      width_mm: now?.width_mm ?? null,
      mesh_shut: now?.mesh_shut ?? false,
      since: view.today,
      why: "",
    },
    `entrance:${colonyId}:${now?.since ?? ""}`,
  );
  const save = useSave({ kept, act: () => setEntrance({ id, colony_id: colonyId, ...draft }), done: onDone });
  const field = bindFields(draft, set, save);
  return (
    <SaveForm save={save} kept={kept} fields={["since", "width_mm", "why"]} label="Record the entrance">
      <ChoiceField
        label="Before it stands"
        value={draft.device}
        options={DEVICES}
        columns={3}
        onChange={(device) => set({ device, width_mm: device === "shut" || device === "open" ? null : draft.width_mm })}
      />
      {draft.device !== "shut" && (
        <>
          <Stepper
            label="Width"
            unit="mm"
            value={draft.width_mm}
            step={draft.width_mm !== null && draft.width_mm < 20 ? 2 : 10}
            least={2}
            most={420}
            start={50}
            error={save.at("width_mm")}
            onChange={(width) => set({ width_mm: width })}
          />
          {draft.width_mm !== null && (
            <Button variant="quiet" onClick={() => set({ width_mm: null })}>
              Over its full width
            </Button>
          )}
        </>
      )}
      <Checkbox
        label="The mesh floor is shut as well"
        checked={draft.mesh_shut}
        onChange={(shut) => set({ mesh_shut: shut })}
      />
      <TextField label="Why" maxLength={400} {...field("why")} />
      <DateField label="So since" max={view.today} {...field("since")} />
    </SaveForm>
  );
}
