/** Opens a visit of a colony, or goes on with the draft that somebody has open, and goes there. */
import { openVisit } from "@/client/commands/visits";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { useRef } from "react";
import { moment } from "@/ui/clock";

export function useOpenVisit() {
  const navigate = useNavigate();
  const client = useQueryClient();
  // One id a colony, so that a second tap opens no second visit.
  const ids = useRef(new Map<string, string>());
  return useMutation({
    mutationFn: ({ colonyId, day }: { colonyId: string; day?: string }) => {
      const id = ids.current.get(colonyId) ?? crypto.randomUUID();
      ids.current.set(colonyId, id);
      return openVisit(colonyId, { id, opened_at: day && !moment().startsWith(day) ? `${day}T12:00:00Z` : moment() });
    },
    onSuccess: async (view, { colonyId }) => {
      ids.current.delete(colonyId);
      client.setQueryData(["visit", view.visit.id, ""], view);
      await navigate({
        to: "/visits/$id",
        params: { id: view.visit.id },
        search: { part: view.visit.before_version === 0 && view.records.length === 0 ? "before" : "frames" },
      });
      void client.invalidateQueries({ queryKey: ["colony", colonyId] });
    },
  });
}
