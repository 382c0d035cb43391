/** After the last frame, or a quick visit: the colony as a whole, what was done, and when to come back. */
import type { Schemas } from "@/client/types";
import { FillBar } from "@/instruments/fill-bar";
import { Choice } from "@/ui/choice";
import { Button } from "@/ui/button";
import { Notice } from "@/ui/page";
import { Stepper } from "@/ui/stepper";
import { shortDay } from "@/ui/dates";
import type { After, View } from "./visit-queue";

const SOME = [
  ["none", "none"],
  ["few", "few"],
  ["some", "some"],
  ["many", "many"],
] as const;

function Row({
  label,
  value,
  unit,
  most,
  was,
  onChange,
}: {
  label: string;
  value: number | null;
  unit: string;
  most: number;
  was?: number | null | undefined;
  onChange: (value: number) => void;
}) {
  return (
    <div className="grid grid-cols-[1fr_auto] items-center gap-x-3 gap-y-1 desk:grid-cols-[9rem_1fr_6rem]">
      <span className="font-semibold leading-tight">{label}</span>
      <div className="order-last col-span-2 desk:order-none desk:col-span-1">
        <FillBar label={label} value={value} most={most} unit={unit} was={was ?? undefined} onChange={onChange} />
      </div>
      <span className="text-right">
        <span className="figure text-xl">{value ?? "–"}</span>
        {value !== null && unit !== "of 10" ? ` ${unit}` : ""}
      </span>
    </div>
  );
}

