import { Popover } from "radix-ui";
import { type ReactNode, useState } from "react";

/** Words with a definition behind them: it shows on tap, and when the keyboard comes to them. */
export function Definition({ children, definition }: { children: ReactNode; definition: ReactNode }) {
  const [open, setOpen] = useState(false);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <button
          type="button"
          className="min-h-[53px] cursor-help text-left underline decoration-dotted underline-offset-4"
          onFocus={(e) => e.currentTarget.matches(":focus-visible") && setOpen(true)}
          onBlur={() => setOpen(false)}
        >
          {children}
        </button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="top"
          align="start"
          sideOffset={4}
          collisionPadding={8}
          onOpenAutoFocus={(e) => e.preventDefault()}
          className="z-50 max-w-xs border-2 border-ink bg-sheet p-3 font-sans text-base font-normal text-ink"
        >
          {definition}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
