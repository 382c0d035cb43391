/** Signing out, here or on every device: what was kept of the session goes with it. */
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { api, ask, keepSession } from "@/client/api";

export function useSignOut() {
  const client = useQueryClient();
  const navigate = useNavigate();
  return useMutation({
    mutationFn: (everywhere: boolean) =>
      ask(everywhere ? api.DELETE("/api/v1/sessions") : api.DELETE("/api/v1/session")),
    onSuccess: async () => {
      keepSession(null);
      client.clear();
      await navigate({ to: "/sign-in", replace: true });
    },
  });
}
