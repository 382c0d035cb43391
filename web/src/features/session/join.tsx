/** Taking up an invitation: the link's token stands behind the #, so that no server log keeps it. */
import { clsx } from "clsx";
import { joinAssociation } from "@/client/commands/session";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { useState } from "react";
import { api, ask, keepSession } from "@/client/api";
import { Problem } from "@/client/types";
import { sessionQuery } from "@/client/queries";
import { buttonClass } from "@/ui/button";
import { TextField } from "@/ui/fields";
import { ErrorPage, Loading, Page } from "@/ui/page";
import { SaveForm, bindFields, useDraft, useSave } from "@/ui/save-form";
import { CodeField, asksForCode } from "./code-field";
import { ROLE, ROLE_MAY } from "@/wording/words";

export function Join() {
  const client = useQueryClient();
  const navigate = useNavigate();
  const [token] = useState(() => location.hash.slice(1));
  const [draft, set] = useDraft({ name: "", password: "", code: "" });
  const opened = useQuery({
    queryKey: ["joining", token],
    queryFn: () => ask(api.POST("/api/v1/joining/link", { body: { token } })),
    retry: false,
  });
  const save = useSave({
    act: () => joinAssociation({ token, ...draft }),
    done: async (session) => {
      keepSession(session);
      client.clear();
      client.setQueryData(sessionQuery.queryKey, session);
      await navigate({ to: "/", replace: true });
    },
  });
  const field = bindFields(draft, set, save);
  const asksCode = asksForCode(save.problem, draft.code);
  if (opened.isPending) return <Loading what="Reading the invitation …" />;
  if (opened.isError) {
    if (opened.error instanceof Problem && ![404, 422].includes(opened.error.status))
      return <ErrorPage error={opened.error} retry={() => void opened.refetch()} />;
    return (
      <Page>
        <div role="alert" className="mt-10 max-w-prose">
          <h1 className="text-3xl">This invitation does not hold</h1>
          <p className="mt-3 text-ink-2">
            The link was used, withdrawn, replaced by a newer one, or is more than two weeks old. Ask whoever sent it
            for a new one.
          </p>
          <a href="/" className={clsx(buttonClass("main"), "mt-5")}>
            Go to Red Frame
          </a>
        </div>
      </Page>
    );
  }
  const invitation = opened.data;
  return (
    <main id="main" className="mx-auto max-w-[34rem] px-5 py-10">
      <p className="figure text-2xl">Red Frame</p>
      <h1 className="mt-8 text-3xl">{invitation.association} invites you</h1>
      <p className="mt-2 text-ink-2">
        As {ROLE[invitation.role]}
        {invitation.keeper && ` for the apiaries of ${invitation.keeper}`}. {ROLE_MAY[invitation.role]}
      </p>
      <SaveForm
        save={save}
        fields={["name", "password", "code"]}
        label="Join"
        sending="Joining …"
        disabled={draft.password === ""}
        big
        className="mt-6 space-y-4 border-t-4 border-ink bg-sheet p-6">
        <p>
          <strong>{invitation.email}</strong>
          {invitation.has_account ? " has an account already: enter its password." : ""}
        </p>
        <input type="hidden" autoComplete="username" value={invitation.email} readOnly />
        {!invitation.has_account && (
          <TextField label="Your name" autoComplete="name" maxLength={120} {...field("name")} />
        )}
        <TextField
          label="Password"
          type="password"
          autoComplete={invitation.has_account ? "current-password" : "new-password"}
          {...(invitation.has_account ? {} : { hint: "At least 12 characters" })}
          {...field("password")}
        />
        {asksCode && <CodeField {...field("code")} />}
      </SaveForm>
    </main>
  );
}
