import { Dialog as Radix } from "radix-ui";
import type { ReactNode } from "react";
import { Button } from "./Button";

interface Props {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  title: string;
  children: ReactNode;
}

/** A sheet over the page, with its title and a way out. */
export function Dialog({ open, onOpenChange, title, children }: Props) {
  return (
    <Radix.Root open={open} onOpenChange={onOpenChange}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-40 bg-board/60" />
        <Radix.Content
          aria-describedby={undefined}
          className="fixed inset-x-0 bottom-0 z-50 max-h-[92dvh] overflow-y-auto border-2 border-ink bg-paper p-4 sm:inset-x-auto sm:bottom-auto sm:left-1/2 sm:top-1/2 sm:w-[34rem] sm:-translate-x-1/2 sm:-translate-y-1/2"
        >
          <div className="mb-3 flex items-start justify-between gap-3">
            <Radix.Title className="text-xl">{title}</Radix.Title>
            <Radix.Close asChild>
              <Button weight="quiet">Close</Button>
            </Radix.Close>
          </div>
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
