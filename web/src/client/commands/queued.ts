/** How each kind of queued item is sent. */
import { api, ask } from "@/client/api";
import type { Schemas } from "@/client/types";
import type { Item } from "@/sync/queue";
import { saveDeadStep, stepVersion, type StepPiece } from "./deadouts";
import { saveVisitPiece, versionOf, type VisitPiece } from "./visit-parts";

export type CountBody = Schemas["JarInput"] | Schemas["BoardInput"] | Schemas["DroneInput"] | Schemas["LookInput"];
export type BoardBody = Schemas["BoardPlacing"];

/** Sends an item by its kind; answers with what the server said and the version that it has now. */
export async function sendQueued(_key: string, item: Item): Promise<{ answer: unknown; base: number }> {
  switch (item.kind) {
    case "count":
      return { answer: await ask(api.POST("/api/v1/counts", { body: item.content as CountBody })), base: 0 };
    case "board":
      return { answer: await ask(api.POST("/api/v1/boards", { body: item.content as BoardBody })), base: 0 };
    case "visit_piece": {
      const piece = item.content as VisitPiece;
      const view = await saveVisitPiece(piece, item.base);
      return { answer: view, base: versionOf(view, piece.piece) };
    }
    case "dead_step": {
      const piece = item.content as StepPiece;
      const view = await saveDeadStep(piece, item.base);
      return { answer: view, base: stepVersion(view, piece.step) };
    }
    default:
      throw new Error(`nobody sends ${item.kind}`);
  }
}
