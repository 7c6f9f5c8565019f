import type { ComponentType } from "react";
import { type Art, type ArtBox, type Built, isHole } from "@/api/client";
import { LetteringFields } from "@/places/art/LetteringFields";
import { PictureFields } from "@/places/art/PictureFields";
import { ShapeFields } from "@/places/art/ShapeFields";
import { VectorFields } from "@/places/art/VectorFields";
import { FileColours } from "@/places/colours/FileColours";
import { LineArtFields } from "@/places/colours/LineArtFields";
import { PictureColours } from "@/places/colours/PictureColours";

/** What the screen knows of one kind of art. */
interface KindOf<A extends Art> {
  /** What it is called beside its name. */
  readonly text: string;
  /** What is chosen about it under Art, and about its colours under Colours. */
  readonly Fields: ComponentType<{ art: A }> | null;
  readonly Colours: ComponentType<{ art: A }> | null;
  /** The film whose colour stands for it in lists. */
  film(art: A, view: ArtBox | undefined): string | null;
  /** What was found in it when it was brought in, as short as it can be told. */
  found(art: A, built: Built): readonly string[];
}

type Kinds = { readonly [K in Art["kind"]]: KindOf<Extract<Art, { kind: K }>> };

const counted = (count: number, what: string) => (count === 1 ? `1 ${what}colour` : `${count} ${what}colours`);

/** Every kind of art, by its name: one that is missing here does not compile. */
export const KINDS: Kinds = {
  picture: {
    text: "picture",
    Fields: PictureFields,
    Colours: PictureColours,
    film: () => null,
    found(art, built) {
      const colours = built.colours.filter((colour) => colour.art === art.id);
      const films = colours.filter((colour) => colour.role === "film").length;
      const dropped = colours.some((colour) => colour.role === "background");
      return [counted(films, built.flat ? "flat " : "grouped "), ...(dropped ? ["background dropped"] : [])];
    },
  },
  "line-art": {
    text: "line art",
    Fields: null,
    Colours: LineArtFields,
    film: (art) => art.ink_film,
    found: () => ["lines on paper"],
  },
  vector: {
    text: "vector file",
    Fields: VectorFields,
    Colours: FileColours,
    film: (_, view) => view?.file_colours[0] ?? null,
    found: (art, built) => [counted(built.arts.find((one) => one.id === art.id)?.file_colours.length ?? 0, "")],
  },
  lettering: { text: "lettering", Fields: LetteringFields, Colours: null, film: filmOf, found: () => [] },
  shape: { text: "shape", Fields: ShapeFields, Colours: null, film: filmOf, found: () => [] },
};

function filmOf(art: Extract<Art, { film: string | null }>): string | null {
  return isHole(art) ? null : art.film;
}

/** What the screen knows of an art's kind. */
export function kindOf<A extends Art>(art: A): KindOf<A> {
  return KINDS[art.kind] as unknown as KindOf<A>;
}
