import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { type CSSProperties, StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { Toaster } from "sonner";
import { Safe } from "@/parts/Safe";
import { Spoken } from "@/parts/Spoken";
import { App } from "./app";
import "./styles.css";

// The server is on this machine: whether that is "online" says nothing.
const client = new QueryClient({
  defaultOptions: {
    queries: { staleTime: 5_000, refetchOnWindowFocus: "always", networkMode: "always" },
    mutations: { networkMode: "always" },
  },
});
/** Messages look like the rest of the app. */
const TOAST = {
  "--normal-bg": "var(--color-table)",
  "--normal-bg-hover": "var(--color-paper)",
  "--normal-border": "var(--color-firm)",
  "--normal-border-hover": "var(--color-firm)",
  "--normal-text": "var(--color-ink)",
  "--border-radius": "6px",
} as CSSProperties;
const root = document.getElementById("root");
if (!root) throw new Error("the page has no root");

createRoot(root).render(
  <StrictMode>
    <QueryClientProvider client={client}>
      <Safe>
        <App />
      </Safe>
      <Spoken />
      <Toaster position="bottom-center" style={TOAST} closeButton duration={8000} />
    </QueryClientProvider>
  </StrictMode>,
);
