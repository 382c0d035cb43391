/** Blank sheets of an apiary, to print and fill in by hand: a page a colony, its boxes with the frames they hold. */
import { useQuery } from "@tanstack/react-query";
import { useParams } from "@tanstack/react-router";
import { apiaryQuery } from "@/client/queries";
import type { Schemas } from "@/client/types";
import { Breadcrumbs } from "@/ui/breadcrumbs";
import { Button } from "@/ui/button";
import { longDay } from "@/ui/dates";
import { Loaded } from "@/ui/loaded";
import { rate } from "@/ui/units";
import { LEVEL, SCALE } from "@/wording/words";

type View = Schemas["ApiaryView"];
type Colony = Schemas["ColonyOverview"];

const BEFORE = ["date", "air temperature", "traffic", "opened by"];
const AFTER = ["seams of bees", "frames of brood", "stores, kg", "temper, 1 to 10", "queen cells", "mites in … bees"];

export function BlankSheets() {
  const { id } = useParams({ from: "/in/apiaries/$id/sheets" });
  const query = useQuery(apiaryQuery(id));
  return (
    <Loaded query={query} what="Laying out the sheets …">
      {(view) => (
        <main id="main" className="mx-auto w-full max-w-[820px] flex-1 px-4 py-6 desk:px-6 print:p-0">
          <div className="print:hidden">
            <Breadcrumbs path={[{ name: view.apiary.name, to: "/apiaries/$id", params: { id } }]} />
            <h1 className="text-4xl">Blank sheets</h1>
            <p className="mt-1 text-ink-2">
              A page a colony, to fill in at the hive and to enter later as past visits.
            </p>
            <Button variant="main" className="my-4" onClick={() => window.print()}>
              Print
            </Button>
          </div>
          {view.colonies
            .filter((one) => one.is_living)
            .map((one) => (
              <Sheet key={one.id} view={view} colony={one} />
            ))}
        </main>
      )}
    </Loaded>
  );
}

function Sheet({ view, colony }: { view: View; colony: Colony }) {
  const boxes = view.hives
    .filter((box) => box.id === colony.hive_id)
    .flatMap(({ box_id, frames, position }) => (box_id && frames ? [{ id: box_id, frames, at: position ?? 0 }] : []))
    .sort((a, b) => b.at - a.at);
  return (
    <section className="mb-8 break-after-page border border-line-2 bg-sheet p-5 print:mb-0 print:border-0 print:p-0">
      <h2 className="flex items-baseline justify-between gap-4 text-3xl">
        {colony.label}
        <span className="font-sans text-base font-normal">
          {view.apiary.name}, {view.apiary.keeper}
        </span>
      </h2>
      <p className="mt-1">
        {colony.queen_year ? `Queen ${colony.queen_year}` : "Queen not known"}
        {colony.mark_seen && `, marked ${colony.mark_seen}`}. Level on {longDay(view.today)}: {LEVEL[colony.level]}
        {colony.median !== null && colony.scale && `, ${rate(colony.median)} ${SCALE[colony.scale]}`}.
      </p>
      <Lines names={BEFORE} />
      {boxes.length === 0 && <p className="mt-4">The boxes of this hive are not recorded.</p>}
      {boxes.map((box) => (
        <div key={box.id} className="mt-3">
          <p className="text-sm">{box.frames} frames; each side: sealed, open, eggs, honey, pollen, bees in tenths</p>
          <ol className="flex border-2 border-ink" aria-label={`A box of ${box.frames} frames`}>
            {Array.from({ length: box.frames }, (_, at) => (
              <li key={at} className="relative h-40 min-w-0 flex-1 border-l border-line-2 first:border-l-0">
                <span className="absolute inset-y-0 left-1/2 border-l border-dotted border-line-2" />
                <span className="absolute bottom-0 left-1 text-sm">{at + 1}</span>
              </li>
            ))}
          </ol>
        </div>
      ))}
      <p className="mt-3 flex flex-wrap gap-x-6">
        {["queen seen", "eggs", "open brood", "sealed brood", "disease looked for"].map((name) => (
          <span key={name}>☐ {name}</span>
        ))}
      </p>
      <Lines names={AFTER} />
      <Lines names={["signs, and on which frame", "what was done", "next visit"]} wide />
    </section>
  );
}

/** Names with a line to write on. */
function Lines({ names, wide = false }: { names: string[]; wide?: boolean }) {
  return (
    <ul className={wide ? "mt-2" : "mt-2 grid grid-cols-2 gap-x-6"}>
      {names.map((name) => (
        <li key={name} className="flex items-end gap-2 pt-5">
          <span className="shrink-0 text-sm">{name}</span>
          <span className="flex-1 border-b border-ink" />
        </li>
      ))}
    </ul>
  );
}
