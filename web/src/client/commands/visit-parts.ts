/** Writing a visit piece by piece: what was asked before and after, and each frame. */
import { api, ask } from "@/client/api";
import type { Schemas } from "@/client/types";

type View = Schemas["VisitView"];
export type VisitPiece = { visit: string; piece: string; content: unknown; reason: string };

export const frameKey = (box: string, slot: number) => `frame:${box}:${slot}`;

/** The version that a visit has of a piece. */
export function versionOf(view: View, piece: string): number {
  if (piece === "before") return view.visit.before_version;
  if (piece === "after") return view.visit.after_version;
  const [, box, slot] = piece.split(":");
  return view.records.find((one) => one.box_id === box && one.slot === Number(slot))?.version ?? 0;
}

/** What a visit has of a piece; nothing where a frame was not recorded. */
export function contentOf(view: View, piece: string): unknown {
  if (piece === "before") return view.visit.before;
  if (piece === "after") return view.visit.after;
  const [, box, slot] = piece.split(":");
  return view.records.find((one) => one.box_id === box && one.slot === Number(slot))?.record ?? null;
}

export function saveVisitPiece({ visit, piece, content, reason }: VisitPiece, version: number): Promise<View> {
  const path = { params: { path: { visit_id: visit } } };
  if (piece === "before") {
    const body = { content: content as Schemas["Before"], version, reason };
    return ask(api.PUT("/api/v1/visits/{visit_id}/before", { ...path, body }));
  }
  if (piece === "after") {
    const body = { content: content as Schemas["After"], version, reason };
    return ask(api.PUT("/api/v1/visits/{visit_id}/after", { ...path, body }));
  }
  const [, box = "", slot] = piece.split(":");
  const frame = { box_id: box, slot: Number(slot), version, record: content as Schemas["FrameRecord"] };
  return ask(api.PUT("/api/v1/visits/{visit_id}/frames", { ...path, body: { frames: [frame], reason } }));
}
