/** The person on the bar. What opens under it is loaded when it is first asked for: no screen needs it to begin. */
import { Suspense, lazy, useState } from "react";
import { PersonButton } from "./person-button";

const Open = lazy(() => import("./person-menu-open"));

export function PersonMenu() {
  const [wanted, setWanted] = useState(false);
  const closed = <PersonButton aria-haspopup="menu" aria-expanded={false} onClick={() => setWanted(true)} />;
  if (!wanted) return closed;
  return (
    <Suspense fallback={closed}>
      <Open />
    </Suspense>
  );
}
