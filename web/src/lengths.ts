export type Unit = "mm" | "in";

const MM_PER_INCH = 25.4;

/** A length for reading, in the maker's unit: "120.0 mm", "4.724 in". */
export function showLength(mm: number, unit: Unit): string {
  return `${lengthDigits(mm, unit)} ${unit}`;
}

/** The digits of a length in the maker's unit, as fine as a cutter can tell. */
export function lengthDigits(mm: number, unit: Unit, places = unit === "mm" ? 1 : 3): string {
  return (unit === "mm" ? mm : mm / MM_PER_INCH).toFixed(places);
}

/** A length for editing: no idle zeros, fine enough not to change it. */
export function editLength(mm: number, unit: Unit): string {
  const value = unit === "mm" ? mm : mm / MM_PER_INCH;
  return `${Number(value.toFixed(unit === "mm" ? 3 : 4))} ${unit}`;
}

/** What was typed, with the unit added where only a number was; the server reads it. */
export function withUnit(text: string, unit: Unit): string {
  return /[a-z"]\s*$/i.test(text.trim()) ? text.trim() : `${text.trim()}${unit}`;
}

/** The typed length moved by one step of the maker's unit, or null if it is no plain number. */
export function nudge(text: string, unit: Unit, steps: number): string | null {
  const found = /^\s*(\d+(?:[.,]\d*)?|[.,]\d+)\s*(mm|in)?\s*$/i.exec(text);
  if (!found?.[1]) return null;
  const own = (found[2]?.toLowerCase() as Unit | undefined) ?? unit;
  const step = own === "mm" ? 0.1 : 0.005;
  const value = Math.max(0, Number(found[1].replace(",", ".")) + steps * step);
  return `${Number(value.toFixed(4))} ${own}`;
}
