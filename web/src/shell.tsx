/** The frame of every screen: the doors, the search, the keys, the theme. */
import { clsx } from "clsx";
import { Link, Outlet, useNavigate, useRouterState } from "@tanstack/react-router";
import { Suspense, useEffect, useState } from "react";
import { sendQueued } from "@/client/commands/queued";
import { useNoSignal } from "@/client/signal";
import { PersonMenu } from "@/features/session/person-menu";
import { useSession } from "@/features/session/use-session";
import { FindDialog } from "@/features/search/find-dialog";
import { SyncProvider, useUnsentCount } from "@/sync/use-sync";
import { Key } from "@/ui/key-bar";
import { KeysDialog } from "@/ui/keys-dialog";
import { useKeys } from "@/ui/keys";
import { Loading } from "@/ui/page";
import { useScreenName } from "@/ui/screen-name";

/** The doors at the desk; a door stands here when there is a room behind it. */
const DESK_DOORS = [
  ["/", "Today", "1"],
  ["/apiaries", "Apiaries", "2"],
  ["/counts", "Counts", "3"],
  ["/treatments", "Treatments", "4"],
  ["/cases", "Cases", "5"],
] as const;
/** In the field the thumb has three: what is due, one thing by its name, something to record. */
const FIELD_DOORS = [
  ["/", "Today"],
  ["/find", "Find"],
  ["/record", "Record"],
] as const;
/** Rooms behind a door, by the beginning of their address: the door stays marked while one is in them. */
const ROOMS: Record<string, string[]> = {
  "/apiaries": ["/apiaries", "/colonies", "/visits", "/honey", "/deadouts", "/winters", "/pests", "/stored-combs"],
  "/counts": ["/counts", "/bench", "/count-weeks"],
  "/treatments": [
    "/treatments",
    "/treat",
    "/treatment-round",
    "/courses",
    "/earlier",
    "/stock",
    "/mixing",
    "/register",
    "/what-works",
    "/autumn",
  ],
};

export function useTheme(theme: string): void {
  useEffect(() => {
    const dark = window.matchMedia("(prefers-color-scheme: dark)");
    const apply = () => {
      document.documentElement.dataset["theme"] =
        theme === "dark" || (theme === "system" && dark.matches) ? "dark" : "light";
    };
    apply();
    dark.addEventListener("change", apply);
    return () => dark.removeEventListener("change", apply);
  }, [theme]);
}

/** Whether an address lies behind a door. */
function isBehind(door: string, path: string): boolean {
  if (door === "/") return path === "/";
  return (ROOMS[door] ?? [door]).some((room) => path === room || path.startsWith(`${room}/`));
}

export function Shell() {
  const { person } = useSession();
  return (
    <SyncProvider key={person.id} person={person.id} send={sendQueued}>
      <Frame />
    </SyncProvider>
  );
}

function Frame() {
  const session = useSession();
  const navigate = useNavigate();
  const [dialog, setDialog] = useState<"keys" | "find" | null>(null);
  const path = useRouterState({ select: ({ location }) => location.pathname });
  // The bench and a visit take the whole of a small screen: their keys stand where the thumb is.
  const counting = useRouterState({
    select: ({ location }) =>
      (location.pathname === "/bench" && "apiary" in location.search) || location.pathname.startsWith("/visits/"),
  });
  useTheme(session.person.theme);
  useScreenName(path);
  useKeys([
    ...DESK_DOORS.map(([to, name, key]) => ({ key, says: name, run: () => void navigate({ to }) })),
    { key: "/", says: "find", run: () => setDialog("find") },
    { key: "?", says: "these keys", run: () => setDialog("keys") },
  ]);
  return (
    <div className="flex min-h-dvh flex-col">
      <a
        href="#main"
        className={clsx(
          "sr-only focus:not-sr-only focus:absolute focus:left-2 focus:top-2 focus:z-50 focus:bg-sheet",
          "focus:p-3",
        )}>
        Skip to the page
      </a>
      <header className={clsx("on-bar top-0 z-20 bg-bar text-bar-ink", counting ? "desk:sticky" : "sticky")}>
        <div className="mx-auto flex h-12 max-w-[1400px] items-center gap-3 px-4 desk:gap-8 desk:px-7">
          <HomeLink />
          <nav aria-label="Screens" className="hidden shrink-0 gap-6 desk:flex">
            {DESK_DOORS.map(([to, name]) => (
              <Door key={to} to={to} name={name} here={isBehind(to, path)} />
            ))}
          </nav>
          <button
            type="button"
            onClick={() => setDialog("find")}
            className={clsx(
              "hidden min-h-8 w-56 items-center justify-between border border-bar-ink-2 px-2.5 text-left",
              "text-bar-ink-2 hover:text-bar-ink desk:flex",
            )}>
            Find <Key>/</Key>
          </button>
          <SignalLine />
          <PersonMenu />
        </div>
      </header>
      <div className={clsx("flex flex-1 flex-col", !counting && "pb-16", "desk:pb-0")}>
        <Suspense fallback={<Loading what="One moment …" />}>
          <Outlet />
        </Suspense>
      </div>
      <nav
        aria-label="Screens"
        className={clsx(
          "fixed inset-x-0 bottom-0 z-20 h-16 grid-cols-3",
          counting ? "hidden" : "grid",
          "on-bar border-t border-line bg-bar text-bar-ink desk:hidden",
        )}>
        {FIELD_DOORS.map(([to, name]) => (
          <Door key={to} to={to} name={name} here={isBehind(to, path)} field />
        ))}
      </nav>
      <FindDialog open={dialog === "find"} onClose={() => setDialog(null)} />
      <KeysDialog open={dialog === "keys"} onClose={() => setDialog(null)} />
    </div>
  );
}

/** That there is no signal, and what has not reached the server, wherever it was recorded. */
function SignalLine() {
  const count = useUnsentCount();
  const lost = useNoSignal();
  if (count === 0 && !lost) return null;
  const unsent = count > 0 && `Not sent yet (${count})`;
  return (
    <p role="status" className="ml-auto shrink-0 text-sm leading-tight font-semibold">
      {lost && "No signal"}
      {lost && unsent && <br />}
      {unsent}
    </p>
  );
}

function HomeLink() {
  return (
    <Link to="/" className="figure flex shrink-0 items-center gap-2.5 text-xl whitespace-nowrap">
      <svg width="22" height="20" viewBox="0 0 32 28" aria-hidden="true">
        <path fill="currentColor" d="M0 2h32v4h-3v20H3V6H0z" />
        <path fill="#e0564e" d="M7 9h18v13H7z" />
        <path fill="var(--bar)" d="M11 12.500h10v6H11z" />
      </svg>
      Red Frame
    </Link>
  );
}

function Door({ to, name, here, field = false }: { to: string; name: string; here: boolean; field?: boolean }) {
  const place = field
    ? "flex items-center justify-center border-t-4 pb-1 font-semibold"
    : "flex h-12 items-center border-b-4 pt-1";
  return (
    <Link
      to={to}
      aria-current={here ? "page" : undefined}
      className={clsx(
        place,
        "border-transparent text-bar-ink-2 hover:text-bar-ink aria-[current=page]:border-bar-ink",
        "aria-[current=page]:text-bar-ink",
      )}>
      {name}
    </Link>
  );
}
