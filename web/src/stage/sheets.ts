import { toPixel, type View } from "@/geometry/transform";
import { CHOSEN, type Context, FAIL, INK, inMillimetres } from "./paint";
import { type Film, lineColour, type Scene } from "./scene";

const SHEET_GAP_MM = 30;

/** Where each sheet lies on the stage, in mm: left to right, in rows about as wide as high. */
export function sheetPlaces(scene: Scene): { x: number; y: number }[] {
  const columns = Math.ceil(Math.sqrt(scene.films.length * 1.35));
  const places: { x: number; y: number }[] = [];
  let y = 0;
  for (let first = 0; first < scene.films.length; first += columns) {
    let x = 0;
    let tallest = 0;
    for (const film of scene.films.slice(first, first + columns)) {
      places.push({ x, y });
      x += film.sheet.width_mm + SHEET_GAP_MM;
      tallest = Math.max(tallest, film.sheet.height_mm);
    }
    y += tallest + 1.6 * SHEET_GAP_MM;
  }
  return places;
}

/** The extent of all sheets in mm. */
export function sheetsBox(scene: Scene) {
  const places = sheetPlaces(scene);
  return {
    left: 0,
    top: -0.8 * SHEET_GAP_MM,
    right: Math.max(1, ...scene.films.map((film, k) => (places[k]?.x ?? 0) + film.sheet.width_mm)),
    bottom: Math.max(1, ...scene.films.map((film, k) => (places[k]?.y ?? 0) + film.sheet.height_mm)),
  };
}

/** Every sheet with its cut shape as it will lie on the cutter, mirrored where it is. */
export function paintSheets(context: Context, scene: Scene, view: View, ratio: number, chosen: string | null): void {
  const places = sheetPlaces(scene);
  scene.films.forEach((film, k) => {
    const place = places[k];
    if (!place) return;
    const { sheet } = film;
    inMillimetres(context, { scale: view.scale, ...toPixel(view, place) }, ratio, () => {
      context.fillStyle = film.colour;
      context.fillRect(0, 0, sheet.width_mm, sheet.height_mm);
      context.lineWidth = (film.key === chosen ? 3 : 1) / view.scale;
      context.strokeStyle = sheet.fits ? (film.key === chosen ? CHOSEN : "rgba(30, 26, 16, 0.45)") : FAIL;
      context.strokeRect(0, 0, sheet.width_mm, sheet.height_mm);
      const line = lineColour(film.colour);
      context.strokeStyle = line;
      context.globalAlpha = 0.45;
      context.lineWidth = 0.8 / view.scale;
      context.setLineDash([4 / view.scale, 4 / view.scale]);
      const m = sheet.margin_mm;
      context.strokeRect(m, m, sheet.width_mm - 2 * m, sheet.height_mm - 2 * m);
      context.setLineDash([]);
      context.globalAlpha = 1;
      context.transform(sheet.mirrored ? -1 : 1, 0, 0, 1, sheet.dx_mm, sheet.dy_mm);
      context.lineWidth = 1.2 / view.scale;
      context.stroke(film.path);
      context.globalAlpha = 0.14;
      context.fillStyle = line;
      context.fill(film.path, "evenodd");
      context.globalAlpha = 1;
      if (scene.marks) context.fill(scene.marks);
    });
    label(context, view, ratio, place, film, k);
  });
}

function label(
  context: Context,
  view: View,
  ratio: number,
  place: { x: number; y: number },
  film: Film,
  k: number,
): void {
  const at = toPixel(view, place);
  const room = film.sheet.width_mm * view.scale;
  context.save();
  context.setTransform(ratio, 0, 0, ratio, 0, 0);
  context.font = '600 13px "Source Sans 3 Variable", sans-serif';
  context.fillStyle = film.sheet.fits ? INK : FAIL;
  context.textBaseline = "bottom";
  let text = `${k + 1}  ${film.name}${film.sheet.mirrored ? ", mirrored" : ""}${film.sheet.fits ? "" : ", does not fit"}`;
  if (context.measureText(text).width > room) {
    while (text.length > 4 && context.measureText(`${text}…`).width > room) text = text.slice(0, -1);
    text += "…";
  }
  context.fillText(text, at.x, at.y - 5);
  context.restore();
}
