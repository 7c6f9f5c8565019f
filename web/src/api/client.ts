import createClient from "openapi-fetch";
import { useServer } from "@/api/server";
import { follow, newTicket, unfollow } from "@/api/waiting";
import {
  type Answer,
  type ArtBox,
  type Built,
  heldKeys,
  type Layer,
  type Recipe,
  wholeBuilt,
  wholeDesign,
} from "./held";
import type { components, paths } from "./schema";

export type { Answer, ArtBox, Built, Layer, Recipe };

type Schemas = components["schemas"];
/** A design as it is shown. */
export type Design = Omit<Answer, "built"> & { built: Built };
export type Finding = Built["findings"][number];
export type FoundPlace = NonNullable<Finding["place"]>;
export type Joint = Schemas["JointView"];
export type Colour = Schemas["ColourView"];
export type Art = Recipe["arts"][number];
export type Lettering = Extract<Art, { kind: "lettering" }>;
export type ShapeArt = Extract<Art, { kind: "shape" }>;
export type LineArt = Extract<Art, { kind: "line-art" }>;
export type VectorArt = Extract<Art, { kind: "vector" }>;
export type PictureArt = Extract<Art, { kind: "picture" }>;
export type RegionArt = PictureArt | VectorArt | LineArt;
export type Mend = RegionArt["mends"][number];
export type MendKind = Mend["kind"];
export type Regions = Schemas["RegionsView"];
export type Region = Regions["regions"][number];
export type Claim = ArtBox["claims"][number];
export type Becomes = Claim["becomes"];
export type Under = Claim["under"];
export type Making = NonNullable<Recipe["makings"]>[number];
export type Finish = Layer["finish"];
export type Font = Schemas["FontView"];
export type FontChoices = Schemas["FontChoicesView"];
export type Box = Schemas["BoxView"];
export type DesignLine = Schemas["DesignLineView"];
export type Edit = Schemas["MadeEdit"]["edit"];
export type Use = Schemas["Use"];
type Ground = NonNullable<Recipe["ground"]>;
export type JointKind = Joint["kind"];

const tickets = new Map<string, string>();

function ended(id: string): void {
  const ticket = tickets.get(id);
  if (ticket) unfollow(ticket);
  tickets.delete(id);
}

export const api = createClient<paths>();
api.use({
  onRequest({ request, id }) {
    const keys = heldKeys();
    if (keys) request.headers.set("Held", keys);
    const ticket = newTicket();
    tickets.set(id, ticket);
    request.headers.set("Ticket", ticket);
    follow(ticket);
  },
  onResponse({ id }) {
    ended(id);
  },
  onError({ id }) {
    ended(id);
  },
});

/** What went wrong, in the server's words: the problem and what helps. */
export class ProblemError extends Error {
  constructor(
    readonly code: string,
    readonly detail: string,
    readonly remedy: string,
  ) {
    super(`${detail} ${remedy}`.trim());
  }
}

interface Got<T> {
  data?: T;
  error?: unknown;
}

/** The data of an answer; throws a ProblemError otherwise. */
export async function expectData<T>(answer: Promise<Got<T>>): Promise<T> {
  let got: Got<T>;
  try {
    got = await answer;
  } catch (fault) {
    // What this page itself gave up says nothing of the server.
    if (fault instanceof DOMException && fault.name === "AbortError") throw fault;
    useServer.getState().heard(true);
    throw new ProblemError("offline", "The app's own server does not answer.", "Start it again; nothing is lost.");
  }
  useServer.getState().heard(false);
  if (got.data !== undefined) return got.data;
  const problem = got.error as { code?: string; detail?: string; remedy?: string } | undefined;
  if (problem?.code === "token") useServer.getState().lock(true);
  throw new ProblemError(problem?.code ?? "fault", problem?.detail ?? "Something failed.", problem?.remedy ?? "");
}

/** A design that was answered, with what this page holds of it already. */
export async function expectDesign(answer: Promise<Got<Schemas["DesignView"]>>): Promise<Answer> {
  return wholeDesign(await expectData(answer));
}

/** Waits for an answer that says no more than that it is done. */
export function expectDone(answer: Promise<{ error?: unknown }>): Promise<true> {
  return expectData(answer.then(({ error }) => (error === undefined ? { data: true as const } : { error })));
}

/** A build that was answered, with what this page holds of it already. */
export async function expectBuilt(answer: Promise<Got<Schemas["BuiltView"]>>): Promise<Built> {
  return wholeBuilt(await expectData(answer));
}

/** A file as the generated types want it: they take what is uploaded for text. */
export function sent(file: File): string {
  return file as unknown as string;
}

/** Starts a design from a picture file. */
export function startDesign(
  picture: File,
  width: string,
  use: Use,
  ground: Ground,
  signal: AbortSignal,
): Promise<Answer> {
  return expectDesign(
    api.POST("/api/designs", {
      body: { picture: sent(picture), width, use, ground: ground.kind, ground_colour: ground.colour },
      bodySerializer: formOf,
      signal,
    }),
  );
}

/** Brings in a design file: its designs, and the job in it if there is one. */
export function bringDesign(file: File): Promise<Schemas["BroughtInView"]> {
  return expectData(api.POST("/api/designs/file", { body: { file: sent(file) }, bodySerializer: formOf }));
}

/** Reads films from a table onto the shelf. */
export function readFilms(file: File): Promise<{ total: number }> {
  return expectData(api.POST("/api/shelf.csv", { body: { file: sent(file) }, bodySerializer: formOf }));
}

/** Starts a design from a line of lettering as wide as wanted. */
export function startLettering(width: string, use: Use, ground: Ground): Promise<Answer> {
  const art = {
    kind: "lettering",
    text: "Open evening",
    // Round and heavy: of most words nothing is too thin to cut or too narrow to weed.
    font: "comfortaa",
    film: "#1d2b53",
    fit_width_mm: width,
  } as const;
  return expectDesign(api.POST("/api/designs/plain", { body: { art, use, ground } }));
}

/** Puts another picture onto an open design's stack. */
export function addPicture(
  design: string,
  base: number,
  picture: File,
  width: string,
  signal: AbortSignal,
): Promise<Answer> {
  return expectDesign(
    api.POST("/api/designs/{design}/pictures", {
      params: { path: { design } },
      body: { picture: sent(picture), base, width },
      bodySerializer: formOf,
      signal,
    }),
  );
}

/** Shows a film patterned with a picture. */
export function addPattern(design: string, base: number, film: string, picture: File): Promise<Answer> {
  return expectDesign(
    api.POST("/api/designs/{design}/patterns", {
      params: { path: { design } },
      body: { picture: sent(picture), base, film },
      bodySerializer: formOf,
    }),
  );
}

/** Puts a font file on the shelf. */
export function addFont(font: File): Promise<Font> {
  return expectData(api.POST("/api/fonts", { body: { font: sent(font) }, bodySerializer: formOf }));
}

/** Whether an art comes as regions. */
export function hasRegions(art: Art): art is RegionArt {
  return "pins" in art;
}

/** Whether an art comes from a picture. */
export function isRaster(art: Art): art is PictureArt | LineArt {
  return "picture" in art;
}

/** Whether lettering or a shape is cut out of other films. */
export function isHole(art: Art): boolean {
  return !hasRegions(art) && art.film === null;
}

export function formOf(body: object): FormData {
  const form = new FormData();
  for (const [name, value] of Object.entries(body)) form.append(name, value instanceof Blob ? value : String(value));
  return form;
}
