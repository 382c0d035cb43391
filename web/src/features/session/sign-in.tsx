/** Sign-in. */
import { signIn as openSession } from "@/client/commands/session";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate, useSearch } from "@tanstack/react-router";
import { useForm } from "react-hook-form";
import { keepSession } from "@/client/api";
import { sessionQuery } from "@/client/queries";
import { Button } from "@/ui/button";
import { Field, FormError, described } from "@/ui/field";

type Entry = { email: string; password: string };

export function SignIn() {
  const client = useQueryClient();
  const navigate = useNavigate();
  const { then } = useSearch({ from: "/sign-in" });
  const form = useForm<Entry>({ defaultValues: { email: "", password: "" } });
  const demo = client.getQueryData(sessionQuery.queryKey)?.demo ?? false;
  const signIn = useMutation({
    mutationFn: (entry: Entry) => openSession(entry),
    onSuccess: async (session) => {
      keepSession(session);
      client.clear();
      client.setQueryData(sessionQuery.queryKey, session);
      await navigate({ to: then ?? "/", replace: true });
    },
    onError: () => form.setFocus("password"),
  });
  const { errors } = form.formState;
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
      <form
        noValidate
        className="space-y-4 border-t-4 border-ink bg-sheet p-6"
        onSubmit={(event) => void form.handleSubmit((entry) => signIn.mutate(entry))(event)}>
        <h1 className="text-2xl">Sign in</h1>
        <Field label="E-mail" name="email" error={errors.email?.message}>
          <input
            type="email"
            autoComplete="username"
            className="input"
            {...form.register("email", { required: "Enter your e-mail address" })}
            {...described("email", errors.email?.message)}
          />
        </Field>
        <Field label="Password" name="password" error={errors.password?.message}>
          <input
            type="password"
            autoComplete="current-password"
            className="input"
            {...form.register("password", { required: "Enter your password" })}
            {...described("password", errors.password?.message)}
          />
        </Field>
        <FormError error={signIn.error} fields={[]} />
        <Button type="submit" variant="main" big className="w-full" disabled={signIn.isPending}>
          {signIn.isPending ? "Signing in …" : "Sign in"}
        </Button>
        {demo && (
          <p className="text-sm text-ink-2">
            Demo: mentor@corrane.example, password corrane-demo. Other accounts stand in the terminal.
          </p>
        )}
      </form>
    </main>
  );
}
