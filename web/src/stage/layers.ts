import { type Point, type View, zoomAt } from "@/geometry/transform";
import { paintChanges } from "./changes";
import { paintDrawing } from "./drawing";
import { LENS_OF, paintResult, paintSources } from "./lenses";
import { type Hand, inPane, type Look, type Pane, seenOn } from "./look";
import { paintDoing, paintFindings } from "./overlay";
import { type Context, paintDimensions, paintHandling, paintTable, paintWaiting } from "./paint";
import { paintHoles, paintRings } from "./pieces";
import { paintBared, paintMeasure, paintProof } from "./proved";
import { onlyIn, paintDivide, paintLoupe } from "./reference";

const LOUPE_ZOOM = 5;

/** The picture: the table and all that lies on it, through the lens. */
export function paintPicture(context: Context, look: Look, view: View, pane: Pane, ratio: number): void {
  const right = pane.left + pane.width;
  paintTable(context, right, pane.height, ratio);
  if (look.beside) {
    const left = { left: 0, top: 0, right: pane.left, bottom: pane.height };
    onlyIn(context, ratio, left, () => paintSources(context, look, view, ratio, look.original));
    paintDivide(context, pane.left, pane.height, ratio);
  }
  onlyIn(context, ratio, { left: pane.left, top: 0, right, bottom: pane.height }, () =>
    LENS_OF[look.lens].paint(context, look, inPane(view, pane), ratio),
  );
}

/** What lies over it: what is held, waits, is being drawn and is told of; the dimension lines; the loupe. */
export function paintHand(context: Context, look: Look, hand: Hand, view: View, pane: Pane, ratio: number): void {
  const { canvas } = context;
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.clearRect(0, 0, canvas.width, canvas.height);
  if (!LENS_OF[look.lens].hit) return;
  const here = inPane(view, pane);
  const box = { left: pane.left, top: 0, right: pane.left + pane.width, bottom: pane.height };
  onlyIn(context, ratio, box, () => {
    if (hand.changes) paintChanges(context, hand.changes, here, ratio);
    if (hand.arranging) {
      paintHandling(context, look.scene, here, ratio, hand.arts, hand.letters, hand.guides);
    }
    if (hand.colouring) {
      paintWaiting(context, look.scene, here, ratio, hand.arts, hand.claiming, hand.waitingAt);
    }
    if (hand.doing) paintDoing(context, here, ratio, hand.doing);
    if (hand.drawing) paintDrawing(context, hand.drawing, look.scene.box, here, ratio);
    if (hand.holes.length > 0) paintHoles(context, hand.holes, here, ratio);
    if (hand.ringed) paintRings(context, hand.ringed, here, ratio);
    if (look.slip && hand.slipped) paintBared(context, hand.slipped, here, ratio, hand.unit);
    if (!hand.proving) paintFindings(context, hand.findings, hand.shown, here, ratio);
    else paintProof(context, look.lens === "Narrow" ? [] : hand.findings, hand.shown, here, ratio);
    if (hand.shown) paintMeasure(context, hand.findings, hand.shown, here, ratio, hand.unit);
    if (!look.scene.empty) paintDimensions(context, look.scene, here, ratio, hand.unit, seenOn(look));
  });
  if (hand.loupe) paintGlass(context, look, hand.loupe, view, pane, ratio);
}

function paintGlass(context: Context, look: Look, at: Point, view: View, pane: Pane, ratio: number): void {
  const local = { x: at.x - (at.x > pane.left ? pane.left : 0), y: at.y };
  const close = zoomAt(view, local, LOUPE_ZOOM);
  const moved = { ...close, x: close.x + at.x - local.x };
  paintLoupe(
    context,
    at,
    ratio,
    () => paintSources(context, look, moved, ratio, 1),
    () => paintResult(context, look, moved, ratio),
  );
}
