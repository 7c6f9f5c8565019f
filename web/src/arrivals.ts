import { useEffect, useState } from "react";

/** Hears of files dropped or pasted anywhere on the page; tells whether some are held over it. */
export function useArrivals(take: (files: File[]) => void): boolean {
  const [over, setOver] = useState(false);
  useEffect(() => {
    const onPaste = (event: ClipboardEvent) => {
      const pasted = [...(event.clipboardData?.files ?? [])];
      const drawing = pasted.length === 0 ? drawingIn(event) : undefined;
      if (drawing) pasted.push(drawing);
      if (pasted.length > 0) take(pasted);
    };
    const carriesFile = (event: DragEvent) => event.dataTransfer?.types.includes("Files") ?? false;
    const onOver = (event: DragEvent) => {
      if (!carriesFile(event)) return;
      event.preventDefault();
      setOver(true);
    };
    const onLeave = (event: DragEvent) => {
      if (event.relatedTarget === null) setOver(false);
    };
    const onDrop = (event: DragEvent) => {
      if (!carriesFile(event)) return;
      event.preventDefault();
      setOver(false);
      const dropped = [...(event.dataTransfer?.files ?? [])];
      if (dropped.length > 0) take(dropped);
    };
    window.addEventListener("paste", onPaste);
    window.addEventListener("dragover", onOver);
    window.addEventListener("dragleave", onLeave);
    window.addEventListener("drop", onDrop);
    return () => {
      window.removeEventListener("paste", onPaste);
      window.removeEventListener("dragover", onOver);
      window.removeEventListener("dragleave", onLeave);
      window.removeEventListener("drop", onDrop);
    };
  }, [take]);
  return over;
}

/** A drawing that was copied as text, unless it is pasted into a field. */
function drawingIn(event: ClipboardEvent): File | undefined {
  if (event.target instanceof HTMLElement && event.target.closest("input, textarea, [contenteditable]")) return;
  const text = (
    event.clipboardData?.getData("image/svg+xml") ||
    event.clipboardData?.getData("text/plain") ||
    ""
  ).trim();
  return /^(<\?xml|<!--|<!DOCTYPE svg|<svg)/i.test(text) && text.includes("<svg")
    ? new File([text], "pasted.svg", { type: "image/svg+xml" })
    : undefined;
}
