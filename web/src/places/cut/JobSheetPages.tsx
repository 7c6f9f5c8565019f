import { useState } from "react";
import { Select } from "@/entry/Entry";
import { useJobSheet } from "@/state/cutting";
import { useUnit } from "@/state/design";
import type { JobAnswer } from "@/state/job";

/** The job sheet's pages, the same that are printed; one can be looked at large. */
export function JobSheetPages({ job, design }: { job: JobAnswer; design: number | null }) {
  const unit = useUnit();
  const [paper, setPaper] = useState<"A4" | "Letter">(unit === "in" ? "Letter" : "A4");
  const [open, setOpen] = useState<number | null>(null);
  const sheet = useJobSheet(job, paper, design);
  const pages = sheet.data?.pages ?? [];
  const large = open === null ? undefined : pages[open];
  return (
    <section aria-label="Job sheet" className="min-w-0 border-t border-line bg-paper px-4 py-2">
      <div className="mb-1.5 flex items-center gap-3">
        <h2 className="font-semibold">Job sheet</h2>
        <span className="measure text-sm text-soft">
          {sheet.isFetching && pages.length === 0
            ? "being written…"
            : (sheet.error?.message ?? `${pages.length} ${pages.length === 1 ? "page" : "pages"}`)}
        </span>
        <label className="ml-auto flex items-center gap-2 text-sm">
          Paper
          <Select className="py-0.5" value={paper} onChange={(event) => setPaper(event.target.value as typeof paper)}>
            <option>A4</option>
            <option>Letter</option>
          </Select>
        </label>
        <a
          className="act text-sm"
          href={`/api/jobs/${job.id}/job-sheet.pdf?paper=${paper}`}
          target="_blank"
          rel="noreferrer"
        >
          Print
        </a>
      </div>
      <ol className="flex gap-3 overflow-x-auto pb-2">
        {pages.map((page, k) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a page has no other name than its number
          <li key={k} className="shrink-0">
            <button
              type="button"
              aria-label={`Page ${k + 1} of the job sheet`}
              className="block border border-line bg-white hover:border-ink"
              onClick={() => setOpen(k)}
            >
              <PageImage page={page} className="h-48 w-auto" />
            </button>
          </li>
        ))}
      </ol>
      {large && (
        <div
          className="fixed inset-0 z-50 grid grid-rows-[auto_1fr] bg-bench/95 p-4"
          role="dialog"
          aria-label="Page of the job sheet"
        >
          <div className="flex justify-center gap-2 pb-3">
            <button type="button" className="act" disabled={open === 0} onClick={() => setOpen((open ?? 0) - 1)}>
              Before
            </button>
            <button
              type="button"
              className="act"
              disabled={open === pages.length - 1}
              onClick={() => setOpen((open ?? 0) + 1)}
            >
              Next
            </button>
            {/* biome-ignore lint/a11y/noAutofocus: what was opened is what one is at */}
            <button type="button" className="act" autoFocus onClick={() => setOpen(null)}>
              Close
            </button>
          </div>
          <div className="grid min-h-0 place-content-center overflow-auto">
            <PageImage page={large} className="h-[calc(100vh-90px)] w-auto border border-line bg-white" />
          </div>
        </div>
      )}
    </section>
  );
}

/** A page as it is printed. It is drawn in this page, not as an image, so that it has this page's font. */
function PageImage({ page, className }: { page: string; className: string }) {
  const [, width, height] = /viewBox="0 0 ([\d.]+) ([\d.]+)"/.exec(page) ?? [];
  return (
    <span
      className={`block ${className} [&>svg]:h-full [&>svg]:w-full`}
      style={{ aspectRatio: `${width} / ${height}` }}
      // biome-ignore lint/security/noDangerouslySetInnerHtml: the server writes it, with every text escaped
      dangerouslySetInnerHTML={{ __html: page }}
    />
  );
}
