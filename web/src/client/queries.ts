/** Every question that screens ask the server, once. */
import { infiniteQueryOptions, queryOptions } from "@tanstack/react-query";
import { api, ask, keepSession } from "./api";
import type { ApiaryOrder, Level, ListOrder, MapData, RegisterWanted, Schemas, WhatWorksWanted } from "./types";

/** Where the first page of a long list begins. */
const FIRST: string | undefined = undefined;

export const sessionQuery = queryOptions({
  queryKey: ["session"],
  staleTime: Infinity,
  queryFn: async (): Promise<Schemas["SessionView"]> => {
    const session = await ask(api.GET("/api/v1/session"));
    keepSession(session);
    return session;
  },
});

/** Today, a page of apiaries at a time; what is asked for is the first page with the rows and lines of all. */
export const worklistQuery = infiniteQueryOptions({
  queryKey: ["worklist"],
  initialPageParam: FIRST,
  queryFn: ({ pageParam: after }) => ask(api.GET("/api/v1/worklist", { params: { query: after ? { after } : {} } })),
  getNextPageParam: (page: Schemas["WorklistView"]) => page.next ?? undefined,
  select: ({ pages: [first, ...rest] }): Schemas["WorklistView"] => {
    const all = [first, ...rest] as Schemas["WorklistView"][];
    return {
      ...(first as Schemas["WorklistView"]),
      work: all.flatMap((page) => page.work),
      over: all.flatMap((page) => page.over),
      steps: all.flatMap((page) => page.steps),
      counts: all.flatMap((page) => page.counts),
      boards: all.flatMap((page) => page.boards),
      visits: all.flatMap((page) => page.visits),
    };
  },
});

export const workQuery = (kind: "treatments" | "counts", most: number) =>
  queryOptions({
    queryKey: ["worklist", kind, most],
    placeholderData: (before: Schemas["WorkLinesView"] | undefined) => before,
    queryFn: () => ask(api.GET("/api/v1/due/{kind}", { params: { path: { kind }, query: { most } } })),
  });

export const workAtQuery = (apiaryId: string) =>
  queryOptions({
    queryKey: ["worklist", "at", apiaryId],
    queryFn: () => ask(api.GET("/api/v1/apiaries/{apiary_id}/due", { params: { path: { apiary_id: apiaryId } } })),
  });

export const whyFailedQuery = (courseId: string) =>
  queryOptions({
    queryKey: ["course", courseId, "why-failed"],
    queryFn: () =>
      ask(api.GET("/api/v1/courses/{course_id}/why-failed", { params: { path: { course_id: courseId } } })),
  });

export const whatWorksQuery = (wanted: WhatWorksWanted) =>
  queryOptions({
    queryKey: ["what-works", wanted],
    queryFn: () => ask(api.GET("/api/v1/what-works", { params: { query: wanted } })),
  });

export const autumnQuery = (apiaryId: string) =>
  queryOptions({
    queryKey: ["autumn", apiaryId],
    queryFn: () => ask(api.GET("/api/v1/apiaries/{apiary_id}/autumn", { params: { path: { apiary_id: apiaryId } } })),
  });

/** The autumn of all apiaries in a line each, a page at a time; the first page with the rows of all. */
export const autumnsQuery = (find: string) =>
  infiniteQueryOptions({
    queryKey: ["autumn", "all", find],
    initialPageParam: FIRST,
    queryFn: ({ pageParam: after }) =>
      ask(api.GET("/api/v1/autumn", { params: { query: { ...(find && { find }), ...(after && { after }) } } })),
    getNextPageParam: (page: Schemas["AutumnsView"]) => page.next ?? undefined,
    select: ({ pages: [first, ...rest] }): Schemas["AutumnsView"] => ({
      ...(first as Schemas["AutumnsView"]),
      apiaries: [first, ...rest].flatMap((page) => page?.apiaries ?? []),
      next: [first, ...rest].at(-1)?.next ?? null,
    }),
  });

export const lotsQuery = queryOptions({ queryKey: ["lots"], queryFn: () => ask(api.GET("/api/v1/lots")) });

export const lotColoniesQuery = (lotId: string) =>
  queryOptions({
    queryKey: ["lots", lotId, "colonies"],
    queryFn: () => ask(api.GET("/api/v1/lots/{lot_id}/colonies", { params: { path: { lot_id: lotId } } })),
  });

/** The register, a page of lines at a time; what is asked for is the first page with the lines of all. */
export const registerQuery = (wanted: RegisterWanted) =>
  infiniteQueryOptions({
    queryKey: ["register", wanted],
    initialPageParam: null as number | null,
    queryFn: ({ pageParam: before }) =>
      ask(api.GET("/api/v1/register", { params: { query: { ...wanted, ...(before && { before }) } } })),
    getNextPageParam: (page: Schemas["RegisterView"]) => page.next,
    select: ({ pages }): Schemas["RegisterView"] => ({
      ...(pages[0] as Schemas["RegisterView"]),
      lines: pages.flatMap((page) => page.lines),
    }),
  });

