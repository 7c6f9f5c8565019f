import { useQuery } from "@tanstack/react-query";
import { api, type Edit, expectData, type LineArt, type PictureArt } from "@/api/client";
import { Panel } from "@/parts/Panel";
import { useEdit, useOpenDesign, useStoredDesign } from "@/state/design";

interface Way {
  readonly text: string;
  readonly edit: Edit;
  readonly now: boolean;
}

/** What a picture is taken for, and the other ways, each drawn small as it would really come out. */
export function TakenAs({ art }: { art: PictureArt | LineArt }) {
  const { built } = useOpenDesign();
  const ways = waysOf(art, built.flat);
  const now = ways.find((way) => way.now) ?? ways[0];
  return (
    <Panel
      label="What this picture is taken for"
      side="bottom"
      width="w-80"
      triggerClass="act self-start text-sm"
      trigger={`Taken for: ${now?.text ?? "flat colours"}`}
    >
      <Ways art={art.id} ways={ways} />
    </Panel>
  );
}

function waysOf(art: PictureArt | LineArt, flat: boolean): readonly Way[] {
  const lines: Way = {
    text: "lines on paper",
    edit: { kind: "treat-picture", art: art.id, treatment: "lines" },
    now: art.kind === "line-art",
  };
  if (art.kind === "line-art") {
    return [
      lines,
      { text: "flat colours", edit: { kind: "treat-picture", art: art.id, treatment: "colours" }, now: false },
    ];
  }
  const count = art.separation.count ?? null;
  const tones = (many: number): Way => ({
    text: `${many} tones`,
    edit: { kind: "count-colours", art: art.id, count: many },
    now: count === many,
  });
  const posters = flat ? [] : [tones(3), tones(4), tones(6)];
  const plain: Way = {
    text: flat ? "flat colours" : "a photograph",
    edit: { kind: "count-colours", art: art.id, count: posters.some((one) => one.now) ? null : count },
    now: !posters.some((one) => one.now),
  };
  return [plain, ...posters, lines];
}

function Ways({ art, ways }: { art: string; ways: readonly Way[] }) {
  const edit = useEdit();
  const drawn = useDrawn(art, ways);
  return (
    <ul className="grid grid-cols-2 gap-2">
      {ways.map((way, k) => (
        <li key={way.text}>
          <button
            type="button"
            aria-pressed={way.now}
            className="flex w-full flex-col items-center gap-1 rounded border border-line bg-table p-1.5 hover:border-ink aria-pressed:border-2 aria-pressed:border-chosen aria-pressed:bg-tint"
            onClick={() => !way.now && edit(way.edit)}
          >
            {drawn?.[k] ? (
              <img
                src={`data:image/svg+xml,${encodeURIComponent(drawn[k] ?? "")}`}
                alt=""
                className="h-24 w-full object-contain"
              />
            ) : (
              <span aria-hidden className="h-24 w-full rounded bg-bench" />
            )}
            <span className="text-sm">{way.text}</span>
          </button>
        </li>
      ))}
    </ul>
  );
}

/** What each way would come to, drawn by the server; null until it is. */
function useDrawn(art: string, ways: readonly Way[]): readonly string[] | null {
  const { id } = useOpenDesign();
  const stored = useStoredDesign(id);
  const page = stored?.built?.arts.find((one) => one.id === art)?.page ?? null;
  const found = useQuery({
    queryKey: ["taken-as", id, stored?.revision, art],
    enabled: stored !== undefined && page !== null,
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: ({ signal }) => {
      if (!stored || !page) throw new Error("nothing is built yet");
      return expectData(
        api.POST("/api/designs/{design}/outcomes", {
          params: { path: { design: id } },
          body: {
            base: stored.revision,
            edits: ways.map((way) => way.edit),
            box: [page.left, page.top, page.right, page.bottom],
          },
          signal,
        }),
      );
    },
  });
  return found.data ?? null;
}
