import { Popover } from "radix-ui";
import type { Colour, PictureArt } from "@/api/client";
import { Choice } from "@/parts/Choice";
import { Findings } from "@/parts/Findings";
import { LengthField } from "@/parts/LengthField";
import { Panel } from "@/parts/Panel";
import { TextField } from "@/parts/TextField";
import { OnlyHad } from "@/places/colours/OnlyHad";
import { Picking } from "@/places/colours/Picking";
import { PutRight } from "@/places/colours/PutRight";
import { useEdit, useOpenDesign } from "@/state/design";

/** The colours of a picture: how many, which of them are films, and what becomes of its background. */
export function PictureColours({ art }: { art: PictureArt }) {
  const { built } = useOpenDesign();
  const edit = useEdit();
  const { separation, id } = art;
  const colours = built.colours.filter((colour) => colour.art === id);
  const only = separation.rest !== "found" && separation.picked.length > 0;
  const shown = only ? colours.filter((colour) => colour.picked || colour.role === "background") : colours;
  const count = colours.length;
  const background = colours.find((colour) => colour.role === "background");
  const asked = separation.background ?? "auto";
  const settled = built.arts.find((one) => one.id === id)?.background ?? null;
  const offersBackground = background !== undefined || settled !== null || asked !== "auto";
  const dropped = settled === "drop" ? "drop" : "outside";
  return (
    <div className="flex flex-col gap-5">
      <Findings
        findings={built.findings.filter((finding) => finding.beside === "palette" && finding.about === art.id)}
      />
      <PutRight art={art} />
      {only ? (
        <p className="measure text-lg font-semibold" aria-live="polite">
          {separation.picked.length === 1 ? "1 picked colour" : `${separation.picked.length} picked colours`}
        </p>
      ) : (
        <Count art={art} count={count} />
      )}
      <Picking art={art} />
      <ul aria-label="Colours of the picture" className="border-t border-line">
        {shown.map((colour) => (
          <ColourRow key={colour.colour} colour={colour} />
        ))}
      </ul>
      <div className="-mt-3 flex flex-wrap items-center gap-2">
        <OnlyHad art={id} />
        <span className="text-sm text-soft">shows first what would change</span>
      </div>
      {shown.length < colours.length && (
        <p className="-mt-3 text-sm text-soft">
          {colours.length - shown.length} other colours{" "}
          {separation.rest === "out" ? "are left out" : "go to the nearest of these"}.
        </p>
      )}
      {offersBackground && (
        <Choice
          label="Background"
          stacked
          value={asked === "auto" ? dropped : asked}
          options={[
            { value: "outside", text: "Drop it outside only", hint: "Enclosed areas of its colour become a film." },
            { value: "drop", text: "Drop it everywhere" },
            { value: "keep", text: "Keep it as a film" },
          ]}
          onChange={(treatment) => edit({ kind: "treat-background", art: id, background: treatment })}
        />
      )}
      <section>
        <h2 className="heading mb-1">How closely to follow the picture</h2>
        <div className="flex justify-between">
          <LengthField
            label="Detail"
            mm={separation.detail_mm as number}
            onCommit={(detail_mm) => edit({ kind: "set-detail", art: id, detail_mm })}
          />
          <LengthField
            label="Smoothing"
            mm={separation.smoothing_mm as number}
            onCommit={(smoothing_mm) => edit({ kind: "set-detail", art: id, smoothing_mm })}
          />
          <LengthField
            label="Specks below"
            mm={separation.speck_mm as number}
            onCommit={(speck_mm) => edit({ kind: "set-detail", art: id, speck_mm })}
          />
        </div>
      </section>
    </div>
  );
}

/** How many colours the picture is parted into; the one that is needed least goes first, and is named. */
function Count({ art, count }: { art: PictureArt; count: number }) {
  const { built, recipe } = useOpenDesign();
  const edit = useEdit();
  const { separation, id } = art;
  const asked = separation.count ?? null;
  const least = built.arts.find((candidate) => candidate.id === id)?.least ?? null;
  const named = recipe.films?.find((film) => film.film === least)?.name;
  const goes = built.layers.find((layer) => layer.film === least);
  const into = built.colours.find((colour) => colour.art === id && colour.colour === least)?.into ?? null;
  const host = built.layers.find((layer) => layer.film === into);
  return (
    <div className="flex flex-col gap-1">
      <div className="flex items-center gap-2">
        <button
          type="button"
          className="act"
          aria-label="One colour fewer"
          disabled={count <= 1 || (built.flat && least === null)}
          onClick={() => edit({ kind: "count-colours", art: id, count: count - 1 })}
        >
          −
        </button>
        <p className="measure min-w-24 text-center text-lg font-semibold" aria-live="polite">
          {count === 1 ? "1 colour" : `${count} colours`}
        </p>
        <button
          type="button"
          className="act"
          aria-label="One colour more"
          disabled={count >= 64}
          onClick={() => edit({ kind: "count-colours", art: id, count: count + 1 })}
        >
          +
        </button>
        {asked === null ? (
          <span className="text-soft">as proposed</span>
        ) : (
          <button type="button" className="quiet" onClick={() => edit({ kind: "count-colours", art: id, count: null })}>
            take the proposed number
          </button>
        )}
      </div>
      {count > 1 && built.flat && (
        <p className="flex items-center gap-2 text-sm text-soft">
          {least && named ? (
            // A film that has a name stays, however little it is needed.
            `With one fewer, the least needed colour without a name goes first; ${named} stays.`
          ) : into ? (
            `With one fewer, ${least} goes first: it is one film with ${host?.name ?? into} already.`
          ) : least ? (
            <>
              With one fewer,
              <span className="h-4 w-4 rounded-sm border border-firm" style={{ background: least }} />
              {goes?.name ?? least} goes first.
            </>
          ) : (
            "All of them are picked, named or the background, and stay."
          )}
        </p>
      )}
    </div>
  );
}

