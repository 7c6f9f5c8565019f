/** Colours that films are commonly had in, dark and light. */
const COMMON = ["#1d2b53", "#fff4d6", "#25231e", "#fbfaf7", "#f2b632", "#c0392b", "#2f8f8b"];
const ENOUGH = 35;

/** How far apart two colours look, in delta-E (CIE 1976). */
export function apart(a: string, b: string): number {
  const [la, aa, ba] = lab(a);
  const [lb, ab, bb] = lab(b);
  return Math.hypot(la - lb, aa - ab, ba - bb);
}

/** The wanted colour if it stands out from all others; else the common one that does most. */
export function contrasting(wanted: string, others: readonly string[]): string {
  const nearest = (colour: string) =>
    Math.min(Number.POSITIVE_INFINITY, ...others.map((other) => apart(colour, other)));
  if (nearest(wanted) >= ENOUGH) return wanted;
  return COMMON.reduce((best, colour) => (nearest(colour) > nearest(best) ? colour : best), wanted);
}

/** How much lighter one colour is than the other, 1 to 21 (WCAG 2.2, contrast ratio). */
export function contrast(a: string, b: string): number {
  const [light, dark] = [luminance(a), luminance(b)].sort((x, y) => y - x) as [number, number];
  return (light + 0.05) / (dark + 0.05);
}

/** How light a colour is, 0 to 1 (relative luminance). */
function luminance(hex: string): number {
  const [r, g, b] = linear(hex);
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
}

function linear(hex: string): [number, number, number] {
  return [1, 3, 5].map((k) => {
    const v = Number.parseInt(hex.slice(k, k + 2), 16) / 255;
    return v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
  }) as [number, number, number];
}

function lab(hex: string): [number, number, number] {
  const [r, g, b] = linear(hex);
  const [x, y, z] = [
    (0.4124 * r + 0.3576 * g + 0.1805 * b) / 0.9505,
    0.2126 * r + 0.7152 * g + 0.0722 * b,
    (0.0193 * r + 0.1192 * g + 0.9505 * b) / 1.089,
  ].map((t) => (t > 0.008856 ? Math.cbrt(t) : 7.787 * t + 16 / 116)) as [number, number, number];
  return [116 * y - 16, 500 * (x - y), 200 * (y - z)];
}
