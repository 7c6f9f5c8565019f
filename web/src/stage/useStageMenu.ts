import type { Point } from "@/geometry/transform";
import { useArtActs } from "@/state/artActs";
import { useOpenDesign } from "@/state/design";
import { useView } from "@/state/view";
import { artAt } from "./handling";
import type { MenuEntry } from "./StageMenu";
import { coreSample, type Scene } from "./scene";

/** What can be done at a point of the stack (mm): with the art there, with the film on top there, with the view. */
export function useStageMenu(
  scene: Scene,
  pen: () => CanvasRenderingContext2D | null,
  fit: () => void,
  scale: number,
): (mm: Point | null) => MenuEntry[] {
  const { built, recipe } = useOpenDesign();
  const { goTo, hide, choose, chooseArts, write } = useView();
  const acts = useArtActs();
  return (mm) => {
    const entries: MenuEntry[] = [];
    const context = pen();
    const art = mm && artAt(scene, mm, 2 / scale);
    if (art) {
      const name = built.arts.find((one) => one.id === art)?.name ?? "";
      if (recipe.arts.find((one) => one.id === art)?.kind === "lettering")
        entries.push({ text: `Write in ${name}`, onDo: () => write(art, null) });
      const inArt = (act: () => unknown) => () => {
        goTo("Art");
        return act();
      };
      entries.push(
        { text: `Choose ${name}`, onDo: inArt(() => chooseArts([art])) },
        { text: `Duplicate ${name}`, onDo: inArt(() => acts.copy([art])) },
        { text: `Delete ${name}`, onDo: () => acts.remove([art]), disabled: recipe.arts.length < 2 },
      );
    }
    const top = mm && context ? coreSample(context, scene, mm.x, mm.y)[0]?.key : undefined;
    const film = built.layers.find((layer) => layer.film === top);
    if (film) {
      entries.push(
        {
          text: `Open ${film.name} in the stack`,
          onDo: () => {
            goTo("Stack");
            choose(film.film);
          },
        },
        { text: `Hide ${film.name}`, onDo: () => hide(film.film) },
      );
    }
    return [...entries, { text: "Fit the decal", onDo: fit }];
  };
}
