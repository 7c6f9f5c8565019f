import { type Answer, api, expectData, expectDesign, formOf, sent } from "./client";
import type { components } from "./schema";

export type Replacing = components["schemas"]["ReplacingView"];
export type Laid = Replacing["edit"]["laid"];

/** What an art would be from another file, laid as told or, with nothing told, as it lies best. */
export function lookAtReplacing(
  design: string,
  art: string,
  base: number,
  file: File,
  laid: Laid | null,
  signal: AbortSignal,
): Promise<Replacing> {
  return expectData(
    api.POST("/api/designs/{design}/arts/{art}/replacing", {
      params: { path: { design, art } },
      // Fields that hold more than text are sent as JSON.
      body: { file: sent(file), base, ...(laid && { laid: JSON.stringify(laid) as never }) },
      bodySerializer: formOf,
      signal,
    }),
  );
}

/** Makes an art of another file, as it was looked at. */
export function replaceSource(
  design: string,
  base: number,
  edit: Replacing["edit"],
  file: File,
  signal: AbortSignal,
): Promise<Answer> {
  return expectDesign(
    api.POST("/api/designs/{design}/source", {
      params: { path: { design } },
      body: { file: sent(file), base, edit: JSON.stringify(edit) as never },
      bodySerializer: formOf,
      signal,
    }),
  );
}
