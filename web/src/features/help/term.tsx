/**
 * A term of the trade in a sentence. What it opens is loaded when it is first asked for: no screen needs it to begin.
 */
import { Suspense, lazy, useState, type ReactNode } from "react";
import type { TermId } from "@/wording/terms";
import { TERM } from "./term-class";

const Open = lazy(() => import("./term-open"));

export function Term({ id, children }: { id: TermId; children: ReactNode }) {
  const [wanted, setWanted] = useState(false);
  const closed = (
    <button
      type="button"
      data-term
      aria-haspopup="dialog"
      aria-expanded={false}
      className={TERM}
      onClick={() => setWanted(true)}>
      {children}
    </button>
  );
  if (!wanted) return closed;
  return (
    <Suspense fallback={closed}>
      <Open id={id}>{children}</Open>
    </Suspense>
  );
}
