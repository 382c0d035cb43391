/** What opens under the person: units, policy, people, the glossary, signing out. */
import { useNavigate, type NavigateOptions } from "@tanstack/react-router";
import { DropdownMenu } from "radix-ui";
import { ROLE } from "@/wording/words";
import { PersonButton } from "./person-button";
import { useMay, useSession } from "./use-session";
import { useSignOut } from "./use-sign-out";

const ITEM =
  "flex min-h-14 cursor-pointer items-center px-4 outline-none data-[highlighted]:bg-paper " +
  "data-[highlighted]:underline desk:min-h-10";

/** Open as it comes: it was asked for. */
export default function PersonMenuOpen() {
  const session = useSession();
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
    <DropdownMenu.Root defaultOpen>
      <DropdownMenu.Trigger asChild>
        <PersonButton />
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
