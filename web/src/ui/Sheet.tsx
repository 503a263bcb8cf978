import { Dialog, DialogPanel, DialogTitle } from "@headlessui/react";
import type { ReactNode } from "react";
import { Button } from "./Parts";

interface SheetProps {
  title: string;
  open: boolean;
  onClose: () => void;
  /** For what needs two columns. */
  wide?: boolean;
  children: ReactNode;
}

/** A sheet over the page; Escape or its button closes it. */
export function Sheet({ title, open, onClose, children, wide = false }: SheetProps) {
  return (
    <Dialog open={open} onClose={onClose} className="relative z-40 outline-none">
      <div className="fixed inset-0 bg-ink/35" aria-hidden />
      <div className="fixed inset-0 flex items-start justify-center p-12">
        <DialogPanel
          className={`flex max-h-full w-full flex-col rounded-lg bg-paper shadow-xl ${wide ? "max-w-5xl" : "max-w-xl"}`}
        >
          <header className="flex items-baseline justify-between border-b border-line px-5 py-3">
            <DialogTitle className="font-head text-lg font-semibold">{title}</DialogTitle>
            <Button look="bare" onClick={onClose}>
              Close
            </Button>
          </header>
          <div className="overflow-auto px-5 py-4">{children}</div>
        </DialogPanel>
      </div>
    </Dialog>
  );
}
