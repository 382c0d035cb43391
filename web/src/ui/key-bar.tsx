/** Keys, as they stand on the screen. */
import { clsx } from "clsx";
import type { ReactNode } from "react";

export function Key({ children }: { children: ReactNode }) {
  return (
    <kbd
      className={clsx(
        "inline-block min-w-6 rounded-[2px] border border-line-2 bg-sheet px-1 text-center font-sans text-sm",
        "leading-6 text-ink",
      )}>
      {children}
    </kbd>
  );
}

/** Keys of the screen, along its foot at the desk. */
export function KeyBar({ keys, children }: { keys: [string, string][]; children?: ReactNode }) {
  return (
    <footer
      className={clsx(
        "hidden desk:flex sticky bottom-0 z-10 min-h-9 items-center justify-between gap-6 border-t border-line",
        "bg-paper px-7 py-1 text-sm text-ink-2",
      )}>
      <div className="flex flex-wrap gap-x-4">
        {keys.map(([key, says]) => (
          <span key={key} className="whitespace-nowrap">
            <Key>{key}</Key> {says}
          </span>
        ))}
      </div>
      <div className="text-right">{children}</div>
    </footer>
  );
}
