/**
 * A screen that is loaded when it is first opened. One that does not come is said, with a way to try again: the page,
 * and what is on it, stays.
 */
import { useEffect, useState, type ReactNode } from "react";
import { ErrorPage, Loading } from "./page";

type Component = () => ReactNode;

export function screen<M extends Record<string, unknown>>(load: () => Promise<M>, name: keyof M & string): Component {
  let loaded: Component | null = null;
  const fetchIt = async () => {
    loaded = (await load())[name] as Component;
    return loaded;
  };
  return function Screen() {
    const [Content, setContent] = useState<Component | null>(() => loaded);
    const [error, setError] = useState<unknown>(null);
    const [attempt, setAttempt] = useState(0);
    useEffect(() => {
      if (loaded !== null) return;
      let shown = true;
      fetchIt().then(
        (found) => shown && setContent(() => found),
        (failure: unknown) => shown && setError(failure),
      );
      return () => {
        shown = false;
      };
    }, [attempt]);
    if (Content !== null) return <Content />;
    if (error === null) return <Loading what="One moment …" />;
    const retry = () => {
      setError(null);
      setAttempt(attempt + 1);
    };
    return <ErrorPage error={error} retry={retry} />;
  };
}
