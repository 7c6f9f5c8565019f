import type { Built, PictureArt } from "@/api/client";
import { Choice } from "@/parts/Choice";
import { Findings } from "@/parts/Findings";
import { useEdit, useOpenDesign } from "@/state/design";

type Kind = Built["arts"][number]["done"][number]["kind"];

const AGAIN: Record<Kind, { left: string; again: string }> = {
  dither: { left: "Dither is left as it came.", again: "Undo the dither" },
  halftone: { left: "The printed dots are left as they came.", again: "Make the dots plain tones" },
  light: { left: "The light is left as it came.", again: "Even the light" },
  shadow: { left: "The soft shadow is left as it came.", again: "Take the shadow off" },
  glow: { left: "The glow is left as it came.", again: "Take the glow off" },
  grade: { left: "The graded background is left as it came.", again: "Drop the background" },
  fills: { left: "Graded fills are left as they came.", again: "Make each one colour" },
  rims: { left: "Thin rims are left as they came.", again: "Give them to their neighbours" },
};

/** What was put right in a picture before its colours were found, one line each, with what takes it back. */
export function PutRight({ art }: { art: PictureArt }) {
  const { built, recipe } = useOpenDesign();
  const edit = useEdit();
  const made = (recipe.makings ?? []).some((making) => (making.of ?? []).includes(art.id));
  const told = built.findings
    .filter((finding) => finding.beside === "put-right" && finding.about === art.id)
    // A shadow of film is offered until the picture has one.
    .map((finding) => ({ ...finding, fixes: finding.fixes.filter((fix) => !made || fix.edit.kind !== "add-making") }));
  const done = built.arts.find((other) => other.id === art.id)?.done ?? [];
  const asItCame = art.separation.as_is ?? [];
  if (told.length === 0 && asItCame.length === 0) return null;
  return (
    <section aria-label="Put right in this picture">
      <h2 className="heading mb-1">Put right in this picture</h2>
      <Findings findings={told} />
      {done.some((one) => one.kind === "fills") && (
        <Choice
          label="Graded fills"
          value={String(art.separation.bands ?? 1)}
          options={[1, 2, 3, 5].map((bands) => ({
            value: String(bands),
            text: bands === 1 ? "One colour" : `${bands} bands`,
          }))}
          onChange={(bands) => edit({ kind: "set-bands", art: art.id, bands: Number(bands) })}
        />
      )}
      {asItCame.map((what) => (
        <p key={what} className="flex flex-wrap items-center gap-2">
          {AGAIN[what].left}
          <button
            type="button"
            className="act text-sm"
            onClick={() => edit({ kind: "put-right", art: art.id, what, done: true })}
          >
            {AGAIN[what].again}
          </button>
        </p>
      ))}
    </section>
  );
}
