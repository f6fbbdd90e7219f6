import type { ComponentProps } from "react";
import type { Choice } from "./Menu.tsx";
import type { Touch } from "./useTouch.ts";

export const OPENINGS: Record<string, string> = { shut: "shut", cracked: "just cracked", open: "open" };
/** A bar along the pipe is open, across it shut, between them just cracked; the pipe lies level. */
const TURNED: Record<string, number> = { open: 0, cracked: -60, shut: 90 };

/** A valve's hexagon with its bar, drawn about 0, 0. What it is asked for and is not yet is dashed. */
export function Hexagon({
  to,
  pending,
  upright = false,
  colour,
  ...rest
}: { to: string; pending: boolean; upright?: boolean; colour: string } & ComponentProps<"g">) {
  const lit = to !== "shut" ? "var(--line)" : "var(--ink)";
  return (
    <g {...rest} className="cursor-pointer outline-none focus-visible:[&>path]:stroke-[4]">
      <rect x="-28" y="-28" width="56" height="56" fill="transparent" />
      <path
        d="M-11.5 -20h23l11.5 20-11.5 20h-23L-23 0z"
        fill="var(--sheet)"
        stroke={colour}
        strokeWidth={to === "shut" ? 1.6 : 2.4}
        strokeDasharray={pending ? "4 3" : undefined}
      />
      <rect
        x="-15"
        y="-4"
        width="30"
        height="8"
        rx="1.5"
        fill={to === "cracked" ? "var(--copper)" : lit}
        transform={`rotate(${(TURNED[to] ?? 90) + (upright ? 90 : 0)})`}
      />
    </g>
  );
}

/** How a valve can be turned; a port has nothing between shut and open. */
export const openingsOf = (id: string, stands: string, touch: Touch, port = false): Choice[] =>
  Object.entries(OPENINGS)
    .filter(([opening]) => !port || opening !== "cracked")
    .map(([opening, text]) => ({
      id: opening,
      text,
      chosen: stands === opening,
      onSelect: () => touch("valve", id, opening),
    }));
