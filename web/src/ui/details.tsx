/** The reasons slip: what was compared with what, by which school and rule, and what the others would say. */
import type { ReactNode } from "react";

export function Details({
  title = "Why",
  children,
  open = false,
}: {
  title?: string;
  children: ReactNode;
  open?: boolean;
}) {
  return (
    <details open={open} className="border-t border-dashed border-line-2 pt-2">
      <summary className="min-h-8 cursor-pointer py-1 font-semibold underline underline-offset-4">{title}</summary>
      <div className="space-y-1.5 py-2 text-[0.95rem] text-ink-2">{children}</div>
    </details>
  );
}