const ROLES: Record<Colour["role"], string> = {
  film: "",
  background: "background, dropped",
  dropped: "dropped",
  merged: "",
  empty: "only specks",
};

function ColourRow({ colour }: { colour: Colour }) {
  const { built } = useOpenDesign();
  const edit = useEdit();
  const layer = built.layers.find((candidate) => candidate.film === colour.colour);
  const into = built.layers.find((candidate) => candidate.film === colour.into);
  const others = built.layers.filter(
    (candidate) =>
      candidate.film !== colour.colour &&
      built.colours.some((c) => c.art === colour.art && c.colour === candidate.film),
  );
  const name = layer?.name ?? colour.colour;
  return (
    <li className="flex items-center gap-2 border-b border-line py-1.5">
      <span
        className={`h-8 w-8 shrink-0 rounded-sm border border-firm ${layer ? "" : "opacity-55"}`}
        style={{ background: colour.colour }}
      />
      <div className="min-w-0 flex-1">
        {layer ? (
          <TextField
            label={`Name of ${layer.name}`}
            value={layer.name}
            allowEmpty
            onCommit={(text) => edit({ kind: "rename-film", film: colour.colour, name: text || null })}
            className="w-full truncate font-semibold"
          />
        ) : (
          <span className="px-1 text-soft">
            {colour.into ? `one film with ${into?.name ?? colour.into}` : ROLES[colour.role]}
          </span>
        )}
        <span className="measure block px-1 text-sm leading-tight text-soft">
          {colour.colour} · {(colour.share * 100).toFixed(1)} %{colour.picked ? " · picked" : ""}
        </span>
      </div>
      <Panel trigger="Change" label={`Change ${name}`} triggerClass="act text-sm">
        <p className="mb-2 font-semibold">{name}</p>
        <div className="flex flex-col items-start gap-1.5">
          {layer && (
            <Popover.Close
              className="act"
              onClick={() => edit({ kind: "drop-colour", art: colour.art, colour: colour.colour })}
            >
              Drop this colour
            </Popover.Close>
          )}
          {colour.role === "dropped" && (
            <Popover.Close
              className="act"
              onClick={() => edit({ kind: "keep-colour", art: colour.art, colour: colour.colour })}
            >
              Bring it back
            </Popover.Close>
          )}
          {colour.role === "background" && (
            <Popover.Close
              className="act"
              onClick={() => edit({ kind: "treat-background", art: colour.art, background: "keep" })}
            >
              Keep the background as a film
            </Popover.Close>
          )}
          {colour.role === "merged" && (
            <Popover.Close
              className="act"
              onClick={() => edit({ kind: "part-colours", art: colour.art, colour: colour.colour })}
            >
              A film of its own again
            </Popover.Close>
          )}
          {colour.picked && (
            <Popover.Close
              className="act"
              onClick={() => edit({ kind: "unpick-colour", art: colour.art, colour: colour.colour })}
            >
              Take the pick back
            </Popover.Close>
          )}
        </div>
        {layer && others.length > 0 && (
          <>
            <p className="heading mt-3 mb-1">One film with</p>
            <ul className="flex flex-col">
              {others.map((other) => (
                <li key={other.film}>
                  <Popover.Close
                    className="flex w-full items-center gap-2 rounded px-1 py-1 text-left hover:bg-bench"
                    onClick={() =>
                      edit({ kind: "merge-colours", art: colour.art, colour: colour.colour, into: other.film })
                    }
                  >
                    <span
                      className="h-5 w-5 shrink-0 rounded-sm border border-firm"
                      style={{ background: other.colour }}
                    />
                    <span className="truncate">{other.name}</span>
                  </Popover.Close>
                </li>
              ))}
            </ul>
          </>
        )}
      </Panel>
    </li>
  );
}
