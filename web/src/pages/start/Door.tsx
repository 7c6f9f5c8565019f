import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, ProblemError } from "@/api/client";
import { useServer } from "@/api/server";
import { Input } from "@/entry/Entry";
import { tell } from "@/state/design";

/** Asks once for the token that the app was started with. */
export function Door() {
  const [token, setToken] = useState("");
  const client = useQueryClient();
  const knock = async () => {
    const { error } = await api.POST("/api/door", { body: { token } });
    if (error)
      return tell(new ProblemError("token", "This is not the token.", "It was given when the app was started."));
    useServer.getState().lock(false);
    await client.invalidateQueries();
  };
  return (
    <main className="grid h-full place-content-center">
      <form
        className="w-96 rounded-lg border border-line bg-paper p-6"
        onSubmit={(event) => {
          event.preventDefault();
          void knock();
        }}
      >
        <h1 className="text-xl font-semibold">Glad Stack</h1>
        <label className="mt-3 block">
          <span className="heading block">Token</span>
          <Input
            type="password"
            value={token}
            className="mt-1 w-full border-b-2 bg-transparent focus:border-chosen"
            onChange={(event) => setToken(event.target.value)}
          />
        </label>
        <p className="mt-2 text-sm text-soft">It was given when the app was started, and is asked for only once.</p>
        <button type="submit" className="act mt-4">
          Open
        </button>
      </form>
    </main>
  );
}
