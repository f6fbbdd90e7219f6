import { DropdownMenu } from "radix-ui";
import type { ReactNode } from "react";

export type Choice = { id: string; text: string; note?: string; chosen?: boolean; onSelect: () => void };

/** A few things to do with what was pressed. */
export function Menu({ trigger, label, choices }: { trigger: ReactNode; label: string; choices: Choice[] }) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger asChild>{trigger}</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          aria-label={label}
          className="z-40 max-h-[70dvh] max-w-[340px] min-w-[190px] overflow-y-auto border border-ink bg-sheet py-1 text-[15px]"
        >
          <p className="lab px-4 py-1">{label}</p>
          {choices.map((choice) => (
            <DropdownMenu.Item
              key={choice.id}
              onSelect={choice.onSelect}
              className={`flex min-h-[44px] cursor-pointer flex-col justify-center px-4 py-1 data-highlighted:bg-tint ${choice.chosen ? "font-semibold" : ""}`}
            >
              <span>
                {choice.text}
                {choice.chosen && <span aria-hidden="true"> ✓</span>}
              </span>
              {choice.note && <span className="text-[14px] text-soft">{choice.note}</span>}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
