/** The name of the screen: in the title of the window, and under the focus once another screen is there. */
import { useEffect, useRef } from "react";

type Heading = { element: HTMLElement; text: string };

function heading(): Heading | null {
  const element = document.querySelector<HTMLElement>("main h1");
  return element?.textContent ? { element, text: element.textContent } : null;
}

/** Follows the heading of the screen at `address`; a screen that gave the focus to something of its own keeps it. */
export function useScreenName(address: string): void {
  const named = useRef<Heading | null>(null);
  useEffect(() => {
    let focusDue = named.current !== null;
    const follow = () => {
      const now = heading();
      const before = named.current;
      if (!now || (before?.element === now.element && before.text === now.text)) return;
      named.current = now;
      document.title = `${now.text}, Red Frame`;
      if (!focusDue) return;
      focusDue = false;
      if (document.activeElement?.closest("main, [role=dialog]")) return;
      now.element.tabIndex = -1;
      now.element.focus({ preventScroll: true });
    };
    follow();
    const observer = new MutationObserver(follow);
    observer.observe(document.body, { childList: true, subtree: true, characterData: true });
    return () => observer.disconnect();
  }, [address]);
}
