/** Photos that a case shows for its record: what was found, what was destroyed. Where they were taken is never kept. */
import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { addCasePhoto } from "@/client/commands/cases";
import type { Schemas } from "@/client/types";
import { useMay } from "@/features/session/use-session";
import { TextField } from "@/ui/fields";
import { SectionHeading } from "@/ui/page";
import { PhotoButton } from "@/ui/photo-button";

export function CasePhotos({ view }: { view: Schemas["CaseView"] }) {
  const mayAdd = useMay("record") && view.line.state !== "closed";
  if (view.photos.length === 0 && !mayAdd) return null;
  return (
    <section aria-labelledby="photos" className="mt-8">
      <SectionHeading id="photos">Photos</SectionHeading>
      {view.photos.length > 0 && (
        <ul className="mt-2 flex flex-wrap gap-3">
          {view.photos.map((one) => (
            <li key={one.id} className="max-w-48">
              <a href={`/api/v1/case-photos/${one.id}`} target="_blank" rel="noreferrer">
                <img
                  src={`/api/v1/case-photos/${one.id}?small=true`}
                  alt={one.caption || `Photo by ${one.by_name}`}
                  className="h-28 border border-line-2 object-cover"
                  style={{ aspectRatio: one.width / one.height }}
                />
              </a>
              <span className="block text-sm text-ink-2">
                {one.caption && `${one.caption}; `}
                {one.by_name}
              </span>
            </li>
          ))}
        </ul>
      )}
      {mayAdd && <AddPhoto id={view.line.case.id} />}
    </section>
  );
}

function AddPhoto({ id }: { id: string }) {
  const client = useQueryClient();
  const [caption, setCaption] = useState("");
  return (
    <div className="mt-3 max-w-96 space-y-2">
      <TextField label="What the photo shows" name="caption" value={caption} onChange={setCaption} />
      <PhotoButton
        label="Add a photo"
        send={(photo, file) => addCasePhoto(id, photo, caption, file)}
        onSent={() => {
          setCaption("");
          return client.invalidateQueries({ queryKey: ["cases", id] });
        }}
      />
    </div>
  );
}
