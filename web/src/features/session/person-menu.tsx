/** What stands under the person: units, policy, people, the glossary, signing out. */
import { clsx } from "clsx";
import { useNavigate, type NavigateOptions } from "@tanstack/react-router";
import { DropdownMenu } from "radix-ui";
import { useUnsentCount } from "@/sync/use-sync";
import { ROLE } from "@/wording/words";
import { useMay, useSession } from "./use-session";
import { useSignOut } from "./use-sign-out";

const ITEM =
  "flex min-h-14 cursor-pointer items-center px-4 outline-none data-[highlighted]:bg-paper " +
  "data-[highlighted]:underline desk:min-h-10";

export function PersonMenu() {
  const session = useSession();
  // On a phone what is not sent takes the place of the badge.
  const unsent = useUnsentCount();
  const navigate = useNavigate();
  const mayKeepMembers = useMay("keep_members");
  const leave = useSignOut();
  const rooms: [string, NavigateOptions][] = [
    ["Units, theme and password", { to: "/account" }],
    ["Policy", { to: "/association", search: {} }],
    ...(mayKeepMembers
      ? ([["People", { to: "/association", search: { view: "people" } }]] as [string, NavigateOptions][])
      : []),
    ["Glossary", { to: "/glossary" }],
  ];
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger
        className={clsx(
          "ml-auto flex min-h-12 min-w-0 items-center gap-2 text-sm text-bar-ink-2",
          "hover:text-bar-ink",
        )}>
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
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={2}
          className="z-50 min-w-64 border-2 border-ink bg-sheet text-ink"
          aria-label="The person">
          <DropdownMenu.Label className="border-b border-line px-4 py-2 text-sm text-ink-2">
            <span className="block font-semibold text-ink">{session.person.name}</span>
            {session.person.association}, {session.role && ROLE[session.role]}
          </DropdownMenu.Label>
          {rooms.map(([name, to]) => (
            <DropdownMenu.Item key={name} className={ITEM} onSelect={() => void navigate(to)}>
              {name}
            </DropdownMenu.Item>
          ))}
          <DropdownMenu.Separator className="border-t border-line" />
          <DropdownMenu.Item className={ITEM} onSelect={() => leave.mutate(false)}>
            Sign out
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
