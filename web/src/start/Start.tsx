import type { DesignLine, Method } from "@/api/client";
import type { Intake } from "@/app";
import { DRAWINGS, FilePicker } from "@/parts/FilePicker";
import { goTo } from "@/route";
import { Jobs } from "@/start/Jobs";
import { useDesigns } from "@/state/design";

interface StartProps {
  intake: Intake;
  onIntake(intake: Intake): void;
  onPicture(file: File): void;
  onLettering(): void;
  busy: boolean;
}

/** The first page: bring in a picture, or open a design. */
export function Start({ intake, onIntake, onPicture, onLettering, busy }: StartProps) {
  const designs = useDesigns();
  return (
    <main className="grid h-full grid-rows-[auto_1fr] overflow-auto px-12 pt-9 pb-8">
      <header className="flex items-baseline gap-4">
        <h1 className="text-3xl font-semibold tracking-tight">Glad Stack</h1>
        <p className="text-soft">From a picture or words to films that stack, each on its own sheet.</p>
        <button type="button" className="act ml-auto" onClick={() => goTo("/shelf")}>
          Shelf of films
        </button>
      </header>
      <div className="mt-8 grid grid-cols-[minmax(380px,5fr)_7fr] gap-10">
        <BringIn intake={intake} onIntake={onIntake} onPicture={onPicture} onLettering={onLettering} busy={busy} />
        <section aria-labelledby="designs">
          <Jobs />
          <h2 id="designs" className="mb-3 text-lg font-semibold">
            Designs
          </h2>
          {designs.data?.length === 0 && (
            <p className="text-soft">None yet. Bring in a picture on the left and its films appear here.</p>
          )}
          <ul className="grid grid-cols-[repeat(auto-fill,minmax(190px,1fr))] gap-4">
            {designs.data?.map((line) => (
              <DesignCard key={line.id} line={line} />
            ))}
          </ul>
          {designs.isError && <p className="text-fail">The designs cannot be read: {String(designs.error.message)}</p>}
        </section>
      </div>
    </main>
  );
}

function BringIn({ intake, onIntake, onPicture, onLettering, busy }: StartProps) {
  return (
    <section aria-labelledby="bring" className="relative self-start rounded-lg border border-line bg-paper p-6">
      <h2 id="bring" className="text-lg font-semibold">
        New design
      </h2>
      <p className="mt-1 text-soft">
        Drop a flat-colour picture or a vector file anywhere on this page, paste one, or choose a file.
      </p>
      <div className="mt-5 flex items-start gap-6">
        <label className="block">
          <span className="heading block">Finished width</span>
          <input
            className="measure mt-1 w-28 border-b-2 border-firm bg-transparent py-1 text-xl focus:border-chosen"
            value={intake.width}
            onChange={(event) => onIntake({ ...intake, width: event.target.value })}
          />
        </label>
        <fieldset>
          <legend className="heading">Film</legend>
          <div className="mt-1.5 mb-0.5 flex">
            {(["adhesive", "heat-transfer"] as Method[]).map((method) => (
              <label
                key={method}
                className="cursor-pointer border border-firm px-3 py-1 first:rounded-l last:rounded-r last:border-l-0 has-checked:bg-tint has-checked:font-semibold has-checked:text-chosen has-focus-visible:outline-2 has-focus-visible:outline-chosen"
              >
                <input
                  type="radio"
                  name="method"
                  className="sr-only"
                  checked={intake.method === method}
                  onChange={() => onIntake({ ...intake, method })}
                />
                {method === "adhesive" ? "Adhesive" : "Heat-transfer"}
              </label>
            ))}
          </div>
        </fieldset>
      </div>
      <FilePicker
        label="Picture file"
        accept={`${DRAWINGS},.zip`}
        className="act-main mt-6"
        disabled={busy}
        onFile={onPicture}
      >
        {busy ? "Separating the colours…" : "Choose a file"}
      </FilePicker>
      <button type="button" className="act mt-6 ml-3 py-1.5" disabled={busy} onClick={onLettering}>
        Begin with lettering
      </button>
      <p className="mt-5 border-t border-line pt-3 text-sm text-soft">
        PNG, JPEG, GIF, WebP or BMP, up to 4096 × 4096 px; SVG or DXF, which keep their own size; or a design file. A
        width is written like 120 mm, 4.5 in or 3 1/4 in; proportions are kept.
      </p>
    </section>
  );
}

function DesignCard({ line }: { line: DesignLine }) {
  return (
    <li>
      <a
        href={`/design/${line.id}`}
        className="block overflow-hidden rounded-lg border border-line bg-paper hover:border-firm"
        onClick={(event) => {
          if (event.metaKey || event.ctrlKey) return;
          event.preventDefault();
          goTo(`/design/${line.id}`);
        }}
      >
        <img
          src={`/api/designs/${line.id}/look.svg?${line.changed}`}
          loading="lazy"
          alt=""
          className="h-36 w-full bg-table object-contain p-3"
        />
        <span className="mt-0 mb-0.5 line-clamp-2 border-t border-line px-3 pt-2 font-semibold">{line.name}</span>
        <span className="block px-3 pb-2 text-sm text-soft">
          {new Date(line.changed).toLocaleString([], {
            day: "numeric",
            month: "short",
            hour: "2-digit",
            minute: "2-digit",
          })}
        </span>
      </a>
    </li>
  );
}
