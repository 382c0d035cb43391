/** The people of the association: who may do what, who is invited, and who has left. */
import { amendMember, inviteMember, renewInvitation, withdrawInvitation } from "@/client/commands/members";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Problem, type Schemas } from "@/client/types";
import { membersQuery, apiariesQuery } from "@/client/queries";
import { shortDay } from "@/ui/dates";
import { Dialog } from "@/ui/dialog";
import { Button } from "@/ui/button";
import { Field, FormError, described } from "@/ui/field";
import { ErrorPage, Loading, Notice } from "@/ui/page";
import { ROLE, ROLE_MAY } from "@/wording/words";

type Member = Schemas["Member"];
type Role = Member["role"];
const ROLES: Role[] = ["administrator", "inspector", "mentor", "keeper", "read_only"];

export function Members() {
  const query = useQuery(membersQuery);
  const [amending, setAmending] = useState<Member | null>(null);
  const [inviting, setInviting] = useState(false);
  const [link, setLink] = useState<Schemas["Invited"] | null>(null);
  const client = useQueryClient();
  const changed = () => client.invalidateQueries({ queryKey: membersQuery.queryKey });
  const renew = useMutation({
    mutationFn: (id: string) => renewInvitation(id),
    onSuccess: async (made) => {
      setLink(made);
      await changed();
    },
  });
  const withdraw = useMutation({
    mutationFn: (id: string) => withdrawInvitation(id),
    onSuccess: async () => {
      setLink(null);
      await changed();
    },
  });
  if (query.isPending) return <Loading what="Opening the list of people …" />;
  if (query.isError) return <ErrorPage error={query.error} retry={() => void query.refetch()} />;
  const { members, invitations } = query.data;
  return (
    <div className="mt-6 grid items-start gap-x-14 gap-y-8 desk:grid-cols-[minmax(0,1.4fr)_minmax(0,1fr)]">
      <section aria-labelledby="members">
        <h2 id="members" className="border-b-2 border-ink pb-1 text-xl">
          Members
        </h2>
        <ul>
          {members.map((member) => (
            <li
              key={member.id}
              className="grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-4 border-b border-line py-2">
              <p className="min-w-0">
                <strong>{member.name}</strong>
                {member.me && " (you)"}
                <span className="block truncate text-sm text-ink-2">{member.email}</span>
                <span className="text-sm">
                  {ROLE[member.role]}
                  {member.keeper && `: ${member.keeper}`}
                  {member.ended_at && `, left ${shortDay(member.ended_at)}`}
                </span>
              </p>
              <Button onClick={() => setAmending(member)} aria-label={`Change ${member.name}`}>
                Change
              </Button>
            </li>
          ))}
        </ul>
      </section>
      <section aria-labelledby="invitations" className="space-y-4">
        <h2 id="invitations" className="border-b-2 border-ink pb-1 text-xl">
          Invitations
        </h2>
        {link && <Link invited={link} />}
        {invitations.length === 0 && <p className="text-ink-2">Nobody is invited at present.</p>}
        <ul>
          {invitations.map((one) => (
            <li key={one.id} className="border-b border-line py-2">
              <p className="break-words font-semibold">{one.email}</p>
              <p className="text-sm text-ink-2">
                {ROLE[one.role]}
                {one.keeper && `: ${one.keeper}`}; by {one.by_name}, holds until {shortDay(one.expires_at)}
              </p>
              <div className="mt-1 flex flex-wrap gap-2">
                <Button onClick={() => renew.mutate(one.id)} aria-label={`New link for ${one.email}`}>
                  New link
                </Button>
                <Button
                  variant="quiet"
                  onClick={() => withdraw.mutate(one.id)}
                  aria-label={`Withdraw the invitation of ${one.email}`}>
                  Withdraw
                </Button>
              </div>
            </li>
          ))}
        </ul>
        <FormError error={renew.error ?? withdraw.error} fields={[]} />
        <Button variant="main" onClick={() => setInviting(true)}>
          Invite somebody
        </Button>
      </section>
      <Dialog open={inviting} onClose={() => setInviting(false)} title="Invite somebody">
        <InviteForm
          onDone={async (made) => {
            setInviting(false);
            setLink(made);
            await changed();
          }}
        />
      </Dialog>
      <Dialog open={amending !== null} onClose={() => setAmending(null)} title={amending?.name ?? ""}>
        {amending && (
          <MemberForm
            key={amending.id}
            member={amending}
            onDone={async () => {
              setAmending(null);
              await changed();
            }}
          />
        )}
      </Dialog>
    </div>
  );
}

