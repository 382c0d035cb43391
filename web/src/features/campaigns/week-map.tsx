/** The coarse map of a count week, the cell that is chosen, and who is near an urgent one. */
import { useQuery } from "@tanstack/react-query";
import { useNavigate, useSearch } from "@tanstack/react-router";
import { landQuery } from "@/client/queries";
import type { Schemas } from "@/client/types";
import { CellMap } from "@/instruments/cell-map";
import { shortDay } from "@/ui/dates";
import { LevelWord } from "@/ui/level";
import { rate } from "@/ui/units";
import { colonies } from "@/wording/words";

type Results = Schemas["WeekResults"];

export function WeekMap({ results, today }: { results: Results; today: string }) {
  const search = useSearch({ from: "/in/count-weeks/$id" });
  const navigate = useNavigate({ from: "/count-weeks/$id" });
  const land = useQuery(landQuery);
  const cell = results.cells.find((one) => one.id === search.cell) ?? null;
  return (
    <section aria-labelledby="map" className="min-w-0">
      <h2 id="map" className="border-b-2 border-ink pb-1 text-xl">
        Coarse map
      </h2>
      <div className="mt-3">
        {results.cells.length > 0 ? (
          <CellMap
            land={land.data ?? null}
            cells={results.cells}
            chosen={cell?.id ?? null}
            onChoose={(id) => void navigate({ search: { cell: id === cell?.id ? undefined : id }, replace: true })}
          />
        ) : (
          <p className="text-ink-2">No cell has three apiaries of three keepers: no map is shown.</p>
        )}
      </div>
      {cell && <CellSays cell={cell} today={today} />}
      <NearUrgent lines={results.apiaries} />
      {results.elsewhere && (
        <p className="mt-2 text-ink-2">
          Elsewhere, where too few keepers stand together to be shown: {results.elsewhere.over} of{" "}
          {results.elsewhere.counted} over, {colonies(results.elsewhere.colonies)}.
        </p>
      )}
      <p className="mt-2 text-sm text-ink-2">
        Cells of about 11 or 22 km, shown only with three apiaries of three keepers. Marked when a quarter of the
        colonies counted are at the level. Hatched: fewer than five counted.
      </p>
    </section>
  );
}

/** Who should hear that mites may come in; each keeper hears of their own apiaries only. */
function NearUrgent({ lines }: { lines: Results["apiaries"] }) {
  const near = lines.filter((one) => one.near_urgent);
  if (near.length === 0) return null;
  return (
    <p className="mt-3">
      <strong>Raised risk of mites coming in</strong>, within two cells of an urgent one:{" "}
      {near.length === lines.length
        ? `all ${lines.length} apiaries`
        : near
            .map((one) => one.name)
            .sort()
            .join(", ")}
      . Their keepers see it in this week too.
    </p>
  );
}

function CellSays({ cell, today }: { cell: Schemas["CellLine"]; today: string }) {
  return (
    <div className="mt-3 border-l-4 border-course py-1 pl-3">
      {cell.level ? <LevelWord level={cell.level} /> : <strong>no counts</strong>}
      <p>
        {cell.counted} of {colonies(cell.colonies)} counted in {cell.apiaries} apiaries of {cell.keepers} keepers
        {cell.median !== null && `; median ${rate(cell.median)} per 100`}
        {cell.share &&
          `; ${Math.round(100 * cell.share.share)} % over (${Math.round(100 * cell.share.low)} to ` +
            `${Math.round(100 * cell.share.high)})`}
        {cell.first_on && cell.last_on && `, ${shortDay(cell.first_on, today)} to ${shortDay(cell.last_on, today)}`}.
      </p>
    </div>
  );
}