export function AfterForm({
  content,
  view,
  fault,
  onChange,
}: {
  content: After;
  view: View;
  fault: { field: string; message: string } | null;
  onChange: (content: After) => void;
}) {
  const set = (part: Partial<After>) => onChange({ ...content, ...part });
  const at = (name: string) => (fault?.field.endsWith(name) ? fault.message : undefined);
  const { assessment } = view;
  const trend = (name: Schemas["VisitTrend"]["name"]) => assessment.trends.find((one) => one.name === name);
  const flag = (value: boolean | null | undefined) =>
    value === null || value === undefined ? "" : value ? "yes" : "no";
  return (
    <div className="space-y-5">
      <div className="space-y-2">
        <Row
          label="Seams of bees"
          value={content.seams_of_bees ?? null}
          unit="seams"
          most={12}
          onChange={(value) => set({ seams_of_bees: value })}
        />
        <Row
          label="Frames of brood"
          value={content.frames_of_brood ?? assessment.estimates.frames_of_brood}
          unit="frames"
          most={12}
          was={trend("frames_of_brood")?.then}
          onChange={(value) => set({ frames_of_brood: value })}
        />
        <Row
          label="Stores"
          value={content.stores_kg ?? null}
          unit="kg"
          most={30}
          was={trend("stores_kg")?.then}
          onChange={(value) => set({ stores_kg: value, stores_by: content.stores_by ?? "hefting" })}
        />
        <Row
          label="Temper"
          value={content.temper ?? null}
          unit="of 10"
          most={10}
          onChange={(value) => set({ temper: Math.max(1, value) })}
        />
      </div>
      {content.stores_kg !== null && content.stores_kg !== undefined && (
        <Choice
          label="Stores known by"
          value={content.stores_by ?? "hefting"}
          options={[
            ["hefting", "hefted"],
            ["frames", "seen on frames"],
            ["weighing", "weighed"],
          ]}
          onChange={(value) => set({ stores_by: value })}
        />
      )}
      <div>
        <p className="mb-1 font-semibold" aria-hidden="true">
          Queen
        </p>
        <Choice
          label="Queen"
          value={content.queen ?? ""}
          options={[
            ["seen", "seen"],
            ["eggs_only", "only eggs"],
            ["neither", "neither"],
            ["not_looked", "not looked for"],
          ]}
          onChange={(value) =>
            value &&
            set({
              queen: value,
              eggs_seen: value === "eggs_only" ? true : value === "neither" ? false : (content.eggs_seen ?? null),
            })
          }
        />
      </div>
      <div>
        <p className="mb-1 font-semibold" aria-hidden="true">
          Eggs seen
        </p>
        <Choice
          label="Eggs seen"
          value={flag(content.eggs_seen)}
          options={[
            ["yes", "eggs"],
            ["no", "no eggs"],
          ]}
          onChange={(value) => set({ eggs_seen: value === "yes" })}
        />
      </div>
      <div className="grid gap-4 desk:grid-cols-2">
        <label className="flex min-h-14 items-center gap-3">
          <input
            type="checkbox"
            className="h-6 w-6"
            checked={content.queen_caged}
            onChange={(event) =>
              set({
                queen_caged: event.target.checked,
                queen_released: event.target.checked ? content.queen_released : false,
              })
            }
          />
          The queen was caged
        </label>
        {content.queen_caged && (
          <label className="flex min-h-14 items-center gap-3">
            <input
              type="checkbox"
              className="h-6 w-6"
              checked={content.queen_released}
              onChange={(event) => set({ queen_released: event.target.checked })}
            />
            She is free again, between brood frames
          </label>
        )}
        <label className="flex min-h-14 items-center gap-3">
          <input
            type="checkbox"
            className="h-6 w-6"
            checked={content.two_queens}
            onChange={(event) => set({ two_queens: event.target.checked })}
          />
          There are two queens
        </label>
      </div>
      {at("queen_released") && (
        <p role="alert" className="font-semibold text-act">
          {at("queen_released")}
        </p>
      )}
      <details className="border-t border-line pt-2">
        <summary className="min-h-10 font-semibold underline underline-offset-4">Pests, feed, pattern, tools</summary>
        <div className="mt-3 space-y-4">
          <Stepper
            label="Empty cells in the capped area, %"
            value={content.pattern_empty_pct ?? null}
            step={5}
            most={100}
            unit="%"
            onChange={(value) => set({ pattern_empty_pct: value })}
          />
          <Stepper
            label="Small hive beetles"
            value={content.beetles ?? null}
            onChange={(value) => set({ beetles: value })}
          />
          {(
            [
              ["moth", "Moth"],
              ["wasps", "Wasps"],
            ] as const
          ).map(([name, says]) => (
            <div key={name}>
              <p className="mb-1 font-semibold" aria-hidden="true">
                {says}
              </p>
              <Choice
                label={says}
                value={content[name] ?? ""}
                options={SOME}
                onChange={(value) => value && set({ [name]: value })}
              />
            </div>
          ))}
          <div>
            <p className="mb-1 font-semibold" aria-hidden="true">
              Fed
            </p>
            <Choice
              label="Fed"
              value={content.feed ?? ""}
              columns={3}
              options={[
                ["none", "nothing"],
                ["syrup_1_1", "syrup 1:1"],
                ["syrup_2_1", "syrup 2:1"],
                ["fondant", "fondant"],
                ["pollen", "pollen"],
              ]}
              onChange={(value) => value && set({ feed: value, ...(value === "none" ? { feed_amount: null } : {}) })}
            />
          </div>
          {content.feed && content.feed !== "none" && (
            <Stepper
              label={content.feed.startsWith("syrup") ? "Litres" : "Kilograms"}
              value={content.feed_amount ?? null}
              unit={content.feed.startsWith("syrup") ? "l" : "kg"}
              step={0.5}
              least={0.5}
              most={100}
              start={1}
              onChange={(value) => set({ feed_amount: value })}
            />
          )}
          <Stepper
            label="Traps set"
            value={content.traps ?? null}
            most={50}
            onChange={(value) => set({ traps: value })}
          />
          <div>
            <p className="mb-1 font-semibold" aria-hidden="true">
              Supers on
            </p>
            <Choice
              label="Supers on"
              value={flag(content.supers_on)}
              options={[
                ["yes", "yes"],
                ["no", "no"],
              ]}
              onChange={(value) => set({ supers_on: value === "yes" })}
            />
          </div>
          <div>
            <p className="mb-1 font-semibold" aria-hidden="true">
              Tools before the next hive
            </p>
            <Choice
              label="Tools"
              value={content.tool_hygiene ?? ""}
              columns={2}
              options={[
                ["new_gloves", "new gloves"],
                ["washed", "washed"],
                ["flamed", "flamed"],
                ["none", "nothing"],
              ]}
              onChange={(value) => value && set({ tool_hygiene: value })}
            />
          </div>
          <div>
            <p className="mb-1 font-semibold" aria-hidden="true">
              Inspection cut short by
            </p>
            <Choice
              label="Cut short by"
              value={content.limited_by ?? ""}
              columns={3}
              options={[
                ["cold", "cold"],
                ["rain", "rain"],
                ["robbing", "robbing"],
                ["temper", "temper"],
                ["keeper", "keeper"],
                ["time", "time"],
              ]}
              onChange={(value) => value && set({ limited_by: value })}
            />
          </div>
        </div>
      </details>
      <div className="grid gap-4 desk:grid-cols-2">
        <label className="block">
          <span className="mb-1 block font-semibold">Decided, and why</span>
          <textarea
            className="input"
            rows={2}
            maxLength={2000}
            value={content.decided}
            onChange={(event) => set({ decided: event.target.value })}
          />
        </label>
        <label className="block">
          <span className="mb-1 block font-semibold">Note</span>
          <textarea
            className="input"
            rows={2}
            maxLength={2000}
            value={content.note}
            onChange={(event) => set({ note: event.target.value })}
          />
        </label>
      </div>
      <div>
        <label className="block">
          <span className="mb-1 block font-semibold">Come back on</span>
          <input
            type="date"
            className="input"
            min={view.visit.visited_on}
            value={content.next_visit ?? assessment.suggested.on}
            aria-invalid={at("next_visit") ? true : undefined}
            onChange={(event) => event.target.value && set({ next_visit: event.target.value })}
          />
        </label>
        {at("next_visit") && (
          <p role="alert" className="mt-1 font-semibold text-act">
            {at("next_visit")}
          </p>
        )}
        <p className="mt-1 text-sm text-ink-2">
          Suggested {shortDay(assessment.suggested.on, view.today)}: {assessment.suggested.why}.{" "}
          {content.next_visit && content.next_visit !== assessment.suggested.on && (
            <Button variant="quiet" onClick={() => set({ next_visit: null, next_why: "" })}>
              Take the suggestion
            </Button>
          )}
        </p>
      </div>
      {fault && !["queen_released", "next_visit"].some((name) => fault.field.endsWith(name)) && (
        <Notice tone="act">{fault.message}</Notice>
      )}
    </div>
  );
}
