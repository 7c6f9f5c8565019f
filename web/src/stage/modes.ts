import { holds } from "@/geometry/boxes";
import type { Box, Point } from "@/geometry/transform";
import { claimEdit, mendOf, type Trail, taken } from "@/state/gesture";
import type { Mode } from "@/state/mode";
import { canClose, FEWEST_NODES, nodeMend, penEdit, whyNot, withoutNode } from "@/state/pen";
import { type Effect, type Grip, type HeldKnot, type HeldNode, type Press, SNAP_PX } from "./grip";
import { artAt, artToMove, letterAt } from "./handling";
import type { World } from "./world";

type Of<K extends Mode["kind"]> = Extract<Mode, { kind: K }>;

/** What the hand does in one mode. */
interface Way<M extends Mode> {
  /** What a press takes hold of; null for the table. */
  press(mode: M, press: Press, world: World): Grip | null;
  /** What a press does that was let go where it was. */
  click(mode: M, mm: Point, more: boolean, world: World): readonly Effect[];
  /** What a trail does that was drawn. */
  drawn?(mode: M, grip: Grip & { holds: "trail" }, world: World): readonly Effect[];
  /** What the pen does that was put down. */
  knotted?(mode: M, grip: HeldKnot, world: World): readonly Effect[];
  /** What a node does that was taken hold of. */
  led?(mode: M, grip: HeldNode, world: World): readonly Effect[];
  /** What a box does that was drawn round art. */
  gathered?(mode: M, box: Box, world: World): readonly Effect[];
}

const NO_TRAIL: Trail = { points: [], touched: [] };

function trail(_: Mode, { at }: Press, world: World): Grip {
  return { holds: "trail", from: at, trail: world.carriedOn(NO_TRAIL, at.mm) };
}

const ARRANGING: Way<Mode> = {
  // Only art that is chosen is moved; anything else under the pointer moves the table.
  press(_, { at, shift }, world) {
    const met = artToMove(world.scene, world.arts, at.mm, 2 / world.scale);
    if (!met) return shift ? { holds: "box", from: at, at, moved: false } : null;
    const boxes = world.scene.arts.filter((art) => world.arts.includes(art.id)).map((art) => art.box);
    return { holds: "arts", ids: world.arts, boxes, from: at, by: null, guides: [] };
  },
  click(_, mm, more, { scene, arts, letters, scale }) {
    const found = artAt(scene, mm, 2 / scale);
    if (more) {
      if (!found) return [];
      const rest = arts.filter((id) => id !== found);
      return [{ do: "choose-arts", arts: rest.length < arts.length ? rest : [...arts, found] }];
    }
    if (found && arts.length === 1 && arts[0] === found) {
      const letter = letterAt(scene, found, mm);
      return [{ do: "choose-letters", letters: letter === null || letters.includes(letter) ? [] : [letter] }];
    }
    return [{ do: "choose-arts", arts: found ? [found] : [] }];
  },
  gathered(_, box, { scene }) {
    return [{ do: "choose-arts", arts: scene.arts.filter((art) => holds(box, art.box)).map((art) => art.id) }];
  },
};

const CLAIMING: Way<Of<"claiming">> = {
  press: trail,
  drawn: (mode, grip, world) => claimed(mode, grip.trail, world, true),
  // With Alt a click is let through to just the region there, be it thin as a hair.
  click(mode, mm, _, world) {
    const met = world.regionAt(mm, true);
    if (met) return claimed(mode, { points: [], touched: [met.index] }, world, false);
    // While regions are still on their way nothing is known of what lies there.
    return world.areas ? [{ do: "tell", ...OPEN_HERE }] : [];
  },
};

const OPEN_HERE = {
  detail: "No area is enclosed here: it is open to the page.",
  remedy: "Close it with a line first: Mending, Bridge.",
};

function claimed(mode: Of<"claiming">, way: Trail, { areas, owners }: World, drawn: boolean): readonly Effect[] {
  const by = drawn ? mode : { ...mode, by: "touch" as const };
  const regions = areas ? taken(by, way, areas, owners) : [];
  if (!areas || regions.length === 0) return [];
  const { art, target } = mode;
  return [{ do: "claim", edit: claimEdit(mode, target, areas, regions), pending: { art, regions, target } }];
}

/** Steps that begin on an edge: a film may lie on either side of it. */
const OF_EDGES: ReadonlySet<Of<"mending">["step"]> = new Set([
  "smooth",
  "straighten",
  "move-edge",
  "draw-edge",
  "push",
]);
const BESIDE_MM = [0.5, 1.2, 2];

function filmBeside(at: Point, world: World): string | null {
  for (const by of BESIDE_MM) {
    for (const [x, y] of [
      [by, 0],
      [-by, 0],
      [0, by],
      [0, -by],
    ] as const) {
      const film = world.filmAt({ x: at.x + x, y: at.y + y }, true);
      if (film !== null) return film;
    }
  }
  return null;
}

/** The pen put down: on the first knot the way is closed. */
function knot({ knots }: Of<"mending">, { at, shift }: Press, world: World): Grip {
  const first = knots[0]?.at;
  const back = first && Math.hypot(first.x - at.mm.x, first.y - at.mm.y) <= SNAP_PX / world.scale;
  if (first && back && canClose(knots))
    return { holds: "knot", from: at, knot: { at: first, handle: first }, closes: true, guides: [] };
  const before = knots.map((one) => one.at);
  const put = shift ? { at: at.mm, guides: [] } : world.snapped(at.mm, before);
  return { holds: "knot", from: at, knot: { at: put.at, handle: put.at }, closes: false, guides: put.guides };
}

