import type { ShapeArt } from "@/api/client";
import { LengthField } from "@/parts/LengthField";
import { NumberField } from "@/parts/NumberField";
import { BelongsTo } from "./BelongsTo";
import { useArtChange } from "./useArt";

type Form = ShapeArt["form"];
type Field = { key: string; label: string; kind: "length" | "count" | "share" };

export const FORMS: { form: Form["form"]; text: string }[] = [
  { form: "rectangle", text: "Rectangle" },
  { form: "ellipse", text: "Circle or ellipse" },
  { form: "polygon", text: "Polygon" },
  { form: "star", text: "Star" },
  { form: "heart", text: "Heart" },
  { form: "ring", text: "Ring" },
  { form: "ribbon", text: "Ribbon" },
];

const FIELDS: Record<Form["form"], Field[]> = {
  rectangle: [
    { key: "width_mm", label: "Drawn width", kind: "length" },
    { key: "height_mm", label: "Drawn height", kind: "length" },
    { key: "radius_mm", label: "Corner radius", kind: "length" },
  ],
  ellipse: [
    { key: "width_mm", label: "Drawn width", kind: "length" },
    { key: "height_mm", label: "Drawn height", kind: "length" },
  ],
  polygon: [
    { key: "sides", label: "Sides", kind: "count" },
    { key: "across_mm", label: "Across", kind: "length" },
  ],
  star: [
    { key: "points", label: "Points", kind: "count" },
    { key: "across_mm", label: "Across", kind: "length" },
    { key: "inner", label: "Notches", kind: "share" },
  ],
  heart: [
    { key: "width_mm", label: "Drawn width", kind: "length" },
    { key: "height_mm", label: "Drawn height", kind: "length" },
  ],
  ring: [
    { key: "across_mm", label: "Across", kind: "length" },
    { key: "band_mm", label: "Band", kind: "length" },
  ],
  ribbon: [
    { key: "width_mm", label: "Drawn width", kind: "length" },
    { key: "height_mm", label: "Drawn height", kind: "length" },
    { key: "fold_mm", label: "Ends drop by", kind: "length" },
  ],
};

/** The measures of a plain shape. */
export function ShapeFields({ art }: { art: ShapeArt }) {
  const { change } = useArtChange(art);
  const values = art.form as unknown as Record<string, number>;
  const set = (key: string, value: number | string) =>
    change((now) => ({ form: { ...now.form, [key]: value } as unknown as Form }));
  return (
    <div className="flex flex-col gap-3">
      <BelongsTo art={art} />
      <div className="flex justify-between">
        {FIELDS[art.form.form].map((field) => {
          const value = values[field.key] ?? 0;
          if (field.kind === "length") {
            return (
              <LengthField key={field.key} label={field.label} mm={value} onCommit={(text) => set(field.key, text)} />
            );
          }
          const share = field.kind === "share";
          return (
            <NumberField
              key={field.key}
              label={field.label}
              value={share ? value * 100 : value}
              suffix={share ? " %" : ""}
              places={share ? 1 : 0}
              onCommit={(typed) => set(field.key, share ? typed / 100 : Math.round(typed))}
            />
          );
        })}
      </div>
    </div>
  );
}
