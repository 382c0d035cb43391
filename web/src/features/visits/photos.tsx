/** Photos of a visit or of the frame in hand. Where they were taken is never kept. */
import { addPhoto } from "@/client/commands/visits";
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "@/client/types";
import { PhotoButton } from "@/ui/photo-button";
import type { View } from "./visit-queue";

export function Photos({
  view,
  at,
  writable,
  name,
  signs = [],
}: {
  view: View;
  at: { box: string; slot: number } | null;
  writable: boolean;
  name: string;
  signs?: { id: string; name: string }[];
}) {
  const client = useQueryClient();
  const [chosen, setOf] = useState<string | null>(null);
  const shown = view.photos.filter((one) => (at ? one.box_id === at.box && one.slot === at.slot : true));
  // A sign without a picture is asked for first.
  const lacking = signs.filter((one) => !shown.some((photo) => photo.sign === one.id));
  const of = chosen ?? lacking[0]?.id ?? "";
  return (
    <section aria-label={`Photos of ${name}`} className="space-y-2">
      {shown.length > 0 && (
        <ul className="flex flex-wrap gap-2">
          {shown.map((one: Schemas["Photo"]) => (
            <li key={one.id}>
              <a href={`/api/v1/photos/${one.id}`} target="_blank" rel="noreferrer">
                <img
                  src={`/api/v1/photos/${one.id}?small=true`}
                  alt={
                    one.caption ||
                    `Photo of ${one.sign ? `${one.sign.replaceAll("_", " ")} on ` : ""} ${name}, ${one.by_name}`
                  }
                  className="h-24 border border-line-2 object-cover"
                  style={{ aspectRatio: one.width / one.height }}
                />
              </a>
            </li>
          ))}
        </ul>
      )}
      {writable && lacking.length > 0 && (
        <p className="text-ink-2">No photo yet of: {lacking.map((one) => one.name).join(", ")}.</p>
      )}
      {writable && signs.length > 0 && (
        <select
          className="input"
          aria-label="What the photo shows"
          value={of}
          onChange={(event) => setOf(event.target.value)}>
          <option value="">{name}</option>
          {signs.map((one) => (
            <option key={one.id} value={one.id}>
              {one.name}
            </option>
          ))}
        </select>
      )}
      {writable && (
        <PhotoButton
          label={`Photograph ${name}`}
          send={(id, file) =>
            addPhoto({ visit: view.visit.id, id, ...(at ? { box_id: at.box, slot: at.slot, sign: of } : {}) }, file)
          }
          onSent={() => {
            setOf(null);
            return client.invalidateQueries({ queryKey: ["visit", view.visit.id] });
          }}
        />
      )}
    </section>
  );
}
