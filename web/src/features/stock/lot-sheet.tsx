/** One lot: its pack and receipt, what was done with it, where it went, and what can be done with it now. */
import { useState } from "react";
import type { Schemas } from "@/client/types";
import { useMay } from "@/features/session/use-session";
import { Button } from "@/ui/button";
import { longDay, shortDay } from "@/ui/dates";
import { SectionHeading } from "@/ui/page";
import { oneDecimal, quantity } from "@/ui/units";
import { LOT_CHANGE, LOT_STATE } from "@/wording/words";
import { BottleDialog } from "@/features/mixing/bottle-dialog";
import { ChangeLot } from "./change-lot";
import { LotForm } from "./lot-form";
import { WherePlaced } from "./where-placed";

type Props = {
  view: Schemas["LotView"];
  options: Schemas["OptionView"][];
  today: string;
  onLot: (lot: string | undefined) => void;
};
type Doing = "amend" | "change" | "mix" | null;

export function LotSheet({ view, options, today, onLot }: Props) {
  const mayRecord = useMay("record");
  const [doing, setDoing] = useState<Doing>(null);
  const { lot } = view;
  const close = () => setDoing(null);
  const serves = options.filter((one) => lot.option_ids.includes(one.id));
  const mayMix = lot.unit === "g" && serves.some((one) => one.mixing !== null);
  return (
    <section aria-labelledby="lot" className="border-2 border-ink bg-sheet p-4">
      <SectionHeading id="lot">{lot.product}</SectionHeading>
      <p>
        <span className="figure text-4xl">{oneDecimal(view.left)}</span>{" "}
        {quantity(view.left, lot.unit).replace(/^\S+ /, "")} left: {LOT_STATE[view.state]}
        {lot.expires_on && `, use by ${longDay(lot.expires_on)}`}.
      </p>
      {view.state === "overdrawn" && (
        <p className="mt-1 font-semibold text-act">
          More was recorded as used than was bought: was another pack opened, or a dose mistyped?
        </p>
      )}
      <dl className="mt-3 grid grid-cols-[8rem_minmax(0,1fr)] gap-x-3 gap-y-1 text-[0.95rem]">
        <Fact name="Lot" value={lot.lot} />
        <Fact name="Strength" value={lot.strength} />
        <Fact name="Bought" value={lot.bought_on ? shortDay(lot.bought_on, today) : ""} />
        <Fact name="Supplier" value={lot.supplier} />
        <Fact name="Receipt" value={lot.receipt} />
        <Fact name="Used for" value={serves.map((one) => one.name).join("; ")} />
        {lot.note && <Fact name="Note" value={lot.note} />}
      </dl>
      <div className="mt-4 flex flex-wrap gap-2">
        {mayRecord && mayMix && (
          <Button variant="main" onClick={() => setDoing("mix")}>
            Mix a solution
          </Button>
        )}
        {mayRecord && <Button onClick={() => setDoing("change")}>Dispose of some</Button>}
        {mayRecord && <Button onClick={() => setDoing("amend")}>Amend</Button>}
        <a
          className="inline-flex min-h-14 items-center px-2 desk:min-h-10 underline underline-offset-4"
          href={`/api/v1/lots/${lot.id}/label.pdf`}>
          Label to print (PDF)
        </a>
      </div>
      <ul className="mt-4 border-t border-line text-[0.95rem]">
        <li className="border-b border-line py-1.5">{quantity(lot.quantity, lot.unit)} in</li>
        {view.placed > 0 && <li className="border-b border-line py-1.5">{quantity(view.placed, lot.unit)} placed</li>}
        {lot.changes.map((one) => (
          <li key={one.id} className="border-b border-line py-1.5">
            {quantity(one.quantity, lot.unit)} {LOT_CHANGE[one.kind]}, {shortDay(one.done_on, today)}, {one.by_name}
            {one.how && `: ${one.how}`}
          </li>
        ))}
      </ul>
      <WherePlaced lotId={lot.id} today={today} />
      {doing === "amend" && <LotForm options={options} today={today} lot={lot} onClose={close} onSaved={close} />}
      {doing === "change" && <ChangeLot view={view} today={today} onClose={close} />}
      {doing === "mix" && <BottleDialog view={view} today={today} onClose={close} onMade={onLot} />}
    </section>
  );
}

function Fact({ name, value }: { name: string; value: string }) {
  return (
    <>
      <dt className="text-ink-2">{name}</dt>
      <dd>{value || "not recorded"}</dd>
    </>
  );
}