export const guideQuery = queryOptions({ queryKey: ["guide"], queryFn: () => ask(api.GET("/api/v1/guide")) });

export type Fit = { find: string; level: Level | undefined };
const EVERY: Fit = { find: "", level: undefined };
const queryOf = ({ find, level }: Fit) => ({ ...(find && { find }), ...(level && { level }) });

/** The list of apiaries, a page at a time; what is asked for is the first page with the rows of all. */
export const apiariesQuery = (sort: ApiaryOrder, fit: Fit) =>
  infiniteQueryOptions({
    queryKey: ["places", "list", sort, fit],
    initialPageParam: FIRST,
    queryFn: ({ pageParam: after }) =>
      ask(api.GET("/api/v1/apiaries", { params: { query: { sort, ...queryOf(fit), ...(after && { after }) } } })),
    getNextPageParam: (page: Schemas["PlacesView"]) => page.next ?? undefined,
    select: ({ pages: [first, ...rest] }): Schemas["PlacesView"] => ({
      ...(first as Schemas["PlacesView"]),
      apiaries: [first, ...rest].flatMap((page) => page?.apiaries ?? []),
    }),
  });

/** Every apiary where it stands, by name: for the map, and to choose one. */
export const placesQuery = (fit: Fit = EVERY) =>
  queryOptions({
    queryKey: ["places", "map", fit],
    queryFn: () => ask(api.GET("/api/v1/apiary-places", { params: { query: queryOf(fit) } })),
  });

export const keepersQuery = queryOptions({
  queryKey: ["places", "keepers"],
  queryFn: () => ask(api.GET("/api/v1/keepers")),
});

export const searchQuery = (typed: string) =>
  queryOptions({
    queryKey: ["search", typed],
    queryFn: () => ask(api.GET("/api/v1/search", { params: { query: { q: typed } } })),
  });

export const apiaryQuery = (id: string) =>
  queryOptions({
    queryKey: ["apiary", id],
    queryFn: () => ask(api.GET("/api/v1/apiaries/{apiary_id}", { params: { path: { apiary_id: id } } })),
  });

export const colonyQuery = (id: string) =>
  queryOptions({
    queryKey: ["colony", id],
    queryFn: () => ask(api.GET("/api/v1/colonies/{colony_id}", { params: { path: { colony_id: id } } })),
  });

export const comparisonQuery = (first: string, second: string) =>
  queryOptions({
    queryKey: ["comparison", first, second],
    queryFn: () => ask(api.GET("/api/v1/counts/compare", { params: { query: { first, second } } })),
  });

export const forecastQuery = (id: string) =>
  queryOptions({
    queryKey: ["forecast", id],
    queryFn: () => ask(api.GET("/api/v1/colonies/{colony_id}/forecast", { params: { path: { colony_id: id } } })),
  });

export const scenariosQuery = (id: string, scenarios: Schemas["ScenarioInput"][]) =>
  queryOptions({
    queryKey: ["forecast", id, scenarios],
    queryFn: () =>
      ask(
        api.POST("/api/v1/colonies/{colony_id}/forecast", { params: { path: { colony_id: id } }, body: { scenarios } }),
      ),
  });

export const courseQuery = (id: string) =>
  queryOptions({
    queryKey: ["course", id],
    queryFn: () => ask(api.GET("/api/v1/courses/{course_id}", { params: { path: { course_id: id } } })),
  });

export const coursePlacingDaysQuery = (id: string) =>
  queryOptions({
    queryKey: ["course", id, "placing-days"],
    queryFn: () => ask(api.GET("/api/v1/courses/{course_id}/placing-days", { params: { path: { course_id: id } } })),
  });

export const placingDaysQuery = (apiary: string, option: string) =>
  queryOptions({
    queryKey: ["placing-days", apiary, option],
    queryFn: () =>
      ask(
        api.GET("/api/v1/apiaries/{apiary_id}/placing-days", {
          params: { path: { apiary_id: apiary }, query: { option_id: option } },
        }),
      ),
  });

export const hiveWorkQuery = (id: string) =>
  queryOptions({
    queryKey: ["course", id, "hive-work"],
    queryFn: () => ask(api.GET("/api/v1/courses/{course_id}/hive-work", { params: { path: { course_id: id } } })),
  });

