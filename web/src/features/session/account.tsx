/** The person's own settings: units, theme, association, password, and signing out. */
import { changePassword, switchAssociation } from "@/client/commands/session";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "@tanstack/react-router";
import { keepSession } from "@/client/api";
import type { Schemas } from "@/client/types";
import { sessionQuery } from "@/client/queries";
import { AccountEvents, Devices } from "./devices";
import { SecondFactor } from "./second-factor";
import { useSession } from "./use-session";
import { useSettings } from "./use-settings";
import { useSignOut } from "./use-sign-out";
import { Choice } from "@/ui/choice";
import { Button } from "@/ui/button";
import { FormError } from "@/ui/field";
import { TextField } from "@/ui/fields";
import { Page, Title } from "@/ui/page";
import { SaveForm, bindFields, useDraft, useSave } from "@/ui/save-form";
import { ROLE } from "@/wording/words";

export function Account() {
  const session = useSession();
  const client = useQueryClient();
  const navigate = useNavigate();
  const { person } = session;
  const settings = useSettings();
  const leave = useSignOut();
  const change = useMutation({
    mutationFn: (membershipId: string) => switchAssociation({ membership_id: membershipId }),
    onSuccess: async (next) => {
      keepSession(next);
      client.clear();
      client.setQueryData(sessionQuery.queryKey, next);
      await navigate({ to: "/" });
    },
  });
  const own = session.places_of_work.find((one) => one.association_name === person.association);
  return (
    <Page>
      <Title>{person.name}</Title>
      <p className="mt-1 text-ink-2">
        {person.email}, {session.role && ROLE[session.role]} at {person.association}
      </p>
      <div className="mt-7 grid gap-x-14 gap-y-10 desk:grid-cols-2">
        <section className="space-y-4" aria-labelledby="units">
          <h2 id="units" className="border-b-2 border-ink pb-1 text-xl">
            Units and theme
          </h2>
          <p className="text-ink-2">Shown everywhere you work. What is stored is not touched.</p>
          <Choice
            label="Temperature"
            value={person.temperature as Schemas["PersonInput"]["temperature"]}
            options={[
              ["celsius", "°C"],
              ["fahrenheit", "°F"],
            ]}
            onChange={(temperature) => settings.set({ temperature })}
          />
          <Choice
            label="Mass"
            value={person.mass as Schemas["PersonInput"]["mass"]}
            options={[
              ["kg", "g, kg"],
              ["lb", "oz, lb"],
            ]}
            onChange={(mass) => settings.set({ mass })}
          />
          <Choice
            label="Volume of bees"
            value={person.volume as Schemas["PersonInput"]["volume"]}
            options={[
              ["ml", "ml"],
              ["cup", "US cup"],
              ["fl_oz", "fl oz"],
            ]}
            onChange={(volume) => settings.set({ volume })}
          />
          <Choice
            label="Theme"
            value={person.theme as Schemas["PersonInput"]["theme"]}
            options={[
              ["system", "as the device"],
              ["light", "light"],
              ["dark", "dark"],
            ]}
            onChange={(theme) => settings.set({ theme })}
          />
          <FormError error={settings.error} fields={[]} />
        </section>
        <PasswordForm onChanged={() => leave.mutate(false)} />
        <SecondFactor />
        {session.places_of_work.length > 1 && (
          <section aria-labelledby="work" className="space-y-3">
            <h2 id="work" className="border-b-2 border-ink pb-1 text-xl">
              Association
            </h2>
            <ul className="space-y-2">
              {session.places_of_work.map((one) => (
                <li key={one.membership_id} className="flex items-center justify-between gap-4">
                  <span>
                    {one.association_name}, {ROLE[one.role]}
                  </span>
                  {one === own ? (
                    <strong>here now</strong>
                  ) : (
                    <Button onClick={() => change.mutate(one.membership_id)}>Work here</Button>
                  )}
                </li>
              ))}
            </ul>
          </section>
        )}
        <Devices />
        <AccountEvents />
      </div>
    </Page>
  );
}

function PasswordForm({ onChanged }: { onChanged: () => void }) {
  const [draft, set] = useDraft({ present: "", new: "" });
  const save = useSave({ act: () => changePassword(draft), done: onChanged });
  const field = bindFields(draft, set, save);
  return (
    <section aria-labelledby="password" className="space-y-4">
      <h2 id="password" className="border-b-2 border-ink pb-1 text-xl">
        Password
      </h2>
      <SaveForm
        save={save}
        fields={["present", "new"]}
        label="Change the password"
        disabled={!draft.present || !draft.new}>
        <TextField label="Present password" type="password" autoComplete="current-password" {...field("present")} />
        <TextField
          label="New password"
          type="password"
          autoComplete="new-password"
          hint="At least 12 characters: several words that only you put together. Every device is signed out."
          {...field("new")}
        />
      </SaveForm>
    </section>
  );
}
