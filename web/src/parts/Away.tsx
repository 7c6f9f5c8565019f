import { useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import { api, expectData } from "@/api/client";
import { useServer } from "@/api/server";

const KNOCK_MS = 1500;

/** Says that the server is away, and knocks until it is back; then all that is on the screen is asked for anew. */
export function Away({ className }: { className: string }) {
  const away = useServer((server) => server.away);
  const client = useQueryClient();
  useEffect(() => {
    if (!away) return;
    const knock = window.setInterval(() => void expectData(api.GET("/api/health")).catch(() => undefined), KNOCK_MS);
    return () => {
      window.clearInterval(knock);
      void client.refetchQueries({ type: "active" });
    };
  }, [away, client]);
  return (
    <div className={away ? className : "desk-note"} aria-live="polite">
      {away && (
        <p className="border-b border-line bg-tint px-4 py-1.5">
          The app's own server does not answer. What you see is safe; changes can be made as soon as it is back.
        </p>
      )}
    </div>
  );
}
