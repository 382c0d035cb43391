/** Signing in and out, and what a person sets for themselves. */
import { api, ask } from "@/client/api";
import type { Schemas } from "@/client/types";

export const signIn = (body: Schemas["SignInInput"]) => ask(api.POST("/api/v1/session", { body }));

export const signOut = (everywhere: boolean) =>
  ask(everywhere ? api.DELETE("/api/v1/sessions") : api.DELETE("/api/v1/session"));

export const switchAssociation = (body: Schemas["SwitchInput"]) =>
  ask(api.PUT("/api/v1/session/association", { body }));

export const amendPerson = (body: Schemas["PersonInput"]) => ask(api.PUT("/api/v1/person", { body }));

export const changePassword = (body: Schemas["PasswordInput"]) => ask(api.PUT("/api/v1/person/password", { body }));

export const joinAssociation = (body: Schemas["JoinInput"]) => ask(api.POST("/api/v1/joining", { body }));
