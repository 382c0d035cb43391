/** Every address of the application. What a screen shows (filters, picks, the step at hand) is in its address. */
import type { QueryClient } from "@tanstack/react-query";
import {
  Outlet,
  createRootRouteWithContext,
  createRoute,
  createRouter,
  lazyRouteComponent,
  redirect,
} from "@tanstack/react-router";
import type { Level } from "@/client/api";
import { sessionQuery, worklistQuery } from "@/client/queries";
import { SignIn } from "@/features/session/sign-in";
import type { Part } from "@/features/visit/visit";
import { Today } from "@/features/today/today";
import { Trouble, Page, buttonClass } from "@/ui/parts";
import { Shell } from "./shell";

const text = (value: unknown): string | undefined => (typeof value === "string" && value !== "" ? value : undefined);
const list = (value: unknown): string[] | undefined =>
  Array.isArray(value) ? value.filter((one): one is string => typeof one === "string") : undefined;

function NotFound() {
  return (
    <Page>
      <h1 className="mt-10 text-3xl">Not found</h1>
      <p className="mt-2 text-ink-2">There is nothing at this address.</p>
      <a href="/" className={`${buttonClass("main")} mt-5`}>
        Go to Today
      </a>
    </Page>
  );
}

const root = createRootRouteWithContext<{ client: QueryClient }>()({ component: Outlet, notFoundComponent: NotFound });

const signIn = createRoute({
  getParentRoute: () => root,
  path: "/sign-in",
  validateSearch: (search: Record<string, unknown>): { then?: string | undefined } => ({ then: text(search["then"]) }),
  beforeLoad: async ({ context }) => {
    const session = await context.client.ensureQueryData(sessionQuery);
    if (session.person !== null) throw redirect({ to: "/" });
  },
  component: SignIn,
});

const inside = createRoute({
  getParentRoute: () => root,
  id: "in",
  beforeLoad: async ({ context, location }) => {
    const session = await context.client.ensureQueryData(sessionQuery);
    if (session.person === null)
      throw redirect({ to: "/sign-in", search: location.pathname === "/" ? {} : { then: location.href } });
  },
  component: Shell,
  errorComponent: ({ error, reset }) => <Trouble error={error} retry={reset} />,
});

const today = createRoute({
  getParentRoute: () => inside,
  path: "/",
  loader: ({ context }) => void context.client.prefetchQuery(worklistQuery),
  component: Today,
});

const places = createRoute({
  getParentRoute: () => inside,
  path: "/places",
  validateSearch: (
    search: Record<string, unknown>,
  ): { find?: string | undefined; level?: Level | undefined; at?: string | undefined } => ({
    find: text(search["find"]),
    level: text(search["level"]) as Level | undefined,
    at: text(search["at"]),
  }),
  component: lazyRouteComponent(() => import("@/features/places/places"), "Places"),
});

const apiary = createRoute({
  getParentRoute: () => inside,
  path: "/places/$id",
  validateSearch: (
    search: Record<string, unknown>,
  ): { pick?: string[] | undefined; at?: string | undefined; view?: "table" | undefined } => ({
    pick: list(search["pick"]),
    at: text(search["at"]),
    view: search["view"] === "table" ? "table" : undefined,
  }),
  component: lazyRouteComponent(() => import("@/features/apiary/apiary"), "Apiary"),
});

const colony = createRoute({
  getParentRoute: () => inside,
  path: "/colonies/$id",
  component: lazyRouteComponent(() => import("@/features/colony/colony"), "Colony"),
});

const futures = createRoute({
  getParentRoute: () => inside,
  path: "/colonies/$id/forecast",
  validateSearch: (search: Record<string, unknown>): { futures?: string[] | undefined } => ({
    futures: list(search["futures"]),
  }),
  component: lazyRouteComponent(() => import("@/features/forecast/forecast"), "ForecastScreen"),
});

const WAYS = ["wash", "sugar", "co2", "board", "board_after_treatment", "drone_brood", "look"] as const;
type Way = (typeof WAYS)[number];

const ahead = createRoute({
  getParentRoute: () => inside,
  path: "/ahead",
  validateSearch: (search: Record<string, unknown>): { skip?: number | undefined } => ({
    skip: typeof search["skip"] === "number" && search["skip"] > 0 ? Math.floor(search["skip"]) : undefined,
  }),
  component: lazyRouteComponent(() => import("@/features/ahead/ahead"), "Ahead"),
});

