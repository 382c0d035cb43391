/** The rooms of treatments: what is due, what is in stock, the register. */
import { Link } from "@tanstack/react-router";

const DOORS = [
  ["/treatments", "Due"],
  ["/stock", "Stock"],
  ["/register", "Register"],
] as const;

export function TreatmentDoors() {
  return (
    <nav aria-label="Treatments" className="-mt-1 mb-2 flex gap-1 print:hidden">
      {DOORS.map(([to, text]) => (
        <Link
          key={to}
          to={to}
          className="inline-flex min-h-14 items-center border-b-2 border-transparent px-3 text-ink-2 desk:min-h-10"
          activeProps={{ className: "border-ink! font-semibold text-ink!" }}>
          {text}
        </Link>
      ))}
    </nav>
  );
}
