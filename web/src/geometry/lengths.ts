export type Unit = "mm" | "in";

const MM_PER_INCH = 25.4;

/** By how much a length is stepped, in each unit. */
export const STEP: Readonly<Record<Unit, number>> = { mm: 0.1, in: 0.005 };

export function toMillimetres(value: number, unit: Unit): number {
  return unit === "mm" ? value : value * MM_PER_INCH;
}

/** A length for reading, in the maker's unit: "120.0 mm", "4.724 in". */
export function showLength(mm: number, unit: Unit, places?: number): string {
  return `${lengthDigits(mm, unit, places)} ${unit}`;
}

/** The digits of a length in the maker's unit, as fine as a cutter can tell. */
export function lengthDigits(mm: number, unit: Unit, places = unit === "mm" ? 1 : 3): string {
  return (unit === "mm" ? mm : mm / MM_PER_INCH).toFixed(places);
}

/** A length in a field that nobody is in: as fine as it is looked at, without idle zeros. */
export function restLength(mm: number, unit: Unit): string {
  const value = unit === "mm" ? mm : mm / MM_PER_INCH;
  // Laps and hairlines are told in hundredths, what is larger than a finger in tenths.
  const places = unit === "in" ? 3 : Math.abs(mm) < 10 ? 2 : 1;
  return `${Number(value.toFixed(places))} ${unit}`;
}

/** A length for editing: no idle zeros, fine enough not to change it. */
export function editLength(mm: number, unit: Unit): string {
  const value = unit === "mm" ? mm : mm / MM_PER_INCH;
  return `${Number(value.toFixed(unit === "mm" ? 3 : 4))} ${unit}`;
}

/** Sizes as films and cutters are sold: in the maker's unit, but "12 in", never "304.8 mm". */
export function soldLength(mm: number, unit: Unit): string {
  return editLength(mm, soldIn([mm], unit));
}

/** Sizes of one thing, both in one unit: "12 × 24 in", "210 × 297 mm". */
export function soldSize(width_mm: number, length_mm: number, unit: Unit): string {
  const own = soldIn([width_mm, length_mm], unit);
  return `${editLength(width_mm, own).replace(` ${own}`, "")} × ${editLength(length_mm, own)}`;
}

/** Inches where all are whole eighths of one and not all are whole tenths of a centimetre. */
function soldIn(lengths: number[], unit: Unit): Unit {
  const plain = (step: number) =>
    lengths.every((mm) => Math.abs(mm / step - Math.round(mm / step)) < 1e-4 && mm >= step);
  return unit === "mm" && !plain(1) && plain(MM_PER_INCH / 8) ? "in" : unit;
}

/** What was typed, with the unit added where only a number was; the server reads it. */
export function withUnit(text: string, unit: Unit): string {
  return /[a-z"]\s*$/i.test(text.trim()) ? text.trim() : `${text.trim()}${unit}`;
}

/** The typed length moved by one step of the maker's unit, or null if it is no plain number. */
export function nudge(text: string, unit: Unit, steps: number, signed = false): string | null {
  const found = /^\s*([-−]?(?:\d+(?:[.,]\d*)?|[.,]\d+))\s*(mm|in)?\s*$/i.exec(text);
  if (!found?.[1]) return null;
  const own = (found[2]?.toLowerCase() as Unit | undefined) ?? unit;
  const next = Number(found[1].replace(",", ".").replace("−", "-")) + steps * STEP[own];
  const value = signed ? next : Math.max(0, next);
  return `${Number(value.toFixed(4))} ${own}`;
}

/** A sign; a whole number and a fraction, or a plain number; a unit. The server reads lengths alike. */
const LENGTH = /^\s*([-−]?)\s*(?:(?:(\d+)\s+)?(\d+)\/(\d+)|(\d+(?:[.,]\d*)?|[.,]\d+))\s*(mm|cm|inch|in|")?\s*$/i;

/** A typed length in mm, for moving things about: "12", "-3mm", "1 1/2in"; null if it is none. */
export function readLength(text: string, unit: Unit): number | null {
  const found = LENGTH.exec(text);
  if (!found) return null;
  const [, sign, mixed, over, under, plain, unitTold] = found;
  if (under !== undefined && Number(under) === 0) return null;
  const value =
    over !== undefined ? Number(mixed ?? 0) + Number(over) / Number(under) : Number((plain ?? "").replace(",", "."));
  const own = unitTold?.toLowerCase() ?? unit;
  const mm = value * (own === "mm" ? 1 : own === "cm" ? 10 : MM_PER_INCH);
  // Twelve inches are 304.8 mm, not a hair less.
  return Number.isFinite(mm) ? Number((sign ? -mm : mm).toFixed(6)) : null;
}

/** An area for reading, in the maker's unit: "84.2 mm²", "12.5 cm²" from a square centimetre on, "1.94 in²". */
export function showArea(mm2: number, unit: Unit): string {
  if (unit === "in") return `${(mm2 / squareMm(unit)).toFixed(mm2 < 65 ? 3 : 2)} in²`;
  return mm2 < 100 ? `${mm2.toFixed(1)} mm²` : `${(mm2 / 100).toFixed(1)} cm²`;
}

/** How many mm² the square of a unit has. */
export function squareMm(unit: Unit): number {
  return unit === "in" ? MM_PER_INCH ** 2 : 1;
}

/** A time for reading: "45 s", "3 min 20 s". */
export function showTime(seconds: number): string {
  const whole = Math.round(seconds);
  return whole < 60 ? `${whole} s` : `${Math.floor(whole / 60)} min ${String(whole % 60).padStart(2, "0")} s`;
}
