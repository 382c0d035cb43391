/** Brings the part of a page that the address names into sight, once the page is there to have it. */
import { useEffect } from "react";

export function useHash(): void {
  useEffect(() => {
    const part = window.location.hash.slice(1);
    if (part) document.getElementById(part)?.scrollIntoView();
  }, []);
}
