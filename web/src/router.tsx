/** Every address of the application. What a screen shows (filters, selections, the step at hand) is in its address. */
import type { QueryClient } from "@tanstack/react-query";
import { createRoute, createRouter, redirect } from "@tanstack/react-router";
import type { ApiaryOrder, Level, ListOrder, RegisterWanted, WhatWorksWanted } from "@/client/types";
import { sessionQuery, worklistQuery } from "@/client/queries";
import { SignIn } from "@/features/session/sign-in";
import { COLONY_PARTS, type ColonyPart } from "@/features/colonies/colony-part";
import { LIST_ORDERS } from "@/features/colonies/list-order";
import { APIARY_ORDERS, COLONY_ORDERS, type ColonyOrder } from "@/features/places/apiary-order";
import type { Part } from "@/features/visits/parts";
import { Today } from "@/features/planning/today";
import { ErrorPage } from "@/ui/page";
import { screen } from "@/ui/screen";
import { NotFound, inside, root } from "./routes/base";
import { deadOut, deadOutFates, deadOuts, pests, storedCombs, winters } from "./routes/deadouts";
import { caseTraces, cases, colonyWhere, combWhere, handlingOutcomes, queenWhere, suspectCase } from "./routes/cases";

const text = (value: unknown): string | undefined => (typeof value === "string" && value !== "" ? value : undefined);
const list = (value: unknown): string[] | undefined =>
  Array.isArray(value) ? value.filter((one): one is string => typeof one === "string") : undefined;

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

const today = createRoute({
  getParentRoute: () => inside,
  path: "/",
  validateSearch: (search: Record<string, unknown>): { at?: string | undefined } => ({ at: text(search["at"]) }),
  loader: ({ context }) => void context.client.prefetchInfiniteQuery(worklistQuery),
  component: Today,
});

const apiaries = createRoute({
  getParentRoute: () => inside,
  path: "/apiaries",
  validateSearch: (
    search: Record<string, unknown>,
  ): {
    find?: string | undefined;
    level?: Level | undefined;
    sort?: ApiaryOrder | undefined;
    at?: string | undefined;
  } => ({
    find: text(search["find"]),
    level: text(search["level"]) as Level | undefined,
    sort: APIARY_ORDERS.find((one) => one === search["sort"]),
    at: text(search["at"]),
  }),
  component: screen(() => import("@/features/places/apiaries"), "Apiaries"),
});

const find = createRoute({
  getParentRoute: () => inside,
  path: "/find",
  validateSearch: (search: Record<string, unknown>): { q?: string | undefined } => ({ q: text(search["q"]) }),
  component: screen(() => import("@/features/search/find"), "FindPage"),
});

const record = createRoute({
  getParentRoute: () => inside,
  path: "/record",
  validateSearch: (search: Record<string, unknown>): { apiary?: string | undefined } => ({
    apiary: text(search["apiary"]),
  }),
  component: screen(() => import("@/features/planning/record"), "Record"),
});

const counts = createRoute({
  getParentRoute: () => inside,
  path: "/counts",
  component: screen(() => import("@/features/sampling/counts"), "Counts"),
});

const treatments = createRoute({
  getParentRoute: () => inside,
  path: "/treatments",
  component: screen(() => import("@/features/treatments/treatments"), "Treatments"),
});

const stock = createRoute({
  getParentRoute: () => inside,
  path: "/stock",
  validateSearch: (search: Record<string, unknown>): { lot?: string | undefined } => ({ lot: text(search["lot"]) }),
  component: screen(() => import("@/features/stock/stock"), "Stock"),
});

const REGISTER_TEXTS = ["keeper", "apiary", "colony", "option", "since", "until", "lot"] as const;

const register = createRoute({
  getParentRoute: () => inside,
  path: "/register",
  validateSearch: (search: Record<string, unknown>): RegisterWanted => ({
    ...Object.fromEntries(REGISTER_TEXTS.flatMap((name) => (text(search[name]) ? [[name, text(search[name])]] : []))),
    ...(search["incomplete"] === true && { incomplete: true }),
  }),
  component: screen(() => import("@/features/registers/register"), "Register"),
});

