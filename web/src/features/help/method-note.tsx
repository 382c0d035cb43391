/** A method note: formulas, units, sources and limits, as it ships with the application. */
import { useQuery } from "@tanstack/react-query";
import { useParams } from "@tanstack/react-router";
import { Breadcrumbs } from "@/ui/breadcrumbs";
import { Loaded } from "@/ui/loaded";
import { Page, Title } from "@/ui/page";
import { useHash } from "@/ui/use-hash";
import { NoteText } from "./note-section";
import { loadNote, type Note } from "./notes";

export function MethodNote() {
  const { name } = useParams({ from: "/in/methods/$name" });
  const note = useQuery({ queryKey: ["note", name], queryFn: () => loadNote(name), staleTime: Infinity, retry: false });
  return (
    <Loaded query={note} what="Opening the note …">
      {(found) => <NoteSheet note={found} />}
    </Loaded>
  );
}

function NoteSheet({ note }: { note: Note }) {
  useHash();
  return (
    <Page>
      <Breadcrumbs path={[{ name: "Glossary", to: "/glossary" }]} />
      <Title>{note.title}</Title>
      <div className="mt-4 max-w-prose">
        {note.sections.map((section) => (
          <section key={section.id} id={section.id || undefined} className="scroll-mt-16">
            {section.heading && <h2 className="mt-6 border-b border-line pb-1 text-xl">{section.heading}</h2>}
            <NoteText html={section.html} />
          </section>
        ))}
      </div>
    </Page>
  );
}
