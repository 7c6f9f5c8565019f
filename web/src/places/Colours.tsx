import { Popover } from "radix-ui";
import type { Colour } from "@/api/client";
import { Choice } from "@/parts/Choice";
import { LengthField } from "@/parts/LengthField";
import { Notices } from "@/parts/Notices";
import { TextField } from "@/parts/TextField";
import { useEdit, useOpenDesign } from "@/state/design";
import { useView } from "@/state/view";

const LOCAL = ["not-flat", "film-empty"];

/** The colours that the picture is parted into, and what becomes of each. */
export function Colours() {
  const { recipe, built } = useOpenDesign();
  const edit = useEdit();
  const { picking, pick } = useView();
  const separation = recipe.separation;
  const asked = separation.count ?? null;
  const count = built.colours.length;
  const background = built.colours.find((colour) => colour.role === "background");
  const offersBackground = background !== undefined || separation.background !== "drop";
  return (
    <div className="flex flex-col gap-5">
      <Notices notices={built.notices.filter((notice) => LOCAL.includes(notice.code))} />
      <div className="flex items-center gap-2">
        <button
          type="button"
          className="act"
          aria-label="One colour fewer"
          disabled={count <= 1}
          onClick={() => edit({ kind: "count-colours", count: count - 1 })}
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
          disabled={count >= 24}
          onClick={() => edit({ kind: "count-colours", count: count + 1 })}
        >
          +
        </button>
        {asked === null ? (
          <span className="text-soft">as proposed</span>
        ) : (
          <button type="button" className="quiet" onClick={() => edit({ kind: "count-colours", count: null })}>
            take the proposed number
          </button>
        )}
      </div>
      <ul aria-label="Colours of the picture" className="border-t border-line">
        {built.colours.map((colour) => (
          <ColourRow key={colour.colour} colour={colour} />
        ))}
      </ul>
      <button type="button" className="act self-start" aria-pressed={picking} onClick={() => pick(!picking)}>
        {picking ? "Leave picking" : "Pick a colour from the picture"}
      </button>
      {offersBackground && (
        <Choice
          label="Background"
          stacked
          value={separation.background ?? "drop"}
          options={[
            { value: "drop", text: "Drop it everywhere" },
            { value: "outside", text: "Drop it outside only", hint: "Enclosed areas of its colour become a film." },
            { value: "keep", text: "Keep it as a film" },
          ]}
          onChange={(treatment) => edit({ kind: "treat-background", background: treatment })}
        />
      )}
      <section>
        <h2 className="heading mb-1">How closely to follow the picture</h2>
        <div className="flex justify-between">
          <LengthField
            label="Detail"
            mm={separation.detail_mm as number}
            onCommit={(detail_mm) => edit({ kind: "set-detail", detail_mm })}
          />
          <LengthField
            label="Smoothing"
            mm={separation.smoothing_mm as number}
            onCommit={(smoothing_mm) => edit({ kind: "set-detail", smoothing_mm })}
          />
          <LengthField
            label="Specks below"
            mm={separation.speck_mm as number}
            onCommit={(speck_mm) => edit({ kind: "set-detail", speck_mm })}
          />
        </div>
      </section>
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
  const layer = built.layers.find((candidate) => candidate.colour === colour.colour);
  const into = built.layers.find((candidate) => candidate.colour === colour.into);
  const others = built.layers.filter((candidate) => candidate.colour !== colour.colour);
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
            onCommit={(text) => edit({ kind: "rename-film", colour: colour.colour, name: text || null })}
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
      <Popover.Root>
        <Popover.Trigger className="act text-sm" aria-label={`Change ${name}`}>
          Change
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            side="right"
            align="start"
            sideOffset={10}
            collisionPadding={12}
            className="z-40 max-h-[80vh] w-64 overflow-y-auto rounded-lg border border-line bg-paper p-3 shadow-lg"
          >
            <p className="mb-2 font-semibold">{name}</p>
            <div className="flex flex-col items-start gap-1.5">
              {layer && (
                <Popover.Close className="act" onClick={() => edit({ kind: "drop-colour", colour: colour.colour })}>
                  Drop this colour
                </Popover.Close>
              )}
              {colour.role === "dropped" && (
                <Popover.Close className="act" onClick={() => edit({ kind: "keep-colour", colour: colour.colour })}>
                  Bring it back
                </Popover.Close>
              )}
              {colour.role === "background" && (
                <Popover.Close className="act" onClick={() => edit({ kind: "treat-background", background: "keep" })}>
                  Keep the background as a film
                </Popover.Close>
              )}
              {colour.role === "merged" && (
                <Popover.Close className="act" onClick={() => edit({ kind: "part-colours", colour: colour.colour })}>
                  A film of its own again
                </Popover.Close>
              )}
              {colour.picked && (
                <Popover.Close className="act" onClick={() => edit({ kind: "unpick-colour", colour: colour.colour })}>
                  Take the pick back
                </Popover.Close>
              )}
            </div>
            {layer && others.length > 0 && (
              <>
                <p className="heading mt-3 mb-1">One film with</p>
                <ul className="flex flex-col">
                  {others.map((other) => (
                    <li key={other.colour}>
                      <Popover.Close
                        className="flex w-full items-center gap-2 rounded px-1 py-1 text-left hover:bg-bench"
                        onClick={() => edit({ kind: "merge-colours", colour: colour.colour, into: other.colour })}
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
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </li>
  );
}
