import { Dialog } from "radix-ui";
import type { ReactNode } from "react";

interface ModalProps {
  title: string;
  onClose(): void;
  width?: string;
  children: ReactNode;
}

/** A sheet over everything else, until it is answered or closed. */
export function Modal({ title, onClose, width = "w-[26rem]", children }: ModalProps) {
  return (
    <Dialog.Root open onOpenChange={(open) => !open && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/25" />
        <Dialog.Content
          aria-describedby={undefined}
          className={`fixed top-24 left-1/2 z-50 max-h-[80vh] max-w-[94vw] -translate-x-1/2 overflow-y-auto rounded-lg border border-line bg-paper p-5 shadow-lg ${width}`}
        >
          <Dialog.Title className="mb-3 text-lg font-semibold break-words">{title}</Dialog.Title>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