function Link({ invited }: { invited: Schemas["Invited"] }) {
  const address = `${location.origin}/join#${invited.token}`;
  const [copied, setCopied] = useState(false);
  return (
    <Notice tone="course">
      <p>
        <strong>Pass this link on to {invited.invitation.email}.</strong> It is shown this once and works once, for two
        weeks.
      </p>
      <p className="mt-2 flex gap-2">
        <input
          readOnly
          aria-label="Link"
          className="input"
          value={address}
          onFocus={(event) => event.target.select()}
        />
        {"clipboard" in navigator && (
          <Button
            onClick={() =>
              void navigator.clipboard.writeText(address).then(
                () => setCopied(true),
                () => setCopied(false),
              )
            }>
            {copied ? "Copied" : "Copy"}
          </Button>
        )}
      </p>
    </Notice>
  );
}

function RoleFields({
  role,
  keeper,
  onRole,
  onKeeper,
  problem,
}: {
  role: Role;
  keeper: string;
  onRole: (role: Role) => void;
  onKeeper: (id: string) => void;
  problem: Problem | null;
}) {
  const places = useQuery(apiariesQuery);
  return (
    <>
      <Field label="Role" name="role" hint={ROLE_MAY[role]} error={problem?.at("role")}>
        <select
          className="input"
          value={role}
          onChange={(event) => onRole(event.target.value as Role)}
          {...described("role", problem?.at("role"), true)}>
          {ROLES.map((one) => (
            <option key={one} value={one}>
              {ROLE[one]}
            </option>
          ))}
        </select>
      </Field>
      {role === "keeper" && (
        <Field label="Keeps the apiaries of" name="keeper_id" error={problem?.at("keeper_id")}>
          <select
            className="input"
            value={keeper}
            onChange={(event) => onKeeper(event.target.value)}
            {...described("keeper_id", problem?.at("keeper_id"))}>
            <option value="">choose a keeper</option>
            {(places.data?.keepers ?? []).map((one) => (
              <option key={one.id} value={one.id}>
                {one.name}
              </option>
            ))}
          </select>
        </Field>
      )}
    </>
  );
}

function InviteForm({ onDone }: { onDone: (made: Schemas["Invited"]) => void }) {
  const [id] = useState(() => crypto.randomUUID());
  const [email, setEmail] = useState("");
  const [role, setRole] = useState<Role>("mentor");
  const [keeper, setKeeper] = useState("");
  const invite = useMutation({
    mutationFn: () => inviteMember({ id, email, role, keeper_id: role === "keeper" && keeper ? keeper : null }),
    onSuccess: onDone,
  });
  const problem = invite.error instanceof Problem ? invite.error : null;
  return (
    <form
      noValidate
      className="space-y-4"
      onSubmit={(event) => {
        event.preventDefault();
        invite.mutate();
      }}>
      <Field label="E-mail" name="email" error={problem?.at("email")}>
        <input
          type="email"
          autoComplete="off"
          className="input"
          value={email}
          onChange={(event) => setEmail(event.target.value)}
          {...described("email", problem?.at("email"))}
        />
      </Field>
      <RoleFields role={role} keeper={keeper} onRole={setRole} onKeeper={setKeeper} problem={problem} />
      <FormError error={invite.error} fields={["email", "role", "keeper_id"]} />
      <Button type="submit" variant="main" big className="w-full" disabled={invite.isPending}>
        Make the invitation
      </Button>
    </form>
  );
}

function MemberForm({ member, onDone }: { member: Member; onDone: () => void }) {
  const [role, setRole] = useState<Role>(member.role);
  const [keeper, setKeeper] = useState(member.keeper_id ?? "");
  const amend = useMutation({
    mutationFn: (ended: boolean) =>
      amendMember(member.id, member.version, { role, keeper_id: role === "keeper" && keeper ? keeper : null, ended }),
    onSuccess: onDone,
  });
  const problem = amend.error instanceof Problem ? amend.error : null;
  return (
    <form
      noValidate
      className="space-y-4"
      onSubmit={(event) => {
        event.preventDefault();
        amend.mutate(member.ended_at !== null);
      }}>
      <p className="text-ink-2">{member.email}</p>
      <RoleFields role={role} keeper={keeper} onRole={setRole} onKeeper={setKeeper} problem={problem} />
      <FormError error={amend.error} fields={["role", "keeper_id"]} />
      <div className="flex flex-wrap gap-3">
        <Button type="submit" variant="main" disabled={amend.isPending}>
          Record the role
        </Button>
        {member.ended_at === null ? (
          <Button disabled={amend.isPending} onClick={() => amend.mutate(true)}>
            End the membership
          </Button>
        ) : (
          <Button disabled={amend.isPending} onClick={() => amend.mutate(false)}>
            Take back as a member
          </Button>
        )}
      </div>
      {member.ended_at === null && (
        <p className="text-sm text-ink-2">
          Ending it signs {member.name} out on every device. What was recorded stays, under the name.
        </p>
      )}
    </form>
  );
}
