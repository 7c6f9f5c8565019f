import type { Use } from "@/api/client";
import { Input } from "@/entry/Entry";
import { Designs } from "@/pages/start/Designs";
import { Jobs } from "@/pages/start/Jobs";
import { DRAWINGS, FilePicker } from "@/parts/FilePicker";
import { Mark } from "@/parts/Mark";
import { Standing } from "@/parts/Standing";
import { UseChoice } from "@/parts/UseChoice";
import { Working } from "@/parts/Working";
import { type Ground, groundOf, PURPOSES, type Purpose } from "@/state/grounds";
import { goTo } from "@/state/route";

/** What a new design begins with. */
export interface Intake {
  purpose: string;
  width: string;
  use: Use;
  ground: Ground;
}

interface StartProps {
  intake: Intake;
  onIntake(intake: Intake): void;
  onPicture(file: File): void;
  onLettering(): void;
  busy: boolean;
}

/** The first page: bring in a picture, or open a design. */
export function Start({ intake, onIntake, onPicture, onLettering, busy }: StartProps) {
  return (
    <main className="grid h-full grid-rows-[auto_1fr] overflow-auto px-12 pt-7 pb-8 narrow:px-4 narrow:pt-4">
      <header className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <Mark className="h-9 w-9" />
        <h1 className="text-3xl font-semibold tracking-tight">Glad Stack</h1>
        <p className="mt-1.5 text-soft">From a picture or words to films that stack, each on its own sheet.</p>
        <button type="button" className="act ml-auto" onClick={() => goTo("/help")}>
          Help
        </button>
        <button type="button" className="act" onClick={() => goTo("/shelf")}>
          Shelf of films
        </button>
      </header>
      <div className="mt-7 grid grid-cols-[minmax(360px,4fr)_8fr] gap-10 narrow:mt-4 narrow:grid-cols-[minmax(0,1fr)]">
        <div className="min-w-0">
          <BringIn intake={intake} onIntake={onIntake} onPicture={onPicture} onLettering={onLettering} busy={busy} />
          <Jobs />
        </div>
        <Designs />
      </div>
    </main>
  );
}

function BringIn({ intake, onIntake, onPicture, onLettering, busy }: StartProps) {
  return (
    <section
      aria-labelledby="bring"
      className="relative self-start rounded-lg border border-line bg-paper p-6 narrow:p-4"
    >
      <h2 id="bring" className="text-lg font-semibold">
        New design
      </h2>
      <p className="mt-1 text-soft">
        Drop a flat-colour picture or a vector file anywhere on this page, paste one, or choose a file.
      </p>
      <fieldset className="mt-4">
        <legend className="heading">What is it for?</legend>
        <div className="mt-1.5 flex flex-wrap gap-1.5">
          {PURPOSES.map((purpose) => (
            <button
              key={purpose.key}
              type="button"
              aria-pressed={intake.purpose === purpose.key}
              className="rounded border border-firm px-2.5 py-1 hover:border-ink aria-pressed:border-chosen aria-pressed:bg-tint aria-pressed:font-semibold aria-pressed:text-chosen"
              onClick={() => onIntake(intakeFor(purpose))}
            >
              {purpose.text}
            </button>
          ))}
        </div>
      </fieldset>
      <div className="mt-4 flex flex-wrap items-start gap-x-6 gap-y-3">
        <label className="block">
          <span className="heading block">Finished width</span>
          <Input
            className="measure mt-1 w-28 border-b-2 bg-transparent text-xl focus:border-chosen"
            value={intake.width}
            onChange={(event) => onIntake({ ...intake, width: event.target.value })}
          />
        </label>
        <UseChoice value={intake.use} onChange={(use) => onIntake({ ...intake, use })} />
      </div>
      <FilePicker
        label="Picture file"
        accept={`${DRAWINGS},.zip`}
        className="act-main mt-6"
        disabled={busy}
        onFile={onPicture}
      >
        {busy ? <Standing text="Separating the colours…" /> : "Choose a file"}
      </FilePicker>
      <button type="button" className="act mt-6 ml-3 py-1.5" disabled={busy} onClick={onLettering}>
        Begin with lettering
      </button>
      <Working working={busy} text="" spoken="Separating the colours…" ended="" />
      <p className="mt-5 border-t border-line pt-3 text-sm text-soft">
        PNG, JPEG, GIF, WebP, BMP, TIFF, AVIF or HEIC, up to 4096 × 4096 px; SVG, PDF, DXF or HPGL, which keep their own
        size; or a design file. A width is written like 120 mm, 4.5 in or 3 1/4 in; proportions are kept.
      </p>
    </section>
  );
}

/** What is set for a purpose; width and use can still be changed. */
export function intakeFor({ key, width, use, ground }: Purpose): Intake {
  return { purpose: key, width, use, ground: groundOf(ground) };
}
