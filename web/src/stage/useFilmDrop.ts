import { useQueryClient } from "@tanstack/react-query";
import type { DragEvent } from "react";
import { hasRegions } from "@/api/client";
import type { Point } from "@/geometry/transform";
import { useEdit, useOpenDesign } from "@/state/design";
import { artPoint, claimEdit } from "@/state/gesture";
import { artEdit } from "@/state/moves";
import { areaAt, askForAreas } from "@/state/regions";
import { artAt } from "./handling";
import type { Scene } from "./scene";

/** What a film is carried as while its name is dragged. */
export const FILM = "text/x-film";

/** A film dropped on the table is what the region there is cut from, or the lettering or shape. */
export function useFilmDrop(
  scene: Scene,
  pen: () => CanvasRenderingContext2D | null,
  mmAt: (event: { clientX: number; clientY: number }) => Point | null,
) {
  const { id, revision, recipe, built } = useOpenDesign();
  const client = useQueryClient();
  const edit = useEdit();

  const drop = async (film: string, mm: Point) => {
    const context = pen();
    if (!context) return;
    for (const art of [...recipe.arts].reverse().filter(hasRegions)) {
      const key = built.arts.find((one) => one.id === art.id)?.regions_key ?? "";
      if (!key) continue;
      const areas = await askForAreas(client, id, art.id, revision, key);
      const at = artPoint(art, mm);
      const area = areaAt(context, areas, at.x, at.y);
      if (area) return edit(claimEdit({ art: art.id, under: "as-film" }, { film }, areas, [area.index]));
    }
    const found = recipe.arts.find((art) => art.id === artAt(scene, mm, 0));
    if (found && !hasRegions(found)) return edit(artEdit(found.id, found.kind, { film }));
  };
  return {
    onDragOver(event: DragEvent) {
      if (event.dataTransfer.types.includes(FILM)) event.preventDefault();
    },
    onDrop(event: DragEvent) {
      const film = event.dataTransfer.getData(FILM);
      const mm = film ? mmAt(event) : null;
      if (!mm) return;
      event.preventDefault();
      void drop(film, mm);
    },
  };
}
