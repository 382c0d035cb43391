/** How common brood conditions are in the region against what is usual; what is not said is as usual. */
import { useQuery } from "@tanstack/react-query";
import { regionRecordQuery } from "@/client/queries";
import type { Schemas } from "@/client/types";
import { longDay } from "@/ui/dates";
import { Details } from "@/ui/details";
import { SelectField } from "@/ui/fields";
import { capital } from "@/wording/words";

type Commonness = NonNullable<Schemas["DiseaseRegion"]["commonness"]>;
type Word = Commonness[string];
const WORDS = [
  ["much_rarer", "much rarer (a quarter)"],
  ["rarer", "rarer (half)"],
  ["", "as usual"],
  ["commoner", "commoner (twice)"],
  ["much_commoner", "much commoner (four times)"],
] as const;

type Props = { commonness: Commonness; disabled: boolean; onChange: (commonness: Commonness) => void };

export function CommonnessOfConditions({ commonness, disabled, onChange }: Props) {
  const record = useQuery(regionRecordQuery).data;
  if (!record) return null;
  const set = (condition: string, word: Word | "") => {
    const rest = Object.entries(commonness).filter(([one]) => one !== condition);
    onChange(Object.fromEntries(word === "" ? rest : [...rest, [condition, word]]));
  };
  const said = Object.keys(commonness).length;
  return (
    <Details title={`Other conditions, against what is usual${said > 0 ? ` (${said} said)` : ""}`} open={said > 0}>
      <div className="grid gap-3 desk:grid-cols-2">
        {Object.entries(record.conditions).map(([id, name]) => (
          <SelectField
            key={id}
            label={capital(name)}
            name={`commonness.${id}`}
            disabled={disabled}
            value={commonness[id] ?? ""}
            options={WORDS}
            onChange={(word) => set(id, word)}
          />
        ))}
      </div>
    </Details>
  );
}

/** What was said of the region before, by whom and when. */
export function RegionHistory() {
  const record = useQuery(regionRecordQuery).data;
  if (!record || record.said.length < 2) return null;
  return (
    <Details title="What was said before">
      <ul>
        {record.said.map((one) => (
          <li key={one.version}>
            Version {one.version}, {longDay(one.at.slice(0, 10))}
            {one.by_name && `, ${one.by_name}`}: {regionSaid(one.region, record.conditions)}
          </li>
        ))}
      </ul>
    </Details>
  );
}

const LEVEL = { free: "none", rare: "rare", occasional: "now and then", common: "common" } as const;
const OTHER: Record<Word, string> = {
  much_rarer: "much rarer",
  rarer: "rarer",
  commoner: "commoner",
  much_commoner: "much commoner",
};

function regionSaid(region: Schemas["DiseaseRegion"], names: Record<string, string>): string {
  const others = Object.entries(region.commonness ?? {}).map(([id, word]) => `${names[id] ?? id} ${OTHER[word]}`);
  return [
    `American foulbrood ${LEVEL[region.afb_level ?? "occasional"]}`,
    `European foulbrood ${LEVEL[region.efb_level ?? "occasional"]}`,
    ...(region.shb_established ? ["small hive beetle established"] : []),
    ...(region.tropilaelaps_present ? ["tropilaelaps established"] : []),
    ...others,
  ].join(", ");
}
