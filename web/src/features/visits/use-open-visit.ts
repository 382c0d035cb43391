/** Opens a visit of a colony, or goes on with the draft that somebody has open; a quick one opens on its facts. */
import { openVisit } from "@/client/commands/visits";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { useRef } from "react";
import type { Schemas } from "@/client/types";
import { moment } from "@/ui/clock";

const begun = ({ visit, records }: Schemas["VisitView"]) => visit.before_version > 0 || records.length > 0;

export type Opening = { colonyId: string; day?: string; quick?: boolean };

export function useOpenVisit() {
  const navigate = useNavigate();
  const client = useQueryClient();
  // One id a colony, so that a second tap opens no second visit.
  const ids = useRef(new Map<string, string>());
  return useMutation({
    mutationFn: ({ colonyId, day }: Opening) => {
      const id = ids.current.get(colonyId) ?? crypto.randomUUID();
      ids.current.set(colonyId, id);
      return openVisit(colonyId, { id, opened_at: day && !moment().startsWith(day) ? `${day}T12:00:00Z` : moment() });
    },
    onSuccess: async (view, { colonyId, quick = false }) => {
      ids.current.delete(colonyId);
      client.setQueryData(["visit", view.visit.id, ""], view);
      await navigate({
        to: "/visits/$id",
        params: { id: view.visit.id },
        search: { part: quick ? "after" : begun(view) ? "frames" : "before" },
      });
      void client.invalidateQueries({ queryKey: ["colony", colonyId] });
    },
  });
}