const whatWorks = createRoute({
  getParentRoute: () => inside,
  path: "/what-works",
  validateSearch: (search: Record<string, unknown>): WhatWorksWanted => ({
    ...(text(search["since"]) && { since: text(search["since"]) ?? null }),
    ...(text(search["season"]) && { season: text(search["season"]) as NonNullable<WhatWorksWanted["season"]> }),
  }),
  component: screen(() => import("@/features/treatments/what-works"), "WhatWorks"),
});

const autumn = createRoute({
  getParentRoute: () => inside,
  path: "/autumn",
  validateSearch: (search: Record<string, unknown>): { apiary?: string | undefined; find?: string | undefined } => ({
    apiary: text(search["apiary"]),
    find: text(search["find"]),
  }),
  component: screen(() => import("@/features/feeding/autumn"), "Autumn"),
});

const apiary = createRoute({
  getParentRoute: () => inside,
  path: "/apiaries/$id",
  validateSearch: (
    search: Record<string, unknown>,
  ): {
    select?: string[] | undefined;
    at?: string | undefined;
    view?: "table" | undefined;
    order?: ColonyOrder | undefined;
  } => ({
    order: COLONY_ORDERS.find((one) => one === search["order"]),
    select: list(search["select"]),
    at: text(search["at"]),
    view: search["view"] === "table" ? "table" : undefined,
  }),
  component: screen(() => import("@/features/places/apiary"), "Apiary"),
});

const colony = createRoute({
  getParentRoute: () => inside,
  path: "/colonies/$id",
  validateSearch: (search: Record<string, unknown>): { part?: ColonyPart | undefined } => ({
    part: COLONY_PARTS.find((one) => one === search["part"]),
  }),
  component: screen(() => import("@/features/colonies/colony"), "Colony"),
});

const scenarios = createRoute({
  getParentRoute: () => inside,
  path: "/colonies/$id/forecast",
  validateSearch: (search: Record<string, unknown>): { scenarios?: string[] | undefined } => ({
    scenarios: list(search["scenarios"]),
  }),
  component: screen(() => import("@/features/forecast/forecast"), "ForecastScreen"),
});

const METHODS = ["wash", "sugar", "co2", "board", "board_after_treatment", "drone_brood", "look"] as const;
type Method = (typeof METHODS)[number];

const allColonies = createRoute({
  getParentRoute: () => inside,
  path: "/colonies",
  validateSearch: (search: Record<string, unknown>): { skip?: number | undefined; sort?: ListOrder | undefined } => ({
    skip: typeof search["skip"] === "number" && search["skip"] > 0 ? Math.floor(search["skip"]) : undefined,
    sort: LIST_ORDERS.find((one) => one === search["sort"]),
  }),
  component: screen(() => import("@/features/colonies/all-colonies"), "AllColonies"),
});

const blankSheets = createRoute({
  getParentRoute: () => inside,
  path: "/apiaries/$id/sheets",
  component: screen(() => import("@/features/places/blank-sheets"), "BlankSheets"),
});

const glossary = createRoute({
  getParentRoute: () => inside,
  path: "/glossary",
  component: screen(() => import("@/features/help/glossary"), "Glossary"),
});

const methodNote = createRoute({
  getParentRoute: () => inside,
  path: "/methods/$name",
  component: screen(() => import("@/features/help/method-note"), "MethodNote"),
});

const countWeeks = createRoute({
  getParentRoute: () => inside,
  path: "/count-weeks",
  component: screen(() => import("@/features/campaigns/count-weeks"), "CountWeeks"),
});

const countWeek = createRoute({
  getParentRoute: () => inside,
  path: "/count-weeks/$id",
  validateSearch: (search: Record<string, unknown>): { cell?: string | undefined } => ({ cell: text(search["cell"]) }),
  component: screen(() => import("@/features/campaigns/count-week"), "CountWeek"),
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
    method?: Method | undefined;
    purpose?: string[] | undefined;
  } => ({
    apiary: text(search["apiary"]),
    method: METHODS.find((one) => one === search["method"]),
    colonies: list(search["colonies"]),
    purpose: list(search["purpose"]),
    course: text(search["course"]),
    step: text(search["step"]),
  }),
  component: screen(() => import("@/features/sampling/bench"), "Bench"),
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
    plan?: string | undefined;
  } => ({
    apiary: text(search["apiary"]),
    colonies: list(search["colonies"]),
    start: text(search["start"]),
    option: text(search["option"]),
    plan: text(search["plan"]),
  }),
  component: screen(() => import("@/features/treatments/treat"), "Treat"),
});

