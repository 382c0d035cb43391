/** Signing in and out, and what a person sets for themselves. */
import { api, ask } from "@/client/api";
import { forgetAnswers } from "@/client/kept-answers";
import type { Schemas } from "@/client/types";

/** An act after which another person, or the same for another association, may read on this device. */
async function changing<T>(act: Promise<T>): Promise<T> {
  const answer = await act;
  await forgetAnswers();
  return answer;
}

export const signIn = (body: Schemas["SignInInput"]) => changing(ask(api.POST("/api/v1/session", { body })));

export const signOut = (everywhere: boolean) =>
  changing(ask(everywhere ? api.DELETE("/api/v1/sessions") : api.DELETE("/api/v1/session")));

export const signOutDevice = (session_id: string) =>
  ask(api.DELETE("/api/v1/sessions/{session_id}", { params: { path: { session_id } } }));

export const switchAssociation = (body: Schemas["SwitchInput"]) =>
  changing(ask(api.PUT("/api/v1/session/association", { body })));

export const amendPerson = (body: Schemas["PersonInput"]) => ask(api.PUT("/api/v1/person", { body }));

export const changePassword = (body: Schemas["PasswordInput"]) => ask(api.PUT("/api/v1/person/password", { body }));

export const beginSecondFactor = (body: Schemas["PresentInput"]) =>
  ask(api.POST("/api/v1/person/second-factor", { body }));

export const confirmSecondFactor = (body: Schemas["CodeInput"]) =>
  ask(api.PUT("/api/v1/person/second-factor", { body }));

export const makeRecoveryCodes = (body: Schemas["PresentInput"]) =>
  ask(api.POST("/api/v1/person/second-factor/recovery-codes", { body }));

export const endSecondFactor = (body: Schemas["PresentInput"]) =>
  ask(api.POST("/api/v1/person/second-factor/end", { body }));

export const joinAssociation = (body: Schemas["JoinInput"]) => changing(ask(api.POST("/api/v1/joining", { body })));
