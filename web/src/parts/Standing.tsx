/** The standing of a claim: a word, a shape and a colour, always the three together. */
import type { Claim } from "../api/types.ts";
import { Shape } from "./shapes.tsx";

type Standing = Claim["standing"];

const SAID: Record<Standing, { word: string; colour: string }> = {
  shown: { word: "Shown", colour: "text-holds" },
  answered_for: { word: "Answered for", colour: "text-ink" },
  contradicted: { word: "Contradicted", colour: "text-stop" },
  not_yet: { word: "Not yet", colour: "text-soft" },
  not_in_question: { word: "Not in question", colour: "text-soft" },
};

function Mark({ standing, size }: { standing: Standing; size: number }) {
  if (standing === "shown") return <Shape word="Holds" size={size} />;
  if (standing === "contradicted") return <Shape word="Stop" size={size} />;
  if (standing === "not_yet") return <Shape word="Open" size={size} />;
  return (
    <svg width={size} height={size} viewBox="0 0 16 16" aria-hidden="true" className="shrink-0">
      {standing === "answered_for" ? (
        <g fill="none" stroke="currentColor">
          <rect x="1" y="1" width="14" height="14" rx="2.5" strokeWidth="1.6" />
          <path
            d="M3.6 9.4c1.4-4 2.6-4.6 2.8-3.4s-1.6 4.2-.6 4.2 1.6-2.4 2.4-2.4.4 1.6 1.2 1.6 1.4-1 2.8-1.2"
            strokeWidth="1.3"
          />
          <path d="M4 12.4h8" strokeWidth="1.1" />
        </g>
      ) : (
        <path d="M3 8h10" stroke="currentColor" strokeWidth="1.8" />
      )}
    </svg>
  );
}

export function StandingBadge({ standing, label }: { standing: Standing; label?: string }) {
  const { word, colour } = SAID[standing];
  return (
    <span data-standing={standing} className="inline-flex items-start gap-3">
      <span className={`mt-[3px] ${colour}`}>
        <Mark standing={standing} size={label ? 20 : 15} />
      </span>
      <span>
        {label && <b className="block text-[16px]">{label}</b>}
        <span className={`text-[14px] font-semibold ${colour}`}>{word}</span>
      </span>
    </span>
  );
}
