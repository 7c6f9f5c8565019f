import { create } from "zustand";

/** What a file that is dropped or pasted is for. */
export type Arrival = "parcel" | "font" | "films" | "names" | "art";

const HEAD_BYTES = 4096;

/** What a file is for: told by its name and kind; of a table by what stands in its first line. */
export async function arrivalOf(file: File): Promise<Arrival> {
  if (/\.zip$/i.test(file.name)) return "parcel";
  if (/\.(ttf|otf|woff2?)$/i.test(file.name)) return "font";
  if (/\.(csv|tsv|txt)$/i.test(file.name) || /^text\/(csv|plain|tab-separated-values)$/.test(file.type))
    return tableOf(await file.slice(0, HEAD_BYTES).text());
  return "art";
}

/** Whether a table tells of films for the shelf, by the heads of its columns, or else of names. */
export function tableOf(text: string): "films" | "names" {
  const [first = ""] = text.replace(/^\uFEFF/, "").split(/\r?\n/, 1);
  const heads = first.split(/[,;\t]/).map((head) => head.trim().replaceAll('"', "").toLowerCase());
  return heads.includes("name") && heads.includes("colour") && heads.includes("kind") ? "films" : "names";
}

interface HandedState {
  /** A list of names that was dropped, until its page takes it. */
  list: File | null;
  hand(list: File | null): void;
}

export const useHanded = create<HandedState>()((set) => ({ list: null, hand: (list) => set({ list }) }));
