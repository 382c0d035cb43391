/** The people of the association: who may do what, who is invited, and who has left. */
import { amendMember, inviteMember, renewInvitation, withdrawInvitation } from "@/client/commands/members";
import { keepPreviousData, useInfiniteQuery, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import type { Schemas } from "@/client/types";
import { keepersQuery, membersQuery } from "@/client/queries";
import { shortDay } from "@/ui/dates";
import { Dialog } from "@/ui/dialog";
import { Button } from "@/ui/button";
import { FormError } from "@/ui/field";
import { SelectField, TextField } from "@/ui/fields";
import { useLongList, useMore } from "@/ui/long-list";
import { ErrorPage, Loading, Notice } from "@/ui/page";
import { SaveForm, bindFields, useDraft, useSave, type Save } from "@/ui/save-form";
import { ROLE, ROLE_MAY } from "@/wording/words";

type Member = Schemas["Member"];
type Role = Member["role"];
const ROW_PX = 88;
const ROLES: Role[] = ["administrator", "inspector", "mentor", "keeper", "read_only"];

export function Members() {
  const [find, setFind] = useState("");
  const query = useInfiniteQuery({ ...membersQuery(useDeferredValue(find.trim())), placeholderData: keepPreviousData });
  const [amending, setAmending] = useState<Member | null>(null);
  const [inviting, setInviting] = useState(false);
  const [link, setLink] = useState<Schemas["Invited"] | null>(null);
  const client = useQueryClient();
  const changed = () => client.invalidateQueries({ queryKey: ["members"] });
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
  const more = useMore(query);
  if (query.isPending) return <Loading what="Opening the list of people …" />;
  if (query.isError) return <ErrorPage error={query.error} retry={() => void query.refetch()} />;
  const { members, invitations } = query.data;
  return (
    <div className="mt-6 grid items-start gap-x-14 gap-y-8 desk:grid-cols-[minmax(0,1.4fr)_minmax(0,1fr)]">
      <section aria-labelledby="members">
        <div className="flex flex-wrap items-end justify-between gap-x-6 gap-y-2 border-b-2 border-ink pb-1">
          <h2 id="members" className="text-xl">
            Members
          </h2>
          <label className="min-w-40 max-w-72 flex-1">
            <span className="sr-only">Show members called</span>
            <input
              type="search"
              className="input"
              placeholder="Name, address or keeper"
              value={find}
              onChange={(event) => setFind(event.target.value)}
            />
          </label>
        </div>
        {members.length === 0 && <p className="mt-3 text-ink-2">Nobody here is called that.</p>}
        <MemberList members={members} more={more} onAmend={setAmending} />
      </section>
      <section aria-labelledby="invitations" className="order-first space-y-4 desk:order-none">
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

type MemberListProps = { members: Member[]; more: (() => void) | undefined; onAmend: (member: Member) => void };

function MemberList({ members, more, onAmend }: MemberListProps) {
  const rows = useLongList<HTMLUListElement>({ count: members.length, estimate: ROW_PX, current: -1, more });
  return (
    <ul ref={rows.container} style={{ paddingTop: rows.before, paddingBottom: rows.after }}>
      {rows.drawn.map((index) => {
        const member = members[index];
        return (
          member && (
            <li
              key={member.id}
              ref={rows.measure}
              data-index={index}
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
              <Button onClick={() => onAmend(member)} aria-label={`Change ${member.name}`}>
                Change
              </Button>
            </li>
          )
        );
      })}
    </ul>
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

type RoleDraft = { role: Role; keeper: string };
type RoleProps = { draft: RoleDraft; set: (part: Partial<RoleDraft>) => void; save: Save<boolean> | Save };

function RoleFields({ draft, set, save }: RoleProps) {
  const field = bindFields(draft, set, save);
  const known = useQuery(keepersQuery);
  const keepers = (known.data ?? []).map((one) => [one.id, one.name] as const);
  return (
    <>
      <SelectField
        label="Role"
        hint={ROLE_MAY[draft.role]}
        options={ROLES.map((one) => [one, ROLE[one]] as const)}
        {...field("role")}
      />
      {draft.role === "keeper" && (
        <SelectField
          label="Keeps the apiaries of"
          options={[["", "choose a keeper"], ...keepers]}
          {...field("keeper", "keeper_id")}
        />
      )}
    </>
  );
}

function fieldsOf({ role, keeper }: RoleDraft) {
  return { role, keeper_id: role === "keeper" && keeper ? keeper : null };
}

function InviteForm({ onDone }: { onDone: (made: Schemas["Invited"]) => void }) {
  const [id] = useState(() => crypto.randomUUID());
  const [draft, set] = useDraft({ email: "", role: "mentor" as Role, keeper: "" });
  const save = useSave({ act: () => inviteMember({ id, email: draft.email, ...fieldsOf(draft) }), done: onDone });
  const field = bindFields(draft, set, save);
  return (
    <SaveForm save={save} fields={["email", "role", "keeper_id"]} label="Make the invitation" big>
      <TextField label="E-mail" type="email" autoComplete="off" {...field("email")} />
      <RoleFields draft={draft} set={set} save={save} />
    </SaveForm>
  );
}

function MemberForm({ member, onDone }: { member: Member; onDone: () => void }) {
  const [draft, set] = useDraft({ role: member.role, keeper: member.keeper_id ?? "" });
  const save = useSave({
    act: (ended: boolean) => amendMember(member.id, member.version, { ...fieldsOf(draft), ended }),
    done: onDone,
  });
  const isMember = member.ended_at === null;
  return (
    <SaveForm
      save={{ ...save, send: () => save.send(!isMember) }}
      fields={["role", "keeper_id"]}
      label="Record the role"
      more={
        <Button disabled={save.isSending} onClick={() => save.send(isMember)}>
          {isMember ? "End the membership" : "Take back as a member"}
        </Button>
      }>
      <p className="text-ink-2">{member.email}</p>
      <RoleFields draft={draft} set={set} save={save} />
      {isMember && (
        <p className="text-sm text-ink-2">
          Ending it signs {member.name} out on every device. What was recorded stays, under the name.
        </p>
      )}
    </SaveForm>
  );
}
