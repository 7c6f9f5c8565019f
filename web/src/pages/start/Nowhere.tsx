import { goTo } from "@/state/route";

/** An address that leads to nothing, and the ways on from it. */
export function Nowhere() {
  return (
    <main className="grid h-full place-content-center gap-4 p-6 text-center">
      <h1 className="text-2xl font-semibold">There is nothing at this address</h1>
      <p className="text-soft">It may have been typed wrongly, or belong to an older version.</p>
      <p className="flex flex-wrap justify-center gap-2">
        <button type="button" className="act-main" onClick={() => goTo("/")}>
          All designs
        </button>
        <button type="button" className="act" onClick={() => goTo("/help")}>
          Help
        </button>
      </p>
    </main>
  );
}
