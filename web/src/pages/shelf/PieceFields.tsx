import { ProblemError } from "@/api/client";
import { Input, Select } from "@/entry/Entry";
import { readLength, type Unit } from "@/geometry/lengths";
import { Field } from "@/pages/shelf/Fields";
import type { Stock } from "@/state/job";

/** A piece of film as it is typed, in any unit. */
export interface NewPiece {
  kind: Stock["kind"];
  width: string;
  length: string;
  count: string;
}

export const FIRST_PIECE: NewPiece = { kind: "roll", width: "300 mm", length: "5000 mm", count: "1" };

/** What was typed as a piece of film; says what cannot be read of it. */
export function pieceOf(piece: NewPiece, unit: Unit) {
  const width_mm = read("width", piece.width, unit);
  const length_mm = read("length", piece.length, unit);
  const count = piece.kind === "roll" ? 1 : Math.round(Number(piece.count));
  if (!(count >= 1))
    throw new ProblemError("length", `“${piece.count}” is not a number of sheets.`, "Type how many came.");
  return { kind: piece.kind, width_mm, length_mm, count };
}

function read(what: string, text: string, unit: Unit): number {
  const mm = readLength(text, unit);
  if (mm !== null && mm > 0) return mm;
  throw new ProblemError("length", `“${text}” is no ${what} of film.`, "Write it like 305 mm, 12 in or 5000.");
}

interface PieceFieldsProps {
  piece: NewPiece;
  onPiece(piece: NewPiece): void;
  unit: Unit;
}

/** How a piece of film comes in: as a roll, sheets or an offcut, and how large it is. */
export function PieceFields({ piece, onPiece, unit }: PieceFieldsProps) {
  return (
    <div className="mt-3 flex flex-wrap items-end gap-3">
      <Field label="Comes in as">
        <Select
          className="w-full"
          value={piece.kind}
          onChange={(e) => onPiece({ ...piece, kind: e.target.value as Stock["kind"] })}
        >
          <option value="roll">a roll</option>
          <option value="sheet">sheets</option>
          <option value="offcut">an offcut</option>
        </Select>
      </Field>
      <Field label={`Width, ${unit}`}>
        <Input className="w-28" value={piece.width} onChange={(e) => onPiece({ ...piece, width: e.target.value })} />
      </Field>
      <Field label={`Length, ${unit}`}>
        <Input className="w-28" value={piece.length} onChange={(e) => onPiece({ ...piece, length: e.target.value })} />
      </Field>
      {piece.kind !== "roll" && (
        <Field label="How many">
          <Input className="w-20" value={piece.count} onChange={(e) => onPiece({ ...piece, count: e.target.value })} />
        </Field>
      )}
    </div>
  );
}
