/** The addresses of suspect cases, of handling, and of where colonies, combs and queens have been. */
import { createRoute } from "@tanstack/react-router";
import { screen } from "@/ui/screen";
import { inside } from "./base";

export const cases = createRoute({
  getParentRoute: () => inside,
  path: "/cases",
  validateSearch: (search: Record<string, unknown>): { closed?: boolean | undefined } => ({
    closed: search["closed"] === true ? true : undefined,
  }),
  component: screen(() => import("@/features/cases/cases"), "Cases"),
});

export const suspectCase = createRoute({
  getParentRoute: () => inside,
  path: "/cases/$id",
  component: screen(() => import("@/features/cases/case"), "Case"),
});

export const caseTraces = createRoute({
  getParentRoute: () => inside,
  path: "/cases/$id/traces",
  validateSearch: (search: Record<string, unknown>): { kept?: number | undefined; contact?: string | undefined } => ({
    kept: typeof search["kept"] === "number" ? search["kept"] : undefined,
    contact: typeof search["contact"] === "string" ? search["contact"] : undefined,
  }),
  component: screen(() => import("@/features/cases/traces"), "TracesOfCase"),
});

export const colonyWhere = createRoute({
  getParentRoute: () => inside,
  path: "/colonies/$id/where",
  component: screen(() => import("@/features/movements/colony-where"), "ColonyWhere"),
});

export const handlingOutcomes = createRoute({
  getParentRoute: () => inside,
  path: "/handling",
  component: screen(() => import("@/features/handling/outcomes"), "HandlingOutcomes"),
});

export const combWhere = createRoute({
  getParentRoute: () => inside,
  path: "/combs/$id",
  component: screen(() => import("@/features/movements/comb-where"), "CombWhere"),
});

export const queenWhere = createRoute({
  getParentRoute: () => inside,
  path: "/queens/$id",
  component: screen(() => import("@/features/movements/queen-where"), "QueenWhere"),
});
