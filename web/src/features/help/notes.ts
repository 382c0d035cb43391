/** The method notes of `docs/methods/`, each loaded when it is opened. */
import { Problem } from "@/client/types";

export type Note = { title: string; sections: { id: string; heading: string; html: string }[] };

const loaders = import.meta.glob<Note>("../../../../docs/methods/*.md", { query: "?note", import: "default" });
const nameOf = (path: string) => path.replace(/^.*\/|\.md$/g, "");
const byName = new Map(Object.entries(loaders).map(([path, load]) => [nameOf(path), load]));

/** A method note by its name; not found where there is none of that name. */
export async function loadNote(name: string): Promise<Note> {
  const load = byName.get(name);
  if (!load) throw new Problem(404, "Not found", "There is no method note of that name.", [], null, false);
  return load();
}
