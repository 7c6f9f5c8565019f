import { type ReactNode, type RefObject, useRef } from "react";

export const PICTURES =
  "image/png,image/jpeg,image/gif,image/webp,image/bmp,image/tiff,image/avif,image/heic,.tif,.tiff,.avif,.heic,.heif";
export const DRAWINGS = `${PICTURES},image/svg+xml,.svg,.svgz,.dxf,.pdf,.ai,.plt,.hpgl`;

interface FilePickerProps {
  label: string;
  accept: string;
  onFile(file: File): void;
  children: ReactNode;
  className?: string;
  disabled?: boolean;
  /** Gives the hidden field to whoever else opens it. */
  field?: RefObject<HTMLInputElement | null>;
}

/** A button that asks for one file. */
export function FilePicker({ label, accept, onFile, children, className = "act", disabled, field }: FilePickerProps) {
  const own = useRef<HTMLInputElement>(null);
  const input = field ?? own;
  return (
    <>
      <input
        ref={input}
        type="file"
        aria-label={label}
        accept={accept}
        className="sr-only"
        tabIndex={-1}
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) onFile(file);
          event.target.value = "";
        }}
      />
      <button type="button" className={className} disabled={disabled} onClick={() => input.current?.click()}>
        {children}
      </button>
    </>
  );
}
