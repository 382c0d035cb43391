/** Signing out, here or on every device: what was kept of the session goes with it. */
import { signOut } from "@/client/commands/session";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { keepSession } from "@/client/api";

export function useSignOut() {
  const client = useQueryClient();
  const navigate = useNavigate();
  return useMutation({
    mutationFn: (everywhere: boolean) => signOut(everywhere),
    onSuccess: async () => {
      keepSession(null);
      client.clear();
      await navigate({ to: "/sign-in", replace: true });
    },
  });
}
