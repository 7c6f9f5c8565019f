import type { LineArt, PictureArt } from "@/api/client";

/** Where the picture of an art is to be had as the art sees it: set straight, and the part of it that is framed. */
export function addressOf({
  picture,
  corners,
  frame,
}: Pick<PictureArt | LineArt, "picture" | "corners" | "frame">): string {
  const asked = [
    corners && `corners=${corners.flatMap(({ x, y }) => [inShort(x), inShort(y)]).join(",")}`,
    frame && `frame=${[frame.left, frame.top, frame.right, frame.bottom].map(inShort).join(",")}`,
  ].filter(Boolean);
  return `/api/pictures/${picture}${asked.length > 0 ? `?${asked.join("&")}` : ""}`;
}

/** A share of a side to six places, never in powers of ten. */
function inShort(share: number): string {
  return share < 1e-5 ? "0" : String(Number(share.toFixed(6)));
}
