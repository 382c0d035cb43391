/** A section of a method note, or all of one. */
import { useQuery } from "@tanstack/react-query";
import { loadNote } from "./notes";

type Props = { name: string; section: string };

export function NoteSection({ name, section }: Props) {
  const note = useQuery({ queryKey: ["note", name], queryFn: () => loadNote(name), staleTime: Infinity, retry: false });
  if (note.isPending) return <p className="text-ink-2">Opening the note …</p>;
  if (note.isError) return <p className="font-semibold text-act">{note.error.message}</p>;
  const found = note.data.sections.find((one) => one.id === section) ?? note.data.sections[0];
  return found ? <NoteText html={found.html} /> : null;
}

/** Text of our own documents, made into HTML when the application is built. */
export function NoteText({ html }: { html: string }) {
  return <div className="note-text" dangerouslySetInnerHTML={{ __html: html }} />;
}
