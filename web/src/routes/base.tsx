/** What every address stands under: the application, and the part of it that asks who is here. */
import { clsx } from "clsx";
import type { QueryClient } from "@tanstack/react-query";
import { Outlet, createRootRouteWithContext, createRoute, redirect } from "@tanstack/react-router";
import { sessionQuery, worklistQuery } from "@/client/queries";
import { Shell } from "@/shell";
import { buttonClass } from "@/ui/button";
import { ErrorPage, Page } from "@/ui/page";

export function NotFound() {
  return (
    <Page>
      <h1 className="mt-10 text-3xl">Not found</h1>
      <p className="mt-2 text-ink-2">There is nothing at this address.</p>
      <a href="/" className={clsx(buttonClass("main"), "mt-5")}>
        Go to Today
      </a>
    </Page>
  );
}

export const root = createRootRouteWithContext<{ client: QueryClient }>()({
  component: Outlet,
  notFoundComponent: NotFound,
});

export const inside = createRoute({
  getParentRoute: () => root,
  id: "in",
  beforeLoad: async ({ context, location }) => {
    // Who is here and what is due are asked for at once, not one after the other.
    if (location.pathname === "/")
      void context.client.prefetchInfiniteQuery({ ...worklistQuery, meta: { early: true } });
    const session = await context.client.ensureQueryData(sessionQuery);
    if (session.person === null)
      throw redirect({ to: "/sign-in", search: location.pathname === "/" ? {} : { then: location.href } });
  },
  component: Shell,
  errorComponent: ({ error, reset }) => <ErrorPage error={error} retry={reset} />,
});
