import { useEffect, useState } from "react";

export interface Original {
  readonly picture: ImageBitmap;
  /** `#rrggbb` at a place given as shares of width and height: the middle one of its 3 x 3 pixels; null outside. */
  colourAt(x: number, y: number): string | null;
}

/** The pictures as they were brought in, by address, each decoded once. */
export function useOriginals(addresses: readonly string[]): ReadonlyMap<string, Original> {
  const [originals, setOriginals] = useState<ReadonlyMap<string, Original>>(new Map());
  const wanted = addresses.join(" ");
  useEffect(() => {
    let gone = false;
    for (const address of wanted.split(" ").filter(Boolean)) {
      void fetch(address)
        .then((answer) => answer.blob())
        .then((blob) => createImageBitmap(blob, { colorSpaceConversion: "none" }))
        .then((picture) => {
          if (!gone) setOriginals((known) => new Map(known).set(address, readable(picture)));
        });
    }
    return () => {
      gone = true;
    };
  }, [wanted]);
  return originals;
}

function readable(picture: ImageBitmap): Original {
  const canvas = new OffscreenCanvas(picture.width, picture.height);
  const context = canvas.getContext("2d", { willReadFrequently: true });
  context?.drawImage(picture, 0, 0);
  return {
    picture,
    colourAt(x, y) {
      const [px, py] = [Math.floor(x * picture.width), Math.floor(y * picture.height)];
      if (!context || px < 0 || py < 0 || px >= picture.width || py >= picture.height) return null;
      const [left, top] = [Math.max(0, px - 1), Math.max(0, py - 1)];
      const w = Math.min(picture.width, px + 2) - left;
      const h = Math.min(picture.height, py + 2) - top;
      const { data } = context.getImageData(left, top, w, h);
      if ((context.getImageData(px, py, 1, 1).data[3] ?? 0) < 128) return null;
      const middle = (channel: number) => {
        const values = Array.from({ length: w * h }, (_, k) => data[4 * k + channel] ?? 0).sort((a, b) => a - b);
        return values[values.length >> 1] ?? 0;
      };
      return `#${[0, 1, 2].map((channel) => middle(channel).toString(16).padStart(2, "0")).join("")}`;
    },
  };
}
