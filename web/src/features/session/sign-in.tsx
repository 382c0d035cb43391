/** Sign-in. */
import { useQueryClient } from "@tanstack/react-query";
import { useNavigate, useSearch } from "@tanstack/react-router";
import { keepSession } from "@/client/api";
import { signIn } from "@/client/commands/session";
import { sessionQuery } from "@/client/queries";
import { TextField } from "@/ui/fields";
import { CodeField, asksForCode } from "./code-field";
import { SaveForm, bindFields, useDraft, useSave } from "@/ui/save-form";

export function SignIn() {
  const client = useQueryClient();
  const navigate = useNavigate();
  const { then } = useSearch({ from: "/sign-in" });
  const [draft, set] = useDraft({ email: "", password: "", code: "" });
  const demo = client.getQueryData(sessionQuery.queryKey)?.demo ?? false;
  const save = useSave({
    act: () => signIn(draft),
    check: () => ({
      email: draft.email === "" && "Enter your e-mail address",
      password: draft.password === "" && "Enter your password",
    }),
    done: async (session) => {
      keepSession(session);
      client.clear();
      client.setQueryData(sessionQuery.queryKey, session);
      await navigate({ to: then ?? "/", replace: true });
    },
  });
  const field = bindFields(draft, set, save);
  const asksCode = asksForCode(save.problem, draft.code);
  return (
    <main
      id="main"
      className="mx-auto grid min-h-dvh max-w-[1080px] items-center gap-10 px-5 py-10 desk:grid-cols-[1.1fr_1fr]">
      <div>
        <p className="flex items-center gap-3">
          <img src="/icon.svg" alt="" width="34" height="34" className="rounded-[2px] bg-[#fafaf7] p-0.5" />
          <span className="figure text-4xl">Red Frame</span>
        </p>
        <p className="mt-5 max-w-[34ch] text-lg text-ink-2">
          Counts, thresholds, treatments and whether they worked, across all your apiaries.
        </p>
      </div>
      <div className="border-t-4 border-ink bg-sheet p-6">
        <h1 className="mb-4 text-2xl">Sign in</h1>
        <SaveForm save={save} fields={["email", "password", "code"]} label="Sign in" sending="Signing in …" big>
          <TextField label="E-mail" type="email" autoComplete="username" {...field("email")} />
          <TextField label="Password" type="password" autoComplete="current-password" {...field("password")} />
          {asksCode && <CodeField {...field("code")} />}
        </SaveForm>
        {demo && (
          <p className="mt-4 text-sm text-ink-2">
            Demo: mentor@corrane.example, password corrane-demo. Other accounts stand in the terminal.
          </p>
        )}
      </div>
    </main>
  );
}
