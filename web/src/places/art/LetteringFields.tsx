import type { Lettering } from "@/api/client";
import { Check } from "@/entry/Entry";
import { Choice } from "@/parts/Choice";
import { LengthField } from "@/parts/LengthField";
import { NumberField } from "@/parts/NumberField";
import { useOpenDesign } from "@/state/design";
import { useWords } from "@/state/words";
import { BelongsTo } from "./BelongsTo";
import { FontAxes, LetterForms } from "./FontChoices";
import { FontField } from "./FontField";
import { LetterFields } from "./LetterFields";
import { LineFields } from "./LineFields";
import { NamesFields } from "./NamesFields";
import { useArtBox, useArtChange } from "./useArt";

const READS_LEFT = /[\u0590-\u08ff\ufb1d-\ufdff\ufe70-\ufeff\u{10800}-\u{10fff}\u{1e800}-\u{1efff}]/u;
const JOINED = /[\u0600-\u074f\u0750-\u07ff\u0840-\u085f\u08a0-\u08ff\u0900-\u0a7f\u1800-\u18af]/u;

type Fit = "none" | "width" | "height";

/** The words of a lettering and how they are set. */
export function LetteringFields({ art }: { art: Lettering }) {
  const { change } = useArtChange(art);
  const box = useArtBox(art.id);
  const { built } = useOpenDesign();
  // Where a width or height is to be kept to, letters are set larger or smaller than they were told.
  const scale = built.arts.find((one) => one.id === art.id)?.line_scales[0] || 1;
  const fit: Fit = art.fit_width_mm ? "width" : art.fit_height_mm ? "height" : "none";
  const fits: Record<Fit, () => unknown> = {
    // What is seen stays as large as it is.
    none: () => change({ height_mm: art.height_mm * scale, fit_width_mm: null, fit_height_mm: null }),
    width: () => change({ fit_width_mm: box.right - box.left, fit_height_mm: null }),
    height: () => change({ fit_width_mm: null, fit_height_mm: box.bottom - box.top }),
  };
  const rows = art.text.split("\n").length;
  return (
    <div className="flex flex-col gap-3">
      <Words art={art} />
      <NamesFields art={art} />
      <FontField label="Font" font={art.font} onFont={(font) => change({ font, axes: [], forms: [] })} />
      <FontAxes font={art.font} axes={art.axes ?? []} onAxes={(axes) => change({ axes })} />
      <LetterForms font={art.font} text={art.text} forms={art.forms ?? []} onForms={(forms) => change({ forms })} />
      <BelongsTo art={art} />
      <div className="flex justify-between">
        <LengthField
          label="Letter height"
          mm={art.height_mm * scale}
          // A height that is typed rules from then on.
          onCommit={(text) => change({ height_mm: text, fit_width_mm: null, fit_height_mm: null })}
        />
        <LengthField
          label="Letter spacing"
          signed
          mm={art.spacing_mm}
          onCommit={(text) => change({ spacing_mm: text })}
        />
        <NumberField label="Line spacing" value={art.leading} step={0.05} onCommit={(leading) => change({ leading })} />
      </div>
      <div className="flex items-end justify-between gap-2">
        <Choice
          label="Align lines"
          value={art.align}
          options={[
            { value: "left", text: "Left" },
            { value: "centre", text: "Middle" },
            { value: "right", text: "Right" },
          ]}
          onChange={(align) => change({ align })}
        />
        <label className="flex items-center gap-1.5 pb-1 text-sm">
          <Check checked={art.weld} onChange={(event) => change({ weld: event.target.checked })} />
          Weld
        </label>
      </div>
      {art.spacing_mm !== 0 && JOINED.test(art.text) && (
        <p className="-mt-2 text-sm text-soft">Letters that join stay joined: the spacing goes between words.</p>
      )}
      {(art.direction !== "auto" || READS_LEFT.test(art.text)) && (
        <Choice
          label="Lines read"
          value={art.direction ?? "auto"}
          options={[
            { value: "auto", text: "As they begin" },
            { value: "ltr", text: "To the right" },
            { value: "rtl", text: "To the left" },
          ]}
          onChange={(direction) => change({ direction })}
        />
      )}
      <div className="flex items-end justify-between gap-2">
        <Choice
          label="Size by"
          value={fit}
          options={[
            { value: "none", text: "Letter height" },
            { value: "width", text: "Width" },
            { value: "height", text: "Height" },
          ]}
          onChange={(chosen) => fits[chosen]()}
        />
        {fit === "width" && (
          <LengthField
            label="Exact width"
            mm={art.fit_width_mm ?? 0}
            onCommit={(text) => change({ fit_width_mm: text })}
          />
        )}
        {fit === "height" && (
          <LengthField
            label="Exact height"
            mm={art.fit_height_mm ?? 0}
            onCommit={(text) => change({ fit_height_mm: text })}
          />
        )}
      </div>
      <div className="flex items-end justify-between gap-2">
        <Choice
          label="Baseline"
          value={art.bend ? art.bend.sense : "straight"}
          options={[
            { value: "straight", text: "Straight" },
            { value: "over", text: "Arched up" },
            { value: "under", text: "Arched down" },
          ]}
          onChange={(sense) =>
            change({
              bend:
                sense === "straight"
                  ? null
                  : { sense, radius_mm: art.bend?.radius_mm ?? Math.max(20, Math.round(box.right - box.left)) },
            })
          }
        />
        {art.bend && (
          <LengthField
            label="Radius"
            mm={art.bend.radius_mm}
            onCommit={(text) => change((now) => ({ bend: { sense: now.bend?.sense ?? "over", radius_mm: text } }))}
          />
        )}
      </div>
      {rows > 1 && <LineFields art={art} rows={rows} />}
      <LetterFields art={art} />
    </div>
  );
}

/** The words themselves: shown on the stage with every stroke, kept when typing rests. */
function Words({ art }: { art: Lettering }) {
  const { text, type, keep } = useWords(art);
  return (
    <label className="flex flex-col">
      <span className="heading">Words</span>
      <textarea
        value={text}
        rows={Math.min(5, Math.max(2, text.split("\n").length))}
        maxLength={2000}
        dir={art.direction ?? "auto"}
        className="mt-1 resize-none rounded border border-firm bg-table px-2 py-1 text-lg"
        onChange={(event) => type(event.target.value)}
        onBlur={keep}
      />
    </label>
  );
}