function node({ film }: Of<"mending">, { at }: Press, world: World): Grip | null {
  const met = world.nodeAt(at.mm, film);
  const between = met ? null : world.edgeAt(at.mm, film);
  const found = met ?? between;
  return found && { holds: "node", from: at, node: found, added: met === null, to: null, guides: [] };
}

const NO_NODE = { detail: "There is no node here.", remedy: "Click one of the marks on an edge." };
const NO_DRAG = { detail: "There is no node here yet.", remedy: "Drag the edge: a node comes where you put it." };
const FEW = { detail: "This outline has only three corners.", remedy: "Drag a node instead, or cut the piece away." };

const MENDING: Way<Of<"mending">> = {
  press(mode, press, world) {
    if (mode.step === "nodes") return node(mode, press, world);
    return mode.step === "draw-area" ? knot(mode, press, world) : trail(mode, press, world);
  },
  click: ({ step }) => (step === "nodes" ? [{ do: "tell", ...NO_NODE }] : []),
  knotted(mode, { knot, closes }, world) {
    if (!closes) return [{ do: "draw", knots: [...mode.knots, knot] }];
    const art = world.recipe.arts.find((one) => one.id === mode.art);
    const edit = art && penEdit(mode, art, world.width, world.areas, true);
    if (!edit) return [{ do: "tell", ...whyNot(mode, true) }];
    return [
      { do: "edit", edit },
      { do: "draw", knots: [] },
    ];
  },
  led(mode, { node, added, to }, world) {
    const art = world.recipe.arts.find((one) => one.id === mode.art);
    if (!art) return [];
    if (to === null && added) return [{ do: "tell", ...NO_DRAG }];
    if (to === null && mode.node === "take-out" && node.ring < FEWEST_NODES) return [{ do: "tell", ...FEW }];
    const form = to === null || added ? (mode.node === "smooth" ? "smooth" : "corner") : "as-drawn";
    const mend =
      to === null && mode.node === "take-out"
        ? withoutNode(art, node, world.width)
        : nodeMend(art, node, to ?? node.at, added && form === "corner" ? "as-drawn" : form, world.width);
    return [{ do: "edit", edit: { kind: "add-mend", art: mode.art, mend } }];
  },
  drawn(mode, grip, world) {
    const begun =
      world.filmAt(grip.from.mm, true) ?? (OF_EDGES.has(mode.step) ? filmBeside(grip.from.mm, world) : null);
    const mend = mendOf(mode, grip.trail, world.width, begun);
    if (mend) return [{ do: "edit", edit: { kind: "add-mend", art: mode.art, mend } }];
    if ((mode.film ?? begun) !== null)
      return [{ do: "tell", detail: "This goes round nothing.", remedy: "Draw round what is meant." }];
    const remedy = "Begin on a film, or choose one in the panel.";
    return [{ do: "tell", detail: "No film lies where you began.", remedy }];
  },
};

const PICKING: Way<Of<"picking">> = {
  press: () => null,
  click(_, mm, __, world) {
    const colour = world.colourAt(mm);
    return colour ? [{ do: "pick", colour }] : [];
  },
};

const HOLING: Way<Of<"holing">> = {
  press: () => null,
  /** Fills the hole at a point, or opens it again; beside holes nothing happens. */
  click({ making }, mm, _, { holes, isInHole }) {
    const met = holes.find((hole) => hole.making === making && isInHole(hole, mm));
    if (!met) return [];
    return [
      {
        do: "edit",
        edit: ({ recipe: { makings = [] } }) => {
          const now = makings.find((one) => one.id === making);
          if (now?.kind !== "outline-shadow") return null;
          const others = now.chosen.filter((spot) => !isInHole(met, { x: spot.x_mm, y: spot.y_mm }));
          const chosen = met.filled ? others : [...others, { x_mm: met.x_mm, y_mm: met.y_mm }];
          return { kind: "change-making", making: { ...now, chosen } };
        },
      },
    ];
  },
};

const SLIPPING: Way<Of<"slipping">> = {
  press(mode, { at }, world) {
    const film = world.slip?.film ?? mode.film ?? world.filmAt(at.mm);
    if (film === null) return null;
    const before = world.slip?.film === film ? { x: world.slip.x, y: world.slip.y } : { x: 0, y: 0 };
    return { holds: "film", film, from: at, before, by: before };
  },
  click: () => [],
};

const LOOKING: Way<Mode> = {
  press: () => null,
  click(_, mm, __, world) {
    const film = world.filmAt(mm);
    return [{ do: "choose-film", film: film === world.film ? null : film }];
  },
};

/** Every mode of the hand, by its kind. */
export const MODES: { readonly [K in Mode["kind"]]: Way<Of<K>> } = {
  looking: LOOKING,
  arranging: ARRANGING,
  writing: ARRANGING,
  claiming: CLAIMING,
  mending: MENDING,
  picking: PICKING,
  holing: HOLING,
  slipping: SLIPPING,
};
