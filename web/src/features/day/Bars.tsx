import type { CSSProperties } from "react";
import type { SlotRow } from "../../api/types.ts";
import { clock } from "../../format/quantity.ts";

export const HATCH: CSSProperties = {
  backgroundImage: "repeating-linear-gradient(135deg, var(--tint2) 0 2px, transparent 2px 7px)",
};

const USUAL_PX = 620;
const LETTER_PX = 7;

type BarProps = { slot: SlotRow; x: (moment: string) => string; next: boolean; wide: number; free: number };

/** A task on the clock, what it waits for before it, and whose wait it fills; a word stands in it where there is room. */
export function Bar({ slot, x, next, wide, free }: BarProps) {
  const [start, end] = [new Date(slot.start).getTime(), new Date(slot.end).getTime()];
  const minutes = Math.round((end - start) / 60_000);
  if (minutes < 1) return null;
  const px = (from: number, until: number) => ((until - from) / wide) * USUAL_PX;
  const word = [slot.label, slot.short].find((name) => name && px(start, end) > name.length * LETTER_PX + 6);
  const fills = slot.fills ? `fills the wait of ${slot.fills}` : "";
  const said = [
    `${slot.label}, ${clock(slot.start)} to ${clock(slot.end)}`,
    !slot.hands && "runs alone",
    slot.waits_for && `waits for ${slot.waits_for} before`,
    fills,
  ].filter(Boolean);
  return (
    <>
      {slot.waits_from && (
        <Waiting
          from={slot.waits_from}
          until={slot.start}
          what={slot.waits_for}
          x={x}
          room={px(new Date(slot.waits_from).getTime(), start)}
        />
      )}
      <span
        role="img"
        aria-label={said.join(", ")}
        title={said.join(", ")}
        className={`absolute top-1/2 flex h-[28px] -translate-y-1/2 items-center justify-center overflow-hidden border border-ink text-[14px] whitespace-nowrap ${
          next ? "bg-copper font-semibold text-[var(--on-copper)]" : slot.hands ? "bg-[var(--tint2)]" : "bg-sheet"
        }`}
        style={{ left: x(slot.start), width: `calc(${x(slot.end)} - ${x(slot.start)})`, ...(slot.hands ? {} : HATCH) }}
      >
        {word && <span className={slot.hands ? "px-1" : "bg-sheet px-1"}>{word}</span>}
      </span>
      {fills && next && px(end, free) > (FILLS.length + 3) * LETTER_PX && (
        <span
          aria-hidden="true"
          className="absolute top-1/2 max-w-full -translate-y-1/2 truncate bg-sheet pl-2 text-[14px] font-semibold text-copper"
          style={{ left: x(slot.end), width: `calc(${x(new Date(free).toISOString())} - ${x(slot.end)})` }}
        >
          {px(end, free) > fills.length * LETTER_PX ? fills : FILLS}
        </span>
      )}
    </>
  );
}

type WaitingProps = { from: string; until: string; what: string; x: (moment: string) => string; room: number };

function Waiting({ from, until, what, x, room }: WaitingProps) {
  const said = `waits for ${what}`;
  return (
    <span
      role="img"
      aria-label={`${said}, ${clock(from)} to ${clock(until)}`}
      title={said}
      className="absolute top-1/2 flex h-[28px] -translate-y-1/2 items-center justify-center overflow-hidden border border-wait border-dashed text-[14px] whitespace-nowrap text-wait"
      style={{ left: x(from), width: `calc(${x(until)} - ${x(from)})` }}
    >
      {room > said.length * LETTER_PX + 6 ? said : room > 5 * LETTER_PX ? "waits" : ""}
    </span>
  );
}

const FILLS = "fills a wait";
