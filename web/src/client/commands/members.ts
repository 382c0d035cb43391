/** Writes of members and invitations. */
import { api, ask, ifMatch } from "@/client/api";
import type { Schemas } from "@/client/types";

const at = (invitation: string) => ({ params: { path: { invitation_id: invitation } } });

export const inviteMember = (body: Schemas["InvitationInput"]) => ask(api.POST("/api/v1/invitations", { body }));

export const renewInvitation = (id: string) => ask(api.POST("/api/v1/invitations/{invitation_id}/link", at(id)));

export const withdrawInvitation = (id: string) => ask(api.DELETE("/api/v1/invitations/{invitation_id}", at(id)));

export const amendMember = (id: string, version: number, body: Schemas["MemberAmendment"]) =>
  ask(
    api.PUT("/api/v1/members/{membership_id}", {
      params: { path: { membership_id: id }, header: ifMatch(version) },
      body,
    }),
  );
