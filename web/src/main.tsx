/** Where the front end starts. */
import "@fontsource-variable/atkinson-hyperlegible-next/wght.css";
import "@fontsource/zilla-slab/latin-600.css";
import { QueryCache, QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { RouterProvider } from "@tanstack/react-router";
import { setNonce } from "get-nonce";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { Problem } from "@/client/types";
import { keepShell } from "@/sync/shell";
import { makeRouter } from "./router";
import "./styles.css";

// Dialogs lock the page's scroll with a style of their own; the server allows it by this nonce.
setNonce(document.querySelector('meta[name="style-nonce"]')?.getAttribute("content") ?? "");

const client: QueryClient = new QueryClient({
  queryCache: new QueryCache({
    onError: (error, query) => {
      // Asked before anybody knew who is here: the session's answer says where to go.
      if (query.meta?.["early"]) return;
      // Signed out elsewhere, or the session has ended: back to the door, and to this page afterwards.
      if (error instanceof Problem && error.status === 401 && location.pathname !== "/sign-in") {
        location.assign(`/sign-in?then=${encodeURIComponent(JSON.stringify(location.pathname + location.search))}`);
      }
    },
  }),
  defaultOptions: {
    queries: {
      staleTime: 15_000,
      networkMode: "always",
      retry: (times, error) => times < 2 && error instanceof Problem && (error.status === 0 || error.status >= 500),
    },
    mutations: { networkMode: "always" },
  },
});

// What the page had read before the device kept answers is read once more.
keepShell(() => void client.refetchQueries({ type: "active" }));

const root = document.getElementById("root");
if (root !== null) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={client}>
        <RouterProvider router={makeRouter(client)} />
      </QueryClientProvider>
    </StrictMode>,
  );
}
