/** The head of a column that orders its list; the one in force is underlined. */
import { clsx } from "clsx";

export function SortButton({ name, inForce, onClick }: { name: string; inForce: boolean; onClick: () => void }) {
  return (
    <button
      type="button"
      className={clsx("min-h-8 text-left underline-offset-4 hover:underline", inForce && "underline decoration-2")}
      aria-pressed={inForce}
      onClick={onClick}>
      {name}
    </button>
  );
}

type ChoiceProps<Order extends string> = {
  order: Order;
  names: Record<Order, string>;
  onOrder: (order: Order) => void;
  className?: string;
};

/** The order of a list as a choice, where there are no heads to press. */
export function OrderChoice<Order extends string>({ order, names, onOrder, className }: ChoiceProps<Order>) {
  const orders = Object.keys(names) as Order[];
  return (
    <label className={clsx("flex items-center gap-2", className)}>
      Order
      <select
        className="input w-auto"
        value={order}
        onChange={(event) => {
          const next = orders.find((one) => one === event.target.value);
          if (next) onOrder(next);
        }}>
        {orders.map((one) => (
          <option key={one} value={one}>
            {names[one]}
          </option>
        ))}
      </select>
    </label>
  );
}
