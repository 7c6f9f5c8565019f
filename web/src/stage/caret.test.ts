import { expect, test } from "vitest";
import { caretAt, charactersOf, positionAt, unitsOf } from "./caret";

/** Letters 10 mm wide and 20 high, 2 mm apart, lines 30 mm below each other; blanks and line ends have none. */
function set(text: string, onward = 1) {
  let [row, column] = [0, 0];
  return [...text].flatMap((character, index) => {
    if (character === "\n") {
      [row, column] = [row + 1, 0];
      return [];
    }
    const left = onward * 12 * column;
    column += 1;
    if (character === " ") return [];
    return [{ index, box: { left, right: left + 10, top: 30 * row, bottom: 30 * row + 20 } }];
  });
}

test("the caret stands before, between and behind letters", () => {
  const text = "AB";
  expect([0, 1, 2].map((at) => caretAt(set(text), text, at)?.x)).toEqual([0, 11, 22]);
  expect(caretAt(set(text), text, 1)).toMatchObject({ top: 0, bottom: 20 });
});

test("blanks move it on, and what is read to the left goes to the left", () => {
  const text = "AB ";
  expect(caretAt(set(text), text, 3)?.x).toBeGreaterThan(22);
  expect([0, 1, 2].map((at) => caretAt(set("אב", -1), "אב", at)?.x)).toEqual([10, -1, -12]);
});

test("it stands in its own line, and nowhere in an empty one", () => {
  const text = "AB\n\nC";
  const letters = set(text);
  expect(caretAt(letters, text, 2)).toMatchObject({ x: 22, top: 0 });
  expect(caretAt(letters, text, 3)).toBeNull();
  expect(caretAt(letters, text, 4)).toMatchObject({ x: 0, top: 60 });
  expect(caretAt([], "", 0)).toBeNull();
});

test("a point is before or behind the nearest letter, and every caret's own point leads back to it", () => {
  const text = "HILL";
  const letters = set(text);
  expect(positionAt(letters, text, { x: 1, y: 10 })).toBe(0);
  expect(positionAt(letters, text, { x: 9, y: 10 })).toBe(1);
  expect(positionAt(letters, text, { x: 500, y: -3 })).toBe(4);
  for (const at of [0, 1, 2, 3, 4]) {
    const caret = caretAt(letters, text, at);
    expect(caret && positionAt(letters, text, { x: caret.x, y: 10 })).toBe(at);
  }
});

test("characters of two units count once", () => {
  const text = "a𝔸b";
  expect(unitsOf(text, 2)).toBe(3);
  expect(charactersOf(text, 3)).toBe(2);
});
