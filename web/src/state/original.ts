import type { LineArt, PictureArt } from "@/api/client";

/** Where the picture of an art is to be had as the art sees it: set straight, if it is. */
export function addressOf(art: PictureArt | LineArt): string {
  const straight = art.corners
    ? `?corners=${art.corners.flatMap(({ x, y }) => [inShort(x), inShort(y)]).join(",")}`
    : "";
  return `/api/pictures/${art.picture}${straight}`;
}

/** A share of a side to six places, never in powers of ten. */
function inShort(share: number): string {
  return share < 1e-5 ? "0" : String(Number(share.toFixed(6)));
}
