/** How common brood diseases are in the region: it bears on what the signs of a visit fit. */
import { useQuery } from "@tanstack/react-query";
import { caseWordsQuery } from "@/client/case-queries";
import type { Schemas } from "@/client/types";
import { Checkbox } from "@/ui/checkbox";
import { ChoiceField } from "@/ui/choice";
import { SelectField } from "@/ui/fields";
import { CommonnessOfConditions, RegionHistory } from "./commonness";

type Region = Schemas["DiseaseRegion"];
type Law = NonNullable<Region["law"]>;
type Props = { region: Region; disabled: boolean; onChange: (region: Region) => void };

const LEVELS = [
  ["free", "free of it"],
  ["rare", "rare"],
  ["occasional", "now and then"],
  ["common", "common"],
] as const;

export function DiseaseRegion({ region, disabled, onChange }: Props) {
  const set = (part: Partial<Region>) => onChange({ ...region, ...part });
  return (
    <section aria-labelledby="region" className="space-y-3">
      <h2 id="region" className="border-b-2 border-ink pb-1 text-xl">
        Disease in your region
      </h2>
      <p className="text-ink-2">
        As the competent authority has it. It bears on how likely a disease is before anything was seen; the rules that
        stop movement do not ask it. Closed visits keep what held then.
      </p>
      <ChoiceField
        label="American foulbrood"
        value={region.afb_level}
        options={LEVELS}
        onChange={(level) => set({ afb_level: level })}
      />
      <ChoiceField
        label="European foulbrood"
        value={region.efb_level}
        options={LEVELS}
        onChange={(level) => set({ efb_level: level })}
      />
      <CommonnessOfConditions
        commonness={region.commonness ?? {}}
        disabled={disabled}
        onChange={(commonness) => set({ commonness })}
      />
      <Law region={region} disabled={disabled} onChange={(law) => set({ law })} />
      <Checkbox
        label="Small hive beetle is established"
        disabled={disabled}
        checked={region.shb_established}
        onChange={(is) => set({ shb_established: is })}
      />
      <Checkbox
        label="The exotic brood mite (tropilaelaps) is established"
        disabled={disabled}
        checked={region.tropilaelaps_present}
        onChange={(is) => set({ tropilaelaps_present: is })}
      />
      <RegionHistory />
    </section>
  );
}

/** Which law a suspicion follows: whom to tell and how soon, who takes samples, how far around is looked. */
function Law({ region, disabled, onChange }: { region: Region; disabled: boolean; onChange: (law: Law) => void }) {
  const words = useQuery(caseWordsQuery);
  if (!words.data) return null;
  return (
    <SelectField
      label="Law that a suspicion follows"
      name="law"
      disabled={disabled}
      value={region.law ?? "general"}
      options={Object.entries(words.data.laws) as [Law, string][]}
      onChange={onChange}
    />
  );
}
