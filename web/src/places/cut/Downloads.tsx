import { useState } from "react";
import { Check } from "@/entry/Entry";
import { Fold } from "@/parts/Fold";
import { SelectField } from "@/parts/SelectField";
import { type Format, type JobAnswer, type Plan, useFormats, useShelf } from "@/state/job";

const USUAL: Format[] = ["svg", "dxf"];

/** The files of a job: which formats, which sheets, on what paper. */
export function Downloads({ job, plan }: { job: JobAnswer; plan: Plan | undefined }) {
  const [chosen, setFormats] = useState<Format[] | null>(null);
  const takes = useShelf().data?.cutters.find((one) => one.id === job.job.cutter)?.takes ?? USUAL;
  // The usual ones, where the cutter takes them; else what it takes.
  const usual = USUAL.filter((one) => takes.includes(one));
  const formats = chosen ?? (usual.length ? usual : takes.slice(0, 1));
  const { data: offered = [] } = useFormats();
  const [paper, setPaper] = useState<"film" | "A4" | "Letter">("film");
  const [sheet, setSheet] = useState("");
  const query = new URLSearchParams([...formats.map((one) => ["formats", one]), ["paper", paper]]);
  if (sheet) query.append("sheets", sheet);
  const flip = (format: Format) =>
    setFormats(formats.includes(format) ? formats.filter((one) => one !== format) : [...formats, format]);
  return (
    <Fold title="Download files" figure={formats.length ? formats.length : "none"} open={false}>
      <fieldset className="grid grid-cols-1 gap-0.5">
        <legend className="heading">Formats</legend>
        {offered.map((one) => (
          <label key={one.format} className="flex items-center gap-2">
            <Check className="h-4 w-4" checked={formats.includes(one.format)} onChange={() => flip(one.format)} />
            {one.says}
          </label>
        ))}
      </fieldset>
      <SelectField
        label="Sheets"
        value={sheet}
        options={[
          { value: "", text: "All, with the decal and the job sheet" },
          ...(plan?.sheets ?? []).map((one) => ({ value: String(one.number), text: `${one.number} ${one.name}` })),
        ]}
        onChange={setSheet}
      />
      {formats.includes("pdf") && (
        <SelectField
          label="Paper"
          value={paper}
          options={[
            { value: "film", text: "As large as the film" },
            { value: "A4", text: "A4, in tiles" },
            { value: "Letter", text: "Letter, in tiles" },
          ]}
          onChange={(next) => setPaper(next)}
        />
      )}
      <span className="flex flex-wrap gap-2">
        <a className="act" href={`/api/jobs/${job.id}/sheets.zip?${query}`} download>
          Download as ZIP
        </a>
        <a className="act" href={`/api/jobs/${job.id}/file`} download>
          Download the job file
        </a>
      </span>
      <p className="text-sm text-soft">The job file holds the job and its designs, to keep or to hand on.</p>
    </Fold>
  );
}
