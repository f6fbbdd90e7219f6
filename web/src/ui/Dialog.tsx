import { Dialog as Radix } from "radix-ui";
import type { ReactNode } from "react";

/** A sheet over the page: at the right on a desk, from below on a phone. Escape closes it. */
export function Dialog({
  trigger,
  title,
  children,
  open,
  onOpenChange,
}: {
  trigger?: ReactNode;
  title: string;
  children: ReactNode;
  open?: boolean;
  onOpenChange?: (open: boolean) => void;
}) {
  return (
    <Radix.Root open={open} onOpenChange={onOpenChange}>
      {trigger && <Radix.Trigger asChild>{trigger}</Radix.Trigger>}
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-20 bg-black/40" />
        <Radix.Content
          aria-describedby={undefined}
          className="fixed z-30 overflow-y-auto border-copper bg-sheet p-6 text-ink shadow-xl max-md:inset-x-0 max-md:bottom-0 max-md:max-h-[85dvh] max-md:border-t-2 md:inset-y-0 md:right-0 md:w-[560px] md:border-l-2"
        >
          <div className="mb-3 flex items-start justify-between gap-4">
            <Radix.Title className="text-[19px] font-semibold text-copper">{title}</Radix.Title>
            <Radix.Close className="btn quiet -mt-2">Esc closes</Radix.Close>
          </div>
          {children}
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}
