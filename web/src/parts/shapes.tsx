/** A verdict is a word, a shape and a colour, always the three together. */
import { shownWord } from "../api/fields.ts";
import type { Word } from "../api/types.ts";

const COLOURS: Record<Word, string> = { Holds: "text-holds", Wait: "text-wait", Stop: "text-stop", Open: "text-soft" };

export function Shape({ word, size = 16 }: { word: Word; size?: number }) {
  return (
    <svg width={size} height={size} viewBox="0 0 16 16" aria-hidden="true" className={`${COLOURS[word]} shrink-0`}>
      {word === "Holds" && (
        <>
          <circle cx="8" cy="8" r="7.5" fill="currentColor" />
          <path d="M4.2 8.2l2.6 2.7 5-5.4" stroke="var(--sheet)" strokeWidth="2" fill="none" />
        </>
      )}
      {word === "Wait" && <path d="M2 1h12L8 8l6 7H2l6-7z" fill="currentColor" />}
      {word === "Stop" && (
        <>
          <path d="M1 1h14v14H1z" fill="currentColor" />
          <path d="M4 8h8" stroke="var(--sheet)" strokeWidth="2.4" />
        </>
      )}
      {word === "Open" && <circle cx="8" cy="8" r="6.5" fill="none" stroke="currentColor" strokeWidth="1.6" />}
    </svg>
  );
}

export function VerdictBadge({ word, large, step }: { word: Word; large?: boolean; step?: string }) {
  return (
    <span
      data-verdict={word}
      className={`inline-flex items-center gap-2 font-semibold whitespace-nowrap ${COLOURS[word]} ${large ? "text-[21px]" : "text-[15px]"}`}
    >
      <Shape word={word} size={large ? 18 : 15} />
      {shownWord(word, step)}
    </span>
  );
}
