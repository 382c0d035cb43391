/** Where the person is signed in, and what happened to the account: to see whether somebody else was there. */
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { signOutDevice } from "@/client/commands/session";
import { devicesQuery, securityEventsQuery } from "@/client/queries";
import type { Schemas } from "@/client/types";
import { Button } from "@/ui/button";
import { FormError } from "@/ui/field";
import { useSignOut } from "./use-sign-out";

const WHEN = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" });
const when = (moment: string) => WHEN.format(new Date(moment));

const EVENT: Record<Schemas["SecurityEvent"]["kind"], string> = {
  signed_in: "Signed in",
  joined: "Joined an association",
  wrong_password: "Wrong password",
  wrong_code: "Right password, wrong code",
  signed_out: "Signed out",
  signed_out_everywhere: "Signed out on every device",
  session_ended: "Signed out from another device",
  password_changed: "Password changed",
  second_factor_on: "Second factor turned on",
  second_factor_off: "Second factor turned off",
  recovery_code_used: "Signed in with a recovery code",
  recovery_codes_made: "Recovery codes made",
};

const WRONG: ReadonlySet<string> = new Set(["wrong_password", "wrong_code"]);

export function Devices() {
  const client = useQueryClient();
  const devices = useQuery(devicesQuery);
  const leave = useSignOut();
  const end = useMutation({
    mutationFn: (id: string) => signOutDevice(id),
    onSettled: () => client.invalidateQueries({ queryKey: ["account"] }),
  });
  return (
    <section aria-labelledby="devices" className="space-y-3">
      <h2 id="devices" className="border-b-2 border-ink pb-1 text-xl">
        Signed in
      </h2>
      <ul>
        {(devices.data ?? []).map((one) => (
          <li
            key={one.id}
            className="grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-4 border-b border-line py-2">
            <p className="min-w-0">
              <strong>{one.device || "An unknown device"}</strong>
              {one.is_this && ", this one"}
              <span className="block text-sm text-ink-2">
                since {when(one.opened_at)}, last used {when(one.seen_at)}
              </span>
            </p>
            {!one.is_this && (
              <Button disabled={end.isPending} onClick={() => end.mutate(one.id)}>
                Sign out there
              </Button>
            )}
          </li>
        ))}
      </ul>
      <FormError error={end.error} fields={[]} />
      <p className="text-sm text-ink-2">A device that is not used for eight days is signed out by itself.</p>
      <div className="flex flex-wrap gap-2">
        <Button onClick={() => leave.mutate(false)}>Sign out here</Button>
        <Button onClick={() => leave.mutate(true)}>Sign out on every device</Button>
      </div>
    </section>
  );
}

export function AccountEvents() {
  const events = useQuery(securityEventsQuery);
  return (
    <section aria-labelledby="events" className="space-y-3">
      <h2 id="events" className="border-b-2 border-ink pb-1 text-xl">
        What happened to this account
      </h2>
      <ul>
        {(events.data ?? []).map((one) => (
          <li
            key={`${one.at} ${one.kind}`}
            className="flex flex-wrap justify-between gap-x-4 border-b border-line py-1.5">
            <span className={WRONG.has(one.kind) ? "font-semibold text-act" : ""}>{EVENT[one.kind]}</span>
            <span className="text-sm text-ink-2">{[one.device, when(one.at)].filter(Boolean).join(", ")}</span>
          </li>
        ))}
      </ul>
      <p className="text-sm text-ink-2">
        Something here that was not you? Change the password: every device is signed out.
      </p>
    </section>
  );
}
