import { AlertDialog } from "radix-ui";
import type { ReactNode } from "react";

interface Props {
  open: boolean;
  title: string;
  says: string;
  children: ReactNode;
}

/** What has to be answered before anything else can be tapped: it closes by its own buttons alone. */
export function Alert({ open, title, says, children }: Props) {
  return (
    <AlertDialog.Root open={open}>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-40 bg-board/80" />
        <AlertDialog.Content className="fixed inset-x-0 bottom-0 z-50 grid max-h-[92dvh] gap-4 overflow-y-auto border-4 border-rust bg-paper p-4 sm:inset-x-auto sm:bottom-auto sm:left-1/2 sm:top-1/2 sm:w-[34rem] sm:-translate-x-1/2 sm:-translate-y-1/2">
          <AlertDialog.Title className="text-2xl text-rust">{title}</AlertDialog.Title>
          <AlertDialog.Description className="text-lg">{says}</AlertDialog.Description>
          {children}
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}
