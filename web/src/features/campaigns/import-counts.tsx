/** Counts from a table. */
import { importCounts } from "@/client/commands/campaigns";
import { shortDay } from "@/ui/dates";
import { ImportTable } from "@/ui/import-table";
import { rate } from "@/ui/units";

export function BringCounts({ weekId, onClose }: { weekId: string; onClose: () => void }) {
  return (
    <ImportTable
      title="Import counts from a table"
      send={(table, take) => importCounts(weekId, table, take)}
      about={["colony", (row) => `${row.apiary} ${row.colony}`]}
      columns={[
        ["colony", (row) => `${row.apiary} ${row.colony}`],
        ["day", (row) => row.taken_on && shortDay(row.taken_on)],
        ["mites", (row) => row.mites],
        ["per 100 bees", (row) => (row.rate === null ? "no rate: bees not recorded" : rate(row.rate))],
      ]}
      takes={(taken) => `Take ${taken === 1 ? "this count" : `these ${taken} counts`}`}
      onClose={onClose}>
      A CSV with the columns <strong className="text-ink">apiary, colony, date, mites</strong> (shakes as 5+1) and one
      of <strong className="text-ink">bees, ml</strong> or <strong className="text-ink">g</strong>;{" "}
      <strong className="text-ink">method</strong> where it is no wash. The same file can be brought again: each count
      is taken once.
    </ImportTable>
  );
}
