import type { Box, Point } from "@/geometry/transform";

/** A letter as it lies on the stack, and its place among the characters of the text. */
interface Letter {
  readonly index: number;
  readonly box: Box;
}

/** Where the next character would come: an upright line, mm. */
export interface Caret {
  readonly x: number;
  readonly top: number;
  readonly bottom: number;
}

const BLANK_SHARE = 0.35;

/**
 * The caret before the character at `position`. Blanks have no letter: they stand as so many shares of a letter's height
 * behind the last one of their line. Null where no letter is set in that line.
 */
export function caretAt(letters: readonly Letter[], text: string, position: number): Caret | null {
  const characters = [...text];
  const row = rowAt(letters, characters, position);
  const before = row.filter(({ index }) => index < position).at(-1);
  const after = row.find(({ index }) => index >= position);
  const [first] = row;
  if (!first) return null;
  const onward = onwardIn(row);
  const near = before ?? after ?? first;
  const { top, bottom } = near.box;
  if (before && after && after.index === position && before.index === position - 1) {
    const [a, b] = onward > 0 ? [before.box.right, after.box.left] : [before.box.left, after.box.right];
    return { x: (a + b) / 2, top, bottom };
  }
  if (before) {
    const blanks = position - 1 - before.index;
    const edge = onward > 0 ? before.box.right : before.box.left;
    return { x: edge + onward * blanks * BLANK_SHARE * (bottom - top), top, bottom };
  }
  return { x: onward > 0 ? near.box.left : near.box.right, top, bottom };
}

/** The place among the characters that a point (mm) is nearest to: before or behind the nearest letter. */
export function positionAt(letters: readonly Letter[], text: string, at: Point): number {
  const away = ({ box }: Letter) =>
    Math.hypot(
      Math.max(0, box.left - at.x, at.x - box.right),
      Math.max(0, box.top - at.y, at.y - box.bottom),
      // Among letters over one another, the one whose middle is nearest.
      1e-3 * (middle(box) - at.x),
    );
  const [nearest] = [...letters].sort((a, b) => away(a) - away(b));
  if (!nearest) return 0;
  const behind = (at.x - middle(nearest.box)) * onwardIn(rowAt(letters, [...text], nearest.index)) > 0;
  return behind ? nearest.index + 1 : nearest.index;
}

/** Characters of a text as units of a field, which counts those beyond the first plane twice; and back. */
export const unitsOf = (text: string, characters: number): number => [...text].slice(0, characters).join("").length;
export const charactersOf = (text: string, units: number): number => [...text.slice(0, units)].length;

/** The letters of the line that a position is in, in the order they are read. */
function rowAt(letters: readonly Letter[], characters: readonly string[], position: number): readonly Letter[] {
  const from = position === 0 ? 0 : characters.lastIndexOf("\n", position - 1) + 1;
  const end = characters.indexOf("\n", position);
  const to = end < 0 ? characters.length : end;
  return letters.filter(({ index }) => index >= from && index < to).sort((a, b) => a.index - b.index);
}

/** 1 where a line is read to the right, -1 where it is read to the left. */
function onwardIn(row: readonly Letter[]): 1 | -1 {
  const [first, last] = [row[0], row.at(-1)];
  return first && last && middle(last.box) < middle(first.box) ? -1 : 1;
}

function middle(box: Box): number {
  return (box.left + box.right) / 2;
}
