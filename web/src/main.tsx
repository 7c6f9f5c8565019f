import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { Toaster } from "sonner";
import { Safe } from "@/parts/Safe";
import { App } from "./app";
import "./styles.css";

// The server is on this machine: whether that is "online" says nothing.
const client = new QueryClient({
  defaultOptions: {
    queries: { staleTime: 5_000, refetchOnWindowFocus: "always", networkMode: "always" },
    mutations: { networkMode: "always" },
  },
});
const root = document.getElementById("root");
if (!root) throw new Error("the page has no root");

createRoot(root).render(
  <StrictMode>
    <QueryClientProvider client={client}>
      <Safe>
        <App />
      </Safe>
      <Toaster position="top-center" offset={{ top: 56 }} richColors closeButton duration={8000} />
    </QueryClientProvider>
  </StrictMode>,
);