const countWeeks = createRoute({
  getParentRoute: () => inside,
  path: "/count-weeks",
  component: lazyRouteComponent(() => import("@/features/campaigns/count-weeks"), "CountWeeks"),
});

const countWeek = createRoute({
  getParentRoute: () => inside,
  path: "/count-weeks/$id",
  validateSearch: (search: Record<string, unknown>): { cell?: string | undefined } => ({ cell: text(search["cell"]) }),
  component: lazyRouteComponent(() => import("@/features/campaigns/count-week"), "CountWeek"),
});

const bench = createRoute({
  getParentRoute: () => inside,
  path: "/bench",
  validateSearch: (
    search: Record<string, unknown>,
  ): {
    apiary?: string | undefined;
    colonies?: string[] | undefined;
    course?: string | undefined;
    step?: string | undefined;
    way?: Way | undefined;
    purpose?: string[] | undefined;
  } => ({
    apiary: text(search["apiary"]),
    way: WAYS.find((one) => one === search["way"]),
    colonies: list(search["colonies"]),
    purpose: list(search["purpose"]),
    course: text(search["course"]),
    step: text(search["step"]),
  }),
  component: lazyRouteComponent(() => import("@/features/bench/bench"), "Bench"),
});

const treat = createRoute({
  getParentRoute: () => inside,
  path: "/treat",
  validateSearch: (
    search: Record<string, unknown>,
  ): {
    apiary?: string | undefined;
    colonies?: string[] | undefined;
    start?: string | undefined;
    option?: string | undefined;
  } => ({
    apiary: text(search["apiary"]),
    colonies: list(search["colonies"]),
    start: text(search["start"]),
    option: text(search["option"]),
  }),
  component: lazyRouteComponent(() => import("@/features/course/treat"), "Treat"),
});

const course = createRoute({
  getParentRoute: () => inside,
  path: "/courses/$id",
  validateSearch: (search: Record<string, unknown>): { step?: string | undefined; count?: string | undefined } => ({
    step: text(search["step"]),
    count: text(search["count"]),
  }),
  component: lazyRouteComponent(() => import("@/features/course/course"), "CourseScreen"),
});

const visit = createRoute({
  getParentRoute: () => inside,
  path: "/visits/$id",
  validateSearch: (
    search: Record<string, unknown>,
  ): {
    part?: Part | undefined;
    box?: string | undefined;
    slot?: number | undefined;
    against?: string | undefined;
  } => ({
    part: (["before", "frames", "after", "follows"] as const).find((one) => one === search["part"]),
    box: text(search["box"]),
    slot:
      typeof search["slot"] === "number" && Number.isInteger(search["slot"]) && search["slot"] > 0
        ? search["slot"]
        : undefined,
    against: text(search["against"]),
  }),
  component: lazyRouteComponent(() => import("@/features/visit/visit"), "Visit"),
});

const visitSheet = createRoute({
  getParentRoute: () => inside,
  path: "/visits/$id/sheet",
  component: lazyRouteComponent(() => import("@/features/visit/sheet"), "VisitSheetPage"),
});

const account = createRoute({
  getParentRoute: () => inside,
  path: "/account",
  component: lazyRouteComponent(() => import("@/features/account/account"), "Account"),
});

const association = createRoute({
  getParentRoute: () => inside,
  path: "/association",
  validateSearch: (search: Record<string, unknown>): { view?: "people" | undefined } => ({
    view: search["view"] === "people" ? "people" : undefined,
  }),
  component: lazyRouteComponent(() => import("@/features/association/association"), "Association"),
});

const join = createRoute({
  getParentRoute: () => root,
  path: "/join",
  component: lazyRouteComponent(() => import("@/features/session/join"), "Join"),
});

const tree = root.addChildren([
  signIn,
  join,
  inside.addChildren([
    today,
    places,
    apiary,
    colony,
    futures,
    ahead,
    countWeeks,
    countWeek,
    bench,
    treat,
    course,
    visit,
    visitSheet,
    association,
    account,
  ]),
]);

export function makeRouter(client: QueryClient) {
  return createRouter({
    routeTree: tree,
    context: { client },
    defaultPreload: "intent",
    defaultNotFoundComponent: NotFound,
    defaultErrorComponent: ({ error, reset }) => <Trouble error={error} retry={reset} />,
  });
}

declare module "@tanstack/react-router" {
  interface Register {
    router: ReturnType<typeof makeRouter>;
  }
}
