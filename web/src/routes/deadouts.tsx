/** The addresses of dead colonies (the list, an examination, what it left, winters) and of pests. */
import { createRoute } from "@tanstack/react-router";
import type { DeadStep } from "@/client/commands/deadouts";
import { STEPS } from "@/features/deadouts/steps";
import { screen } from "@/ui/screen";
import { inside } from "./base";

export const deadOuts = createRoute({
  getParentRoute: () => inside,
  path: "/deadouts",
  component: screen(() => import("@/features/deadouts/dead-outs"), "DeadOuts"),
});

export const deadOut = createRoute({
  getParentRoute: () => inside,
  path: "/deadouts/$id",
  validateSearch: (search: Record<string, unknown>): { step?: DeadStep | undefined } => ({
    step: STEPS.find((one) => one.id === search["step"])?.id,
  }),
  component: screen(() => import("@/features/deadouts/dead-out"), "DeadOut"),
});

export const deadOutFates = createRoute({
  getParentRoute: () => inside,
  path: "/colonies/$id/combs",
  component: screen(() => import("@/features/deadouts/fates"), "Fates"),
});

export const winters = createRoute({
  getParentRoute: () => inside,
  path: "/winters",
  component: screen(() => import("@/features/deadouts/winters"), "Winters"),
});

export const pests = createRoute({
  getParentRoute: () => inside,
  path: "/pests",
  component: screen(() => import("@/features/pests/pests-ahead"), "Pests"),
});

export const storedCombs = createRoute({
  getParentRoute: () => inside,
  path: "/stored-combs/$id",
  component: screen(() => import("@/features/pests/stored-combs"), "StoredCombs"),
});
