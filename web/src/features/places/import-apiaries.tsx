/** Apiaries from a table, with their keepers and colonies. */
import { importApiaries } from "@/client/commands/places";
import { plural } from "@/ui/dates";
import { ImportTable } from "@/ui/import-table";
import { colonies } from "@/wording/words";

export function ImportApiaries({ onClose }: { onClose: () => void }) {
  return (
    <ImportTable
      title="Import apiaries from a table"
      send={importApiaries}
      about={["apiary", (row) => row.apiary]}
      columns={[
        ["apiary", (row) => row.apiary],
        ["keeper", (row) => `${row.keeper}${row.new_keeper ? ", new" : ""}`],
        ["new colonies", (row) => colonies(row.colonies)],
      ]}
      takes={(taken) => `Add ${plural(taken, "apiary", "apiaries")}`}
      onClose={onClose}>
      A CSV with the columns <strong className="text-ink">apiary, keeper, latitude, longitude</strong> (degrees, as
      44.2350) and, where they are known, <strong className="text-ink">height</strong> (m) and{" "}
      <strong className="text-ink">colonies</strong>, their labels with spaces between them. A keeper who is not known
      is added; the same file can be brought again.
    </ImportTable>
  );
}
