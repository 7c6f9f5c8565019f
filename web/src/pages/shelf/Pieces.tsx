import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, expectData } from "@/api/client";
import { Input, Select } from "@/entry/Entry";
import { readLength } from "@/geometry/lengths";
import { Field } from "@/pages/shelf/Fields";
import { tell } from "@/state/design";
import type { Material, Stock } from "@/state/job";

export function Pieces({ film, pieces, onSaved }: { film: Material; pieces: Stock[]; onSaved(): unknown }) {
  const [kind, setKind] = useState<Stock["kind"]>("roll");
  const [size, setSize] = useState({ width: "300", length: "5000", count: "1" });
  const bring = useMutation({
    mutationFn: () => {
      const width_mm = readLength(size.width, "mm") ?? 0;
      const length_mm = readLength(size.length, "mm") ?? 0;
      const body = { material: film.id, kind, width_mm, length_mm, count: Number(size.count) || 1 };
      return expectData(api.POST("/api/pieces", { body }));
    },
    onSuccess: () => void onSaved(),
    onError: tell,
  });
  const count = useMutation({
    mutationFn: async ({ piece, left }: { piece: string; left: number }) => {
      const params = { path: { piece } };
      return expectData(
        api
          .POST("/api/pieces/{piece}/count", { params, body: { left }, parseAs: "text" })
          .then((answer) => (answer.error ? answer : { data: true })),
      );
    },
    onSuccess: () => void onSaved(),
    onError: tell,
  });
  return (
    <section aria-label="Pieces" className="mt-4 border-t border-line pt-3">
      <ul className="flex flex-col gap-1">
        {pieces.map((piece) => (
          <li key={piece.id} className="flex items-center gap-3">
            <span className="w-16 capitalize">{piece.kind}</span>
            <span className="measure w-44 text-soft">
              {piece.width_mm.toFixed(0)} {piece.kind === "roll" ? "mm wide" : `× ${piece.length_mm.toFixed(0)} mm`}
            </span>
            <label className="flex items-center gap-2">
              <span className="heading">Left</span>
              <Input
                key={piece.left}
                className="measure w-24 border-b-2 bg-transparent"
                defaultValue={piece.left}
                aria-label={`Left of ${piece.id}`}
                onBlur={(event) => {
                  const left = Number.parseFloat(event.target.value);
                  if (Number.isFinite(left) && left !== piece.left) count.mutate({ piece: piece.id, left });
                }}
              />
              <span className="text-sm text-soft">{piece.kind === "roll" ? "mm" : "pieces"}</span>
            </label>
          </li>
        ))}
      </ul>
      <div className="mt-3 flex items-end gap-3">
        <Field label="Comes in as">
          <Select className="w-full" value={kind} onChange={(e) => setKind(e.target.value as Stock["kind"])}>
            <option value="roll">a roll</option>
            <option value="sheet">sheets</option>
            <option value="offcut">an offcut</option>
          </Select>
        </Field>
        <Field label="Width, mm">
          <Input className="w-full" value={size.width} onChange={(e) => setSize({ ...size, width: e.target.value })} />
        </Field>
        <Field label="Length, mm">
          <Input
            className="w-full"
            value={size.length}
            onChange={(e) => setSize({ ...size, length: e.target.value })}
          />
        </Field>
        {kind !== "roll" && (
          <Field label="How many">
            <Input
              className="w-full"
              value={size.count}
              onChange={(e) => setSize({ ...size, count: e.target.value })}
            />
          </Field>
        )}
        <button type="button" className="act" disabled={bring.isPending} onClick={() => bring.mutate()}>
          Add it
        </button>
      </div>
    </section>
  );
}
