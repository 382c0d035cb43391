/** The rooms of treatments: what is due, the autumn programme, what is in stock, the register, what works here. */
import { Link } from "@tanstack/react-router";

const DOORS = [
  ["/treatments", "Due"],
  ["/autumn", "Autumn"],
  ["/stock", "Stock"],
  ["/register", "Register"],
  ["/what-works", "What works"],
] as const;

export function TreatmentDoors() {
  return (
    <nav aria-label="Treatments" className="-mt-1 mb-2 flex whitespace-nowrap desk:gap-1 print:hidden">
      {DOORS.map(([to, text]) => (
        <Link
          key={to}
          to={to}
          className="inline-flex min-h-14 items-center border-b-2 border-transparent px-2.5 text-ink-2 desk:min-h-10"
          activeProps={{ className: "border-ink! font-semibold text-ink!" }}>
          {text}
        </Link>
      ))}
    </nav>
  );
}