const earlier = createRoute({
  getParentRoute: () => inside,
  path: "/earlier",
  validateSearch: (
    search: Record<string, unknown>,
  ): { apiary?: string | undefined; colonies?: string[] | undefined } => ({
    apiary: text(search["apiary"]),
    colonies: list(search["colonies"]),
  }),
  component: screen(() => import("@/features/treatments/earlier"), "EarlierTreatments"),
});

const honey = createRoute({
  getParentRoute: () => inside,
  path: "/honey",
  validateSearch: (
    search: Record<string, unknown>,
  ): { apiary?: string | undefined; colonies?: string[] | undefined } => ({
    apiary: text(search["apiary"]),
    colonies: list(search["colonies"]),
  }),
  component: screen(() => import("@/features/honey/honey"), "Honey"),
});

const mixing = createRoute({
  getParentRoute: () => inside,
  path: "/mixing",
  validateSearch: (search: Record<string, unknown>): { apiary?: string | undefined } => ({
    apiary: text(search["apiary"]),
  }),
  component: screen(() => import("@/features/mixing/mixing"), "Mixing"),
});

const treatmentRound = createRoute({
  getParentRoute: () => inside,
  path: "/treatment-round",
  validateSearch: (search: Record<string, unknown>): { apiary?: string | undefined; course?: string | undefined } => ({
    apiary: text(search["apiary"]),
    course: text(search["course"]),
  }),
  component: screen(() => import("@/features/treatments/round"), "TreatmentRound"),
});

const course = createRoute({
  getParentRoute: () => inside,
  path: "/courses/$id",
  validateSearch: (search: Record<string, unknown>): { step?: string | undefined; count?: string | undefined } => ({
    step: text(search["step"]),
    count: text(search["count"]),
  }),
  component: screen(() => import("@/features/treatments/course"), "CourseScreen"),
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
    compared_with?: string | undefined;
  } => ({
    part: (["before", "frames", "after", "follows"] as const).find((one) => one === search["part"]),
    box: text(search["box"]),
    slot:
      typeof search["slot"] === "number" && Number.isInteger(search["slot"]) && search["slot"] > 0
        ? search["slot"]
        : undefined,
    compared_with: text(search["compared_with"]),
  }),
  component: screen(() => import("@/features/visits/visit"), "Visit"),
});

const visitSheet = createRoute({
  getParentRoute: () => inside,
  path: "/visits/$id/sheet",
  component: screen(() => import("@/features/visits/sheet"), "VisitSheetPage"),
});

const account = createRoute({
  getParentRoute: () => inside,
  path: "/account",
  component: screen(() => import("@/features/session/account"), "Account"),
});

const association = createRoute({
  getParentRoute: () => inside,
  path: "/association",
  validateSearch: (search: Record<string, unknown>): { view?: "people" | undefined } => ({
    view: search["view"] === "people" ? "people" : undefined,
  }),
  component: screen(() => import("@/features/policy/association"), "Association"),
});

const join = createRoute({
  getParentRoute: () => root,
  path: "/join",
  component: screen(() => import("@/features/session/join"), "Join"),
});

const tree = root.addChildren([
  signIn,
  join,
  inside.addChildren([
    today,
    apiaries,
    find,
    record,
    counts,
    treatments,
    stock,
    register,
    whatWorks,
    autumn,
    apiary,
    colony,
    scenarios,
    allColonies,
    blankSheets,
    glossary,
    methodNote,
    countWeeks,
    countWeek,
    cases,
    suspectCase,
    caseTraces,
    handlingOutcomes,
    deadOuts,
    deadOut,
    deadOutFates,
    winters,
    pests,
    storedCombs,
    colonyWhere,
    combWhere,
    queenWhere,
    bench,
    treat,
    earlier,
    course,
    treatmentRound,
    mixing,
    honey,
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
    defaultErrorComponent: ({ error, reset }) => <ErrorPage error={error} retry={reset} />,
  });
}

declare module "@tanstack/react-router" {
  interface Register {
    router: ReturnType<typeof makeRouter>;
  }
}