export const fallsQuery = (id: string) =>
  queryOptions({
    queryKey: ["course", id, "falls"],
    queryFn: () => ask(api.GET("/api/v1/courses/{course_id}/falls", { params: { path: { course_id: id } } })),
  });

export const treatmentRoundQuery = (apiaryId: string) =>
  queryOptions({
    queryKey: ["treatment-round", apiaryId],
    queryFn: () =>
      ask(api.GET("/api/v1/apiaries/{apiary_id}/treatment-round", { params: { path: { apiary_id: apiaryId } } })),
  });

export const harvestsQuery = (colonyId: string) =>
  queryOptions({
    queryKey: ["colony", colonyId, "harvests"],
    queryFn: () => ask(api.GET("/api/v1/colonies/{colony_id}/harvests", { params: { path: { colony_id: colonyId } } })),
  });

export const schoolsQuery = queryOptions({
  queryKey: ["schools"],
  queryFn: () => ask(api.GET("/api/v1/treatment-schools")),
});

export const planQuery = (id: string) =>
  queryOptions({
    queryKey: ["plan", id],
    queryFn: () => ask(api.GET("/api/v1/plans/{plan_id}", { params: { path: { plan_id: id } } })),
  });

export const optionsQuery = (apiaryId: string, colonyIds: string[], startOn: string | undefined) =>
  queryOptions({
    queryKey: ["options", apiaryId, colonyIds, startOn],
    queryFn: () =>
      ask(
        api.POST("/api/v1/courses/options", {
          body: { apiary_id: apiaryId, colony_ids: colonyIds, start_on: startOn ?? null },
        }),
      ),
  });

export const expectedQuery = (apiaryId: string, colonyIds: string[], startOn: string) =>
  queryOptions({
    queryKey: ["expected", apiaryId, colonyIds, startOn],
    queryFn: () =>
      ask(
        api.POST("/api/v1/courses/expected", {
          body: { apiary_id: apiaryId, colony_ids: colonyIds, start_on: startOn },
        }),
      ),
    staleTime: 60_000,
  });

export const catalogueQuery = queryOptions({
  queryKey: ["treatment-options"],
  queryFn: () => ask(api.GET("/api/v1/treatment-options")),
  staleTime: 12 * 3600 * 1000,
});

/** What would speak against a treatment that was given; nothing is written. */
export const earlierCheckQuery = (body: Schemas["EarlierCheck"]) =>
  queryOptions({
    queryKey: ["earlier-check", body],
    queryFn: () => ask(api.POST("/api/v1/courses/earlier/check", { body })),
    retry: false,
  });

export const rulerQuery = (jar: Schemas["RulerInput"]) =>
  queryOptions({
    queryKey: ["ruler", jar],
    staleTime: 12 * 3600 * 1000,
    gcTime: 24 * 3600 * 1000,
    queryFn: () => ask(api.POST("/api/v1/counts/ruler", { body: jar })),
  });

export const samplingPlanQuery = (apiaryId: string, halfWidth: number, find: boolean) =>
  queryOptions({
    queryKey: ["sampling-plan", apiaryId, halfWidth, find],
    queryFn: () =>
      ask(
        api.GET("/api/v1/apiaries/{apiary_id}/sampling-plan", {
          params: { path: { apiary_id: apiaryId }, query: { half_width: halfWidth, find } },
        }),
      ),
  });

export const apiaryPolicyQuery = (apiaryId: string) =>
  queryOptions({
    queryKey: ["policy", apiaryId],
    queryFn: () => ask(api.GET("/api/v1/apiaries/{apiary_id}/policy", { params: { path: { apiary_id: apiaryId } } })),
  });

export const boardPictureQuery = (id: string) =>
  queryOptions({
    queryKey: ["board-picture", id],
    queryFn: () => ask(api.GET("/api/v1/board-pictures/{picture_id}", { params: { path: { picture_id: id } } })),
  });

export const forecastsQuery = (skip: number, sort: ListOrder) =>
  queryOptions({
    queryKey: ["forecasts", skip, sort],
    queryFn: () => ask(api.GET("/api/v1/forecasts", { params: { query: { skip, sort } } })),
    // While a run is under way its progress is asked for; otherwise the page stands still.
    refetchInterval: (query) =>
      query.state.data?.run?.state === "running" || query.state.data?.run?.state === "waiting" ? 1000 : false,
  });

export const landQuery = queryOptions({
  queryKey: ["land"],
  staleTime: Infinity,
  queryFn: async (): Promise<MapData | null> => {
    const answer = await fetch("/maps/corrane.geojson");
    return answer.ok ? ((await answer.json()) as MapData) : null;
  },
});

export const countWeeksQuery = queryOptions({
  queryKey: ["count-weeks"],
  queryFn: () => ask(api.GET("/api/v1/count-weeks")),
});

