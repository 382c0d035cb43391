/** The house around every screen: the bar, the way between screens, the keys, the theme. */
import { Link, Outlet, useNavigate, useRouterState } from "@tanstack/react-router";
import { Suspense, useEffect, useState } from "react";
import { useSession } from "@/features/session/use-session";
import { Dialog } from "@/ui/dialog";
import { keysInForce, useKeys } from "@/ui/keys";
import { Key, Slow } from "@/ui/parts";
import { ROLE } from "@/wording/words";

const WAYS = [
  ["/", "Today", "1"],
  ["/places", "Places", "2"],
  ["/bench", "Bench", "3"],
  ["/ahead", "Ahead", "4"],
  ["/association", "Association", "5"],
  ["/account", "Account", "6"],
] as const;
/** In the field the bar has room for four; what comes is a tap from Today, the association's page from the account. */
const FIELD_WAYS = WAYS.filter(([to]) => to !== "/association" && to !== "/ahead");

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

export function Shell() {
  const session = useSession();
  const navigate = useNavigate();
  const [help, setHelp] = useState(false);
  // The bench and a visit take the whole of a small screen: their keys stand where the thumb is.
  const counting = useRouterState({
    select: ({ location }) =>
      (location.pathname === "/bench" && "apiary" in location.search) || location.pathname.startsWith("/visits/"),
  });
  useTheme(session.person.theme);
  useKeys([
    ...WAYS.map(([to, name, key]) => ({ key, says: name, run: () => void navigate({ to }) })),
    { key: "?", says: "these keys", run: () => setHelp(true) },
  ]);
  return (
    <div className="flex min-h-dvh flex-col">
      <a
        href="#main"
        className="sr-only focus:not-sr-only focus:absolute focus:left-2 focus:top-2 focus:z-50 focus:bg-sheet focus:p-3">
        Skip to the page
      </a>
      <header className="sticky top-0 z-20 bg-bar text-bar-ink">
        <div className="mx-auto flex h-12 max-w-[1400px] items-center gap-8 px-4 desk:px-7">
          <Link to="/" className="figure flex shrink-0 items-center gap-2.5 text-xl whitespace-nowrap">
            <svg width="22" height="20" viewBox="0 0 32 28" aria-hidden="true">
              <path fill="currentColor" d="M0 2h32v4h-3v20H3V6H0z" />
              <path fill="#e0564e" d="M7 9h18v13H7z" />
              <path fill="var(--bar)" d="M11 12.500h10v6H11z" />
            </svg>
            Red Frame
          </Link>
          <nav aria-label="Screens" className="hidden shrink-0 gap-6 desk:flex">
            {WAYS.map(([to, name]) => (
              <Link
                key={to}
                to={to}
                activeOptions={{ exact: to === "/" }}
                className="flex h-12 items-center border-b-4 border-transparent pt-1 text-bar-ink-2 hover:text-bar-ink aria-[current=page]:border-bar-ink aria-[current=page]:text-bar-ink">
                {name}
              </Link>
            ))}
          </nav>
          <p className="ml-auto min-w-0 truncate text-sm text-bar-ink-2">
            {session.demo && (
              <span className="mr-2 inline-block border border-bar-ink-2 px-1.5 py-0.5 text-xs leading-none">demo</span>
            )}
            <span className="hidden desk:inline">{session.person.association}, </span>
            {ROLE[session.role ?? ""]}
          </p>
        </div>
      </header>
      <div className={`flex flex-1 flex-col ${counting ? "" : "pb-16"} desk:pb-0`}>
        <Suspense fallback={<Slow what="One moment …" />}>
          <Outlet />
        </Suspense>
      </div>
      <nav
        aria-label="Screens"
        className={`fixed inset-x-0 bottom-0 z-20 h-16 grid-cols-4 ${counting ? "hidden" : "grid"} border-t border-line bg-bar text-bar-ink desk:hidden`}>
        {FIELD_WAYS.map(([to, name]) => (
          <Link
            key={to}
            to={to}
            activeOptions={{ exact: to === "/" }}
            className="flex items-center justify-center border-t-4 border-transparent pb-1 font-semibold text-bar-ink-2 aria-[current=page]:border-bar-ink aria-[current=page]:text-bar-ink">
            {name}
          </Link>
        ))}
      </nav>
      <Dialog open={help} onClose={() => setHelp(false)} title="Keys on this screen">
        <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-2">
          {help &&
            keysInForce().map((one) => (
              <div key={`${one.shown}-${one.says}`} className="contents">
                <dt>
                  <Key>{one.shown}</Key>
                </dt>
                <dd>{one.says}</dd>
              </div>
            ))}
        </dl>
      </Dialog>
    </div>
  );
}
