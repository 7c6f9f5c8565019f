import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, expectData } from "@/api/client";
import { Input } from "@/entry/Entry";
import { editLength, readLength, soldLength, soldSize } from "@/geometry/lengths";
import { FIRST_PIECE, type NewPiece, PieceFields, pieceOf } from "@/pages/shelf/PieceFields";
import { tell } from "@/state/design";
import type { Material, Stock } from "@/state/job";
import { useBenchUnit } from "@/state/units";

export function Pieces({ film, pieces, onSaved }: { film: Material; pieces: Stock[]; onSaved(): unknown }) {
  const [piece, setPiece] = useState<NewPiece>(FIRST_PIECE);
  const { unit } = useBenchUnit();
  const bring = useMutation({
    mutationFn: async () =>
      expectData(api.POST("/api/pieces", { body: { material: film.id, ...pieceOf(piece, unit) } })),
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
              {piece.kind === "roll"
                ? `${soldLength(piece.width_mm, unit)} wide`
                : soldSize(piece.width_mm, piece.length_mm, unit)}
            </span>
            <label className="flex items-center gap-2">
              <span className="heading">Left</span>
              <Input
                key={`${piece.left} ${unit}`}
                className="measure w-24 border-b-2 bg-transparent"
                defaultValue={piece.kind === "roll" ? editLength(piece.left, unit) : piece.left}
                aria-label={`Left of ${piece.id}`}
                onBlur={(event) => {
                  const { value } = event.target;
                  const left = piece.kind === "roll" ? readLength(value, unit) : Number.parseFloat(value);
                  // What is no figure goes back to what is known.
                  if (left === null || !Number.isFinite(left) || left < 0)
                    event.target.value = event.target.defaultValue;
                  else if (value !== event.target.defaultValue) count.mutate({ piece: piece.id, left });
                }}
              />
              {piece.kind !== "roll" && <span className="text-sm text-soft">pieces</span>}
            </label>
          </li>
        ))}
      </ul>
      <div className="mt-3 flex items-end gap-3">
        <PieceFields piece={piece} onPiece={setPiece} unit={unit} />
        <button type="button" className="act" disabled={bring.isPending} onClick={() => bring.mutate()}>
          Add it
        </button>
      </div>
    </section>
  );
}
