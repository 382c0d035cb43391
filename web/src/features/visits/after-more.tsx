/** What is asked less often after the last frame: pests, feed, traps, supers, tools, and what cut the visit short. */
import { Checkbox } from "@/ui/checkbox";
import { ChoiceField } from "@/ui/choice";
import { Stepper } from "@/ui/stepper";
import { asFlag, type SetAfter } from "./after-set";
import type { After } from "./visit-queue";

const SOME = [
  ["none", "none"],
  ["few", "few"],
  ["some", "some"],
  ["many", "many"],
] as const;

const FEEDER = [
  ["put_on", "put on"],
  ["refilled", "refilled"],
  ["taken", "emptied by the bees"],
  ["untouched", "left untouched"],
  ["removed", "taken off"],
] as const;
/** Found or done without new feed: nothing was fed at this visit. */
const ENDS_FEED: ReadonlySet<string> = new Set(["taken", "untouched", "removed"]);

type Props = { content: After; set: SetAfter };

export function AfterMore({ content, set }: Props) {
  return (
    <div className="space-y-4">
      <Pests content={content} set={set} />
      <Feed content={content} set={set} />
      <StoresAre content={content} set={set} />
      <QuickActs content={content} set={set} />
      <Stepper label="Traps set" value={content.traps ?? null} most={50} onChange={(value) => set({ traps: value })} />
      <ChoiceField
        label="Supers on"
        value={asFlag(content.supers_on)}
        options={[
          ["yes", "yes"],
          ["no", "no"],
        ]}
        onChange={(value) => set({ supers_on: value === "yes" })}
      />
      <ChoiceField
        label="Tools"
        says="Tools before the next hive"
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
      <ChoiceField
        label="Cut short by"
        says="Inspection cut short by"
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
  );
}

function Pests({ content, set }: Props) {
  return (
    <>
      <Stepper
        label="Empty cells in the sealed area, %"
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
      <ChoiceField
        label="Moth"
        value={content.moth ?? ""}
        options={SOME}
        onChange={(value) => value && set({ moth: value })}
      />
      <ChoiceField
        label="Wasps"
        value={content.wasps ?? ""}
        options={SOME}
        onChange={(value) => value && set({ wasps: value })}
      />
    </>
  );
}

const STORES_ARE = [
  ["set_hard", "set hard in the comb"],
  ["fermenting", "fermenting"],
  ["syrup", "stored syrup"],
] as const;

/** What part of the stores is, where it is not plain honey. */
function StoresAre({ content, set }: Props) {
  const are = content.stores_are ?? [];
  return (
    <fieldset>
      <legend className="mb-1 font-semibold">Part of the stores is</legend>
      {STORES_ARE.map(([kind, says]) => (
        <Checkbox
          key={kind}
          label={says}
          checked={are.includes(kind)}
          onChange={(is) => set({ stores_are: is ? [...are, kind] : are.filter((one) => one !== kind) })}
        />
      ))}
    </fieldset>
  );
}

/** Small acts that are no course. */
function QuickActs({ content, set }: Props) {
  return (
    <>
      <Stepper
        label="Drone comb cut out"
        value={content.drone_combs_cut ?? null}
        unit="combs"
        most={20}
        start={1}
        onChange={(value) => set({ drone_combs_cut: value })}
      />
      <Stepper
        label="Queen cells removed"
        value={content.queen_cells_removed ?? null}
        unit="cells"
        most={200}
        start={1}
        onChange={(value) => set({ queen_cells_removed: value })}
      />
      <Checkbox
        label="Dusted with sugar"
        checked={content.sugar_dusted}
        onChange={(dusted) => set({ sugar_dusted: dusted })}
      />
    </>
  );
}

function Feed({ content, set }: Props) {
  const syrup = content.feed?.startsWith("syrup") ?? false;
  return (
    <>
      <ChoiceField
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
        onChange={(value) =>
          value &&
          set({
            feed: value,
            ...(value === "none" ? { feed_amount: null } : {}),
            ...(value !== "none" && ENDS_FEED.has(content.feeder ?? "") ? { feeder: null } : {}),
          })
        }
      />
      <ChoiceField
        label="Feeder"
        value={content.feeder ?? ""}
        columns={3}
        options={FEEDER}
        onChange={(value) =>
          value && set({ feeder: value, ...(ENDS_FEED.has(value) ? { feed: "none", feed_amount: null } : {}) })
        }
      />
      {content.feed && content.feed !== "none" && (
        <Stepper
          label={syrup ? "Litres" : "Kilograms"}
          value={content.feed_amount ?? null}
          unit={syrup ? "l" : "kg"}
          step={0.5}
          least={0.5}
          most={100}
          start={1}
          onChange={(value) => set({ feed_amount: value })}
        />
      )}
    </>
  );
}