export const countWeekQuery = (id: string) =>
  queryOptions({
    queryKey: ["count-weeks", id],
    queryFn: () => ask(api.GET("/api/v1/count-weeks/{week_id}", { params: { path: { week_id: id } } })),
  });

export const boardsQuery = (colonyIds: string[]) =>
  queryOptions({
    queryKey: ["boards", colonyIds],
    queryFn: () => ask(api.GET("/api/v1/boards", { params: { query: { colony: colonyIds } } })),
  });

export const policyQuery = queryOptions({ queryKey: ["policy"], queryFn: () => ask(api.GET("/api/v1/policy")) });

export const countHistoryQuery = (id: string) =>
  queryOptions({
    queryKey: ["count-history", id],
    queryFn: () => ask(api.GET("/api/v1/counts/{count_id}/history", { params: { path: { count_id: id } } })),
  });

export const devicesQuery = queryOptions({
  queryKey: ["account", "devices"],
  queryFn: () => ask(api.GET("/api/v1/sessions")),
});

export const secondFactorQuery = queryOptions({
  queryKey: ["account", "second-factor"],
  queryFn: () => ask(api.GET("/api/v1/person/second-factor")),
});

export const securityEventsQuery = queryOptions({
  queryKey: ["account", "events"],
  queryFn: () => ask(api.GET("/api/v1/security-events")),
});

/** Members by name, a page at a time; the invitations that are open come with the first. */
export const membersQuery = (find: string) =>
  infiniteQueryOptions({
    queryKey: ["members", find],
    initialPageParam: FIRST,
    queryFn: ({ pageParam: after }) =>
      ask(api.GET("/api/v1/members", { params: { query: { ...(find && { find }), ...(after && { after }) } } })),
    getNextPageParam: (page: Schemas["MembersView"]) => page.next ?? undefined,
    select: ({ pages: [first, ...rest] }) => ({
      invitations: first?.invitations ?? [],
      members: [first, ...rest].flatMap((page) => page?.members ?? []),
    }),
  });

export const frameFormatsQuery = queryOptions({
  queryKey: ["frame-formats"],
  staleTime: Infinity,
  queryFn: () => ask(api.GET("/api/v1/frame-formats")),
});

export const signsQuery = queryOptions({
  queryKey: ["signs"],
  staleTime: Infinity,
  queryFn: () => ask(api.GET("/api/v1/signs")),
});

export const regionRecordQuery = queryOptions({
  queryKey: ["policy", "disease-region"],
  queryFn: () => ask(api.GET("/api/v1/disease-region")),
});

export const signCardsQuery = queryOptions({
  queryKey: ["signs", "cards"],
  staleTime: Infinity,
  queryFn: () => ask(api.GET("/api/v1/sign-cards")),
});

export const examinationQuery = queryOptions({
  queryKey: ["signs", "examination"],
  staleTime: Infinity,
  queryFn: () => ask(api.GET("/api/v1/examinations")),
});

/** What the signs of a visit fit without some of its findings; asked again where what they fit has changed. */
export const diseaseQuery = (visitId: string, without: readonly string[], whole: unknown) =>
  queryOptions({
    queryKey: ["visit-disease", visitId, without, whole],
    queryFn: () =>
      ask(
        api.GET("/api/v1/visits/{visit_id}/disease", {
          params: { path: { visit_id: visitId }, query: { without: [...without] } },
        }),
      ),
  });

/** What the examinations at an apiary say of notifiable diseases being there unseen. */
export const unseenQuery = (apiaryId: string) =>
  queryOptions({
    queryKey: ["apiary", apiaryId, "unseen"],
    queryFn: () => ask(api.GET("/api/v1/apiaries/{apiary_id}/unseen", { params: { path: { apiary_id: apiaryId } } })),
  });

export const frameStoreQuery = (apiaryId: string) =>
  queryOptions({
    queryKey: ["frame-store", apiaryId],
    queryFn: () =>
      ask(api.GET("/api/v1/apiaries/{apiary_id}/frames-in-store", { params: { path: { apiary_id: apiaryId } } })),
  });

export const roundQuery = (apiaryId: string) =>
  queryOptions({
    queryKey: ["round", apiaryId],
    queryFn: () => ask(api.GET("/api/v1/apiaries/{apiary_id}/round", { params: { path: { apiary_id: apiaryId } } })),
  });

export const visitQuery = (id: string, compare_with: string | undefined) =>
  queryOptions({
    queryKey: ["visit", id, compare_with ?? ""],
    queryFn: () =>
      ask(
        api.GET("/api/v1/visits/{visit_id}", {
          params: { path: { visit_id: id }, query: compare_with ? { compare_with } : {} },
        }),
      ),
  });
