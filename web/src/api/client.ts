import createClient from "openapi-fetch";
import type { components, paths } from "./schema";

type Schemas = components["schemas"];
export type Design = Schemas["DesignView"];
export type Built = Schemas["BuiltView"];
export type Layer = Schemas["LayerView"];
export type Joint = Schemas["JointView"];
export type Colour = Schemas["ColourView"];
export type DesignLine = Schemas["DesignLineView"];
export type Edit = Schemas["MadeEdit"]["edit"];
export type Method = "adhesive" | "heat-transfer";
export type JointKind = Joint["kind"];

export const api = createClient<paths>();

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

interface Answer<T> {
  data?: T;
  error?: unknown;
}

/** The data of an answer; throws a ProblemError otherwise. */
export async function expectData<T>(answer: Promise<Answer<T>>): Promise<T> {
  let got: Answer<T>;
  try {
    got = await answer;
  } catch {
    throw new ProblemError("offline", "The app's own server does not answer.", "Start it again; nothing is lost.");
  }
  if (got.data !== undefined) return got.data;
  const problem = got.error as { code?: string; detail?: string; remedy?: string } | undefined;
  throw new ProblemError(problem?.code ?? "fault", problem?.detail ?? "Something failed.", problem?.remedy ?? "");
}

/** Starts a design from a picture file. */
export function startDesign(picture: File, width: string, method: Method): Promise<Design> {
  return expectData(
    api.POST("/api/designs", {
      // The generated type takes an uploaded file for text.
      body: { picture: picture as unknown as string, width, method },
      bodySerializer(body) {
        const form = new FormData();
        form.append("picture", picture, picture.name);
        form.append("width", body.width);
        form.append("method", body.method);
        return form;
      },
    }),
  );
}
