/** A dialog over the page; closes with Escape and with back, and gives the focus back. */
import { useBlocker } from "@tanstack/react-router";
import { clsx } from "clsx";
import { Dialog as Radix } from "radix-ui";
import { useRef, type ReactNode } from "react";

export function Dialog({
  open,
  onClose,
  title,
  children,
  wide = false,
}: {
  open: boolean;
  onClose: () => void;
  title: string;
  children: ReactNode;
  wide?: boolean;
}) {
  const opener = useRef<Element | null>(null);
  // The back button, and the back gesture of a phone, close what lies on top before they leave the page.
  useBlocker({
    disabled: !open,
    enableBeforeUnload: false,
    shouldBlockFn: ({ action }) => {
      if (action !== "BACK") return false;
      onClose();
      return true;
    },
  });
  return (
    <Radix.Root open={open} onOpenChange={(next) => !next && onClose()}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-black/55" />
        <Radix.Content
          aria-describedby={undefined}
          onOpenAutoFocus={() => {
            opener.current = document.activeElement;
          }}
          onCloseAutoFocus={(event) => {
            // It is opened by state, not by a trigger that Radix would know to go back to.
            event.preventDefault();
            if (opener.current instanceof HTMLElement) opener.current.focus();
          }}
          className={clsx(
            "fixed inset-x-0 bottom-0 z-50 max-h-[92dvh] overflow-y-auto border-t-4 border-ink bg-sheet p-5",
            "desk:inset-x-auto desk:bottom-auto desk:left-1/2 desk:top-[8dvh] desk:max-h-[84dvh]",
            "desk:-translate-x-1/2 desk:border-4 desk:p-6",
            wide ? "desk:w-[820px]" : "desk:w-[560px]",
          )}>
          <div className="mb-4 flex items-start justify-between gap-4">
            <Radix.Title className="text-2xl">{title}</Radix.Title>
            <Radix.Close
              className={clsx(
                "min-h-14 min-w-14 shrink-0 border border-line-2 px-3 font-semibold desk:min-h-9 desk:min-w-9",
              )}>
              Close
            </Radix.Close>
          </div>
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
