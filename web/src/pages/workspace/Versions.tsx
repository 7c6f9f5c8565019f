import { ChevronDown } from "lucide-react";
import { Popover } from "radix-ui";
import { useState } from "react";
import type { Edit, Use } from "@/api/client";
import { Input } from "@/entry/Entry";
import { readLength, showLength } from "@/geometry/lengths";
import { LengthField } from "@/parts/LengthField";
import { SelectField } from "@/parts/SelectField";
import { TextField } from "@/parts/TextField";
import { nameOfUse, USES_IN_ORDER } from "@/parts/UseChoice";
import { AtThatSize } from "@/parts/WhatGetsWorse";
import { unread, useEdit, useOpenDesign, useUnit } from "@/state/design";
import { GROUNDS, type Ground, groundOf } from "@/state/grounds";
import { useWorse } from "@/state/proof";
import { goTo } from "@/state/route";
import { versionOf } from "@/state/versions";
import { useView } from "@/state/view";

/** The versions of the motif: which one is shown, what it decides for itself, and a new one. */
export function Versions() {
  const { recipe, version } = useOpenDesign();
  const [open, setOpen] = useState(false);
  const [making, setMaking] = useState(false);
  const shown = recipe.versions.find((one) => one.id === version);
  return (
    <Popover.Root
      open={open}
      onOpenChange={(next) => {
        setOpen(next);
        setMaking(false);
      }}
    >
      <Popover.Trigger
        className="act flex shrink-0 items-center gap-1"
        title="The motif at other sizes and for other uses"
      >
        <span className="max-w-36 truncate">
          {shown ? shown.name : recipe.versions.length > 0 ? "Motif" : "Versions"}
        </span>
        <ChevronDown aria-hidden size={15} />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="Versions"
          align="start"
          sideOffset={8}
          collisionPadding={12}
          className="z-40 max-h-[80vh] w-88 max-w-[94vw] overflow-y-auto rounded-lg border border-line bg-paper p-3 shadow-lg"
        >
          {making ? (
            <NewVersion
              onDone={() => {
                setMaking(false);
                setOpen(false);
              }}
              onCancel={() => setMaking(false)}
            />
          ) : (
            <>
              <Sizes />
              {shown && <Decides name={shown.name} id={shown.id} />}
              <button type="button" className="act mt-3" onClick={() => setMaking(true)}>
                New version…
              </button>
            </>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** The motif and its versions, each with the width it has. */
function Sizes() {
  const { id, recipe, version } = useOpenDesign();
  const unit = useUnit();
  const place = useView((view) => view.place);
  const { motif: wide, more } = useMotifWidth();
  const lines = [{ id: null, name: "Motif", factor: 1 }, ...recipe.versions];
  return (
    <>
      <h2 className="heading">Versions of this motif</h2>
      <ul aria-label="Versions of this motif">
        {lines.map((one) => (
          <li key={one.id ?? ""}>
            <Popover.Close
              aria-current={one.id === version ? "true" : undefined}
              className="flex w-full items-baseline gap-2 rounded px-1.5 py-1 text-left hover:bg-bench aria-[current]:bg-tint aria-[current]:font-semibold"
              onClick={() => goTo(`/design/${versionOf(id, one.id)}/${place.toLowerCase()}`)}
            >
              <span className="min-w-0 grow truncate">{one.name}</span>
              <span className="measure shrink-0 text-sm text-soft">
                {showLength(wide * one.factor + (one.id === version ? more : 0), unit)} wide
              </span>
            </Popover.Close>
          </li>
        ))}
      </ul>
      {recipe.versions.length === 0 && (
        <p className="mt-1 text-sm text-soft">
          Make the same motif in another size or for something else. What you change of its art then goes through all.
        </p>
      )}
    </>
  );
}

/** What the version that is shown decides for itself, and the way to follow the motif again. */
function Decides({ id, name }: { id: string; name: string }) {
  const { decides } = useOpenDesign();
  const edit = useEdit();
  return (
    <section aria-label="Its own" className="mt-3 border-t border-line pt-2">
      <div className="flex items-center gap-2">
        <TextField
          label="Name of the version"
          value={name}
          onCommit={(text) => edit({ kind: "rename-version", version: id, name: text })}
          className="min-w-0 grow font-semibold"
        />
        <button type="button" className="quiet text-sm" onClick={() => edit({ kind: "remove-version", version: id })}>
          Remove
        </button>
      </div>
      <p className="mt-1 text-sm text-soft">
        Its size, use, ground and joints are its own, and how its films are cut: heavier or lighter, small pieces,
        mended places, material, left out. All else you change goes through all versions.
      </p>
      {decides.length > 0 && (
        <ul aria-label="What it decides for itself" className="mt-2">
          {decides.map((one) => (
            <li
              key={`${one.what} ${one.film}`}
              className="grid grid-cols-[1fr_auto] items-baseline gap-x-2 border-t border-line py-1 first:border-0"
            >
              <span className="min-w-0">
                {one.of ? `${one.of}: ${one.says}` : one.says.charAt(0).toUpperCase() + one.says.slice(1)}{" "}
                <span className="measure font-semibold">{one.own}</span>
                <span className="block text-sm text-soft">motif: {one.motif}</span>
              </span>
              <button
                type="button"
                className="quiet text-sm"
                aria-label={`As the motif: ${one.of ? `${one.of}, ` : ""}${one.says}`}
                onClick={() => edit({ kind: "follow-motif", version: id, what: one.what, film: one.film })}
              >
                As the motif
              </button>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

/** A version to be made: its name, how wide it is, what it is for and on what ground. */
function NewVersion({ onDone, onCancel }: { onDone(): void; onCancel(): void }) {
  const { id, recipe, version } = useOpenDesign();
  const edit = useEdit();
  const unit = useUnit();
  const place = useView((view) => view.place);
  const { motif, now, more } = useMotifWidth();
  const [name, setName] = useState(() => freeName(recipe.versions.map((one) => one.name)));
  const [mm, setMm] = useState(now + more);
  const [use, setUse] = useState<Use>(recipe.use);
  const [ground, setGround] = useState<Ground["kind"]>(recipe.ground.kind);
  const scale = mm > more ? (mm - more) / now : mm / (now + more);
  const moved = Math.abs(scale - 1) > 1e-6;
  const worse = useWorse(moved ? { kind: "scale-design", factor: scale, lengths: "keep" } : null);
  const make = async () => {
    const chosen = ground === recipe.ground.kind ? recipe.ground : groundOf(ground);
    const factor = (scale * now) / motif;
    const made: Edit = { kind: "add-version", name: name.trim(), factor, use, ground: chosen, like: version };
    const answer = await edit(made);
    const added = answer?.recipe.versions.at(-1);
    if (!answer || !added) return;
    onDone();
    goTo(`/design/${versionOf(id, added.id)}/${place.toLowerCase()}`);
  };
  return (
    <section aria-label="New version" className="flex flex-col gap-2.5">
      <h2 className="font-semibold">New version of this motif</h2>
      <label className="flex flex-col">
        <span className="heading">Its name</span>
        <Input value={name} maxLength={80} onChange={(event) => setName(event.target.value)} />
      </label>
      <LengthField
        label="How wide"
        mm={mm}
        onCommit={async (text) => {
          const typed = readLength(text, unit);
          if (typed === null || typed <= 0) return unread(text);
          setMm(typed);
          return true;
        }}
      />
      <SelectField
        label="Used"
        value={use}
        options={USES_IN_ORDER.map((one) => ({ value: one, text: nameOfUse(one) }))}
        onChange={(next) => setUse(next)}
      />
      <SelectField
        label="Ground"
        value={ground}
        options={GROUNDS.map(({ kind, text }) => ({ value: kind, text }))}
        onChange={(next) => setGround(next)}
      />
      <p className="flex gap-2">
        <button type="button" className="act-main" disabled={name.trim() === ""} onClick={() => void make()}>
          Make this version
        </button>
        <button type="button" className="quiet" onClick={onCancel}>
          Cancel
        </button>
      </p>
      {/* It comes after a while: it must not move the buttons away from the pointer. */}
      {moved && (
        <div role="status" className="rounded bg-tint p-2">
          <AtThatSize worse={worse} />
        </div>
      )}
    </section>
  );
}

/** How wide the motif's art is, how wide in the version that is shown, and what shadows and thickening add to that (mm). */
function useMotifWidth(): { motif: number; now: number; more: number } {
  const { built, recipe, version } = useOpenDesign();
  const now = built.plain.right - built.plain.left;
  const factor = recipe.versions.find((one) => one.id === version)?.factor ?? 1;
  return { motif: now / factor, now, more: built.width_mm - now };
}

function freeName(taken: readonly string[]): string {
  for (let n = taken.length + 2; ; n++) if (!taken.includes(`Version ${n}`)) return `Version ${n}`;
}
