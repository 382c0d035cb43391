/** Writes of count weeks. */
import { api, ask, ifMatch } from "@/client/api";
import type { Schemas } from "@/client/types";

const at = (week: string) => ({ path: { week_id: week } });

export const openCountWeek = (body: Schemas["CountWeekInput"]) => ask(api.POST("/api/v1/count-weeks", { body }));

export const amendCountWeek = (week: string, version: number, body: Schemas["CountWeekFields"]) =>
  ask(api.PUT("/api/v1/count-weeks/{week_id}", { params: { ...at(week), header: ifMatch(version) }, body }));

export const remindKeepers = (week: string) =>
  ask(api.POST("/api/v1/count-weeks/{week_id}/reminders", { params: at(week) }));

/** Reads a table of counts for a week; `take`: records what can be taken, else only says what would be. */
export const importCounts = (week: string, table: File, take: boolean) =>
  ask(
    api.POST("/api/v1/count-weeks/{week_id}/import", {
      params: { ...at(week), query: { take } },
      body: table as unknown as string,
      bodySerializer: (body) => body,
      headers: { "content-type": "text/csv" },
    }),
  );
