/** The person's name on the bar, which opens the menu. */
import { clsx } from "clsx";
import type { ComponentProps } from "react";
import { useUnsentCount } from "@/sync/use-sync";
import { ROLE } from "@/wording/words";
import { useSession } from "./use-session";

export function PersonButton(props: ComponentProps<"button">) {
  const session = useSession();
  // On a phone what is not sent takes the place of the badge.
  const unsent = useUnsentCount();
  return (
    <button
      type="button"
      {...props}
      className={clsx("ml-auto flex min-h-12 min-w-0 items-center gap-2 text-sm text-bar-ink-2", "hover:text-bar-ink")}>
      {session.demo && (
        <span
          className={clsx(
            unsent > 0 ? "hidden desk:inline-block" : "inline-block",
            "border border-bar-ink-2 px-1.5 py-0.5 text-xs leading-none",
          )}>
          demo
        </span>
      )}
      <span className="truncate">
        <span className="font-semibold text-bar-ink">{session.person.name}</span>
        <span className="hidden desk:inline">, {session.role && ROLE[session.role]}</span>
      </span>
      <span aria-hidden="true">▾</span>
    </button>
  );
}
