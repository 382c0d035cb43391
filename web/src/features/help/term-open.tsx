/** What a term of the trade means, and how it is worked out, opened where it stands. */
import { clsx } from "clsx";
import { Popover } from "radix-ui";
import { useState, type ReactNode } from "react";
import { TextLink } from "@/ui/link";
import { TERMS, type TermId } from "@/wording/terms";
import { NoteSection } from "./note-section";
import { TERM } from "./term-class";

/** Open as it comes: it was asked for. */
export default function TermOpen({ id, children }: { id: TermId; children: ReactNode }) {
  const { name, meaning, note, section } = TERMS[id];
  const [isOpen, open] = useState(true);
  const [isDeep, setDeep] = useState(false);
  const close = (next: boolean) => {
    open(next);
    if (!next) setDeep(false);
  };
  return (
    <Popover.Root open={isOpen} onOpenChange={close}>
      <Popover.Trigger type="button" data-term className={TERM}>
        {children}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label={name}
          collisionPadding={8}
          sideOffset={4}
          className={clsx(
            "z-50 max-h-[min(70vh,32rem)] w-[min(26rem,calc(100vw-1rem))] overflow-auto border-2 border-ink",
            "bg-sheet p-4 text-base font-normal text-ink",
          )}>
          <h2 className="text-xl">{name}</h2>
          <p className="mt-1">{meaning}</p>
          <p className="mt-2 flex flex-wrap gap-x-5">
            {!isDeep && (
              <button type="button" className="min-h-8 underline underline-offset-4" onClick={() => setDeep(true)}>
                How it is worked out
              </button>
            )}
            <TextLink to="/glossary" onClick={() => close(false)}>
              Glossary
            </TextLink>
          </p>
          {isDeep && (
            <div className="mt-2 border-t border-line pt-2 text-sm">
              <NoteSection name={note} section={section} />
              <TextLink to="/methods/$name" params={{ name: note }} hash={section} onClick={() => close(false)}>
                The whole note
              </TextLink>
            </div>
          )}
          <Popover.Close className="mt-3 min-h-11 border border-ink px-4 font-semibold desk:min-h-9">
            Close
          </Popover.Close>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
