/** The lot that a dose is taken from: one in stock, or as it is written on a pack that nobody has entered. */
import { useQuery } from "@tanstack/react-query";
import { lotsQuery } from "@/client/queries";
import type { Schemas } from "@/client/types";
import { shortDay } from "@/ui/dates";
import { SelectField, TextField } from "@/ui/fields";
import { oneDecimal, quantity } from "@/ui/units";

export const OTHER_LOT = "";

type Props = {
  option: Schemas["OptionView"];
  lotId: string;
  lot: string;
  needed: number;
  today: string;
  errorId: string | undefined;
  error: string | undefined;
  /** Before the names of its fields, where the same stand on the page a second time. */
  prefix?: string;
  onChange: (lotId: string, lot: string) => void;
};

/** Lots that an option may be taken from, the first to expire first; those that are used up or over come last. */
function lotsFor(lots: Schemas["LotView"][], option: Schemas["OptionView"]): Schemas["LotView"][] {
  const rank = { expires_soon: 0, good: 1, overdrawn: 2, used_up: 3, expired: 4 } as const;
  return lots
    .filter(({ lot }) => lot.option_ids.includes(option.id) && lot.unit === option.dose_unit)
    .sort((a, b) => rank[a.state] - rank[b.state]);
}

/** The lot that is taken as a rule: the first that is good and not used up. */
export function usualLot(lots: Schemas["LotView"][], option: Schemas["OptionView"]): Schemas["LotView"] | undefined {
  return lotsFor(lots, option).find((one) => one.state === "good" || one.state === "expires_soon");
}

export function LotField({ option, lotId, lot, needed, today, errorId, error, prefix = "", onChange }: Props) {
  const { data, isLoading } = useQuery(lotsQuery);
  // A field that appears and is exchanged for another swallows what is typed into it: wait for the stock.
  if (isLoading) return <p className="min-h-14 text-ink-2">Looking into the stock …</p>;
  const fitting = lotsFor(data?.lots ?? [], option);
  const taken = fitting.find((one) => one.lot.id === lotId);
  return (
    <>
      {fitting.length > 0 && (
        <SelectField
          label="Taken from"
          name={`${prefix}lot_id`}
          error={errorId}
          value={lotId}
          options={[
            ...fitting.map((one) => [one.lot.id, said(one, today)] as const),
            [OTHER_LOT, "another pack, not in stock"] as const,
          ]}
          onChange={(id) => onChange(id, fitting.find((one) => one.lot.id === id)?.lot.lot ?? lot)}
        />
      )}
      {taken && taken.left < needed && <p className="mt-1 text-sm font-semibold">{short(needed, taken)}</p>}
      {lotId === OTHER_LOT && (
        <TextField
          label="Lot on the pack"
          name={`${prefix}lot`}
          error={error}
          maxLength={80}
          value={lot}
          onChange={(text) => onChange(OTHER_LOT, text)}
        />
      )}
    </>
  );
}

/** "8 strips are needed, 7 left: ..." */
function short(needed: number, { lot, left }: Schemas["LotView"]): string {
  const are = needed === 1 ? "is" : "are";
  const rest = oneDecimal(Math.max(0, left));
  return `${quantity(needed, lot.unit)} ${are} needed, ${rest} left: record those of another pack by themselves.`;
}

function said({ lot, left, state }: Schemas["LotView"], today: string): string {
  const until = lot.expires_on ? `use by ${shortDay(lot.expires_on, today)}` : "no date";
  const gone = state === "expired" ? ", out of date" : "";
  const number = lot.lot || "not recorded";
  return `${lot.product}, lot ${number}: ${quantity(Math.max(0, left), lot.unit)} left, ${until}${gone}`;
}
