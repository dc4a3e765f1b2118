import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter } from "react-router";
import { App } from "./App";
import { Refusal } from "./api/client";
import "./app.css";

const queries = new QueryClient({
  defaultOptions: {
    // The program may be on this very machine, network or no network: always ask.
    mutations: { networkMode: "always" },
    queries: {
      networkMode: "always",
      staleTime: 5_000,
      // A refusal stays one however often it is asked; a lost answer may come.
      retry: (count, error) => !(error instanceof Refusal && error.status < 500) && count < 2,
    },
  },
});

/** How long after the page stands the program is kept for when there is no network, milliseconds. */
const SETTLED_MS = 3000;

if (import.meta.env.PROD && "serviceWorker" in navigator)
  window.addEventListener("load", () =>
    setTimeout(() => navigator.serviceWorker.register("/sw.js").catch(() => {}), SETTLED_MS),
  ); // without it there is no page without a network, and nothing else

const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <BrowserRouter>
          <App />
        </BrowserRouter>
      </QueryClientProvider>
    </StrictMode>,
  );
}
