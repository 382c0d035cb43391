/** The body of a long table: the rows that are drawn, between the heights of those that are not. */
import type { ReactNode } from "react";

type Rows = { drawn: number[]; before: number; after: number };

export function LongRows({ rows, children }: { rows: Rows; children: (index: number) => ReactNode }) {
  return (
    <tbody>
      {rows.before > 0 && <tr style={{ height: rows.before }} />}
      {rows.drawn.map(children)}
      {rows.after > 0 && <tr style={{ height: rows.after }} />}
    </tbody>
  );
}
