import type { PlaceRow } from "../../../api/types.ts";

const ZONES = { outdoor: [24, 322], lines: [322, 430], indoor: [430, 646] } as const;
const NAMES = { outdoor: "Outdoor", lines: "Lines", indoor: "Indoor" } as const;
const Y = { low: 96, high: 214 } as const;

/** The system as one loop, its places on it; what is left is numbered in the order of what to do. Hidden on a phone: the list says the same. */
export function LeakMap({
  places,
  chosen,
  onChoose,
}: {
  places: PlaceRow[];
  chosen: string | null;
  onChoose: (id: string) => void;
}) {
  const spots = place(places);
  return (
    <svg
      viewBox="0 0 670 302"
      width="100%"
      className="mt-2 max-md:hidden"
      role="img"
      aria-label="Map of the system with its places; the list below says the same"
    >
      {(["outdoor", "indoor"] as const).map((zone) => (
        <rect
          key={zone}
          x={ZONES[zone][0] - 12}
          y="30"
          width={ZONES[zone][1] - ZONES[zone][0] + 8}
          height="238"
          rx="5"
          fill="none"
          stroke="var(--edge)"
          strokeDasharray="5 4"
        />
      ))}
      {(["outdoor", "lines", "indoor"] as const).map((zone) => (
        <text
          key={zone}
          x={(ZONES[zone][0] + ZONES[zone][1]) / 2}
          y="20"
          textAnchor="middle"
          fontSize="14"
          fontWeight="640"
          style={{ fill: "var(--soft)" }}
        >
          {NAMES[zone]}
        </text>
      ))}
      <Pipe y={Y.low} colour="var(--low)" />
      <Pipe y={Y.high} colour="var(--high)" />
      <Coil x={36} colour="var(--high)" />
      <Coil x={634} colour="var(--low)" />
      {spots.map(({ place, x, y, above, named }) => (
        // biome-ignore lint/a11y/noStaticElementInteractions: a shortcut for the eye; the list below has the same as buttons
        <g key={place.id} className="cursor-pointer" onClick={() => onChoose(place.id)}>
          <Marker place={place} x={x} y={y} chosen={place.id === chosen} />
          {(named || place.id === chosen ? lines(place.label) : []).map((text, n, all) => (
            <text
              key={text}
              x={x}
              y={(above ? y - 22 - (all.length - 1) * 15 : y + 32) + n * 15}
              textAnchor="middle"
              fontSize="13.5"
              fontWeight={place.rank ? 640 : 450}
              style={{ fill: place.state === "hit" ? "var(--stop)" : "var(--ink)" }}
            >
              {text}
            </text>
          ))}
        </g>
      ))}
      <g fontSize="13">
        <circle cx="24" cy="290" r="7" fill="var(--holds)" />
        <text x="36" y="295">
          clean so far
        </text>
        <rect x="212" y="283" width="14" height="14" fill="var(--stop)" />
        <text x="232" y="295">
          leak
        </text>
        <circle cx="290" cy="290" r="7" fill="var(--sheet)" stroke="var(--ink)" />
        <text x="303" y="295">
          to do, in this order
        </text>
        <circle cx="450" cy="290" r="7" fill="none" stroke="var(--edge)" strokeDasharray="3 3" />
        <text x="463" y="295">
          not reachable
        </text>
      </g>
    </svg>
  );
}

/** A label on one line or two, so that neighbours do not meet. */
function lines(label: string): string[] {
  const text = label.split(",")[0] ?? label;
  const upper = text.charAt(0).toUpperCase() + text.slice(1);
  if (upper.length <= 11) return [upper];
  const middle = upper.lastIndexOf(" ", Math.ceil(upper.length * 0.62));
  return middle > 0 ? [upper.slice(0, middle), upper.slice(middle + 1)] : [upper];
}

const NAME_WIDTH = 52;
type Spot = { place: PlaceRow; x: number; y: number; above: boolean; named: boolean };

/** Places of one zone and side share its length; names stand by turns over and under the pipe, where there is room for them. */
function place(places: PlaceRow[]): Spot[] {
  const spots: Spot[] = [];
  for (const zone of ["outdoor", "lines", "indoor"] as const) {
    const [from, to] = ZONES[zone];
    const sides = { low: on(places, zone, "low"), high: on(places, zone, "high") };
    if (zone === "lines") spread(sides);
    for (const side of ["low", "high"] as const) {
      const here = sides[side];
      here.forEach((item, n) => {
        const x = from + ((n + 0.5) / here.length) * (to - from - 16) + (zone === "indoor" ? -2 : 6);
        const named = here.length * NAME_WIDTH <= to - from || item.state === "hit" || item.rank === 1;
        spots.push({ place: item, x, y: Y[side], above: n % 2 === 0, named });
      });
    }
  }
  return spots;
}

function on(places: PlaceRow[], zone: PlaceRow["zone"], side: PlaceRow["side"]): PlaceRow[] {
  return places.filter((p) => p.zone === zone && p.side === side).sort((a, b) => a.id.localeCompare(b.id));
}

/** Places somebody added stand in the lines, wherever they are: they share both pipes, so that their names can be read. */
function spread(sides: Record<PlaceRow["side"], PlaceRow[]>) {
  const added = sides.low.filter((p) => p.added);
  sides.low = sides.low.filter((p) => !added.includes(p));
  for (const place of added) (sides.low.length <= sides.high.length ? sides.low : sides.high).push(place);
}

function Pipe({ y, colour }: { y: number; colour: string }) {
  return (
    <g stroke={colour} strokeWidth="1.4">
      <line x1="36" x2="634" y1={y - 3.5} y2={y - 3.5} />
      <line x1="36" x2="634" y1={y + 3.5} y2={y + 3.5} />
    </g>
  );
}

function Coil({ x, colour }: { x: number; colour: string }) {
  return <line x1={x} x2={x} y1={Y.low} y2={Y.high} stroke={colour} strokeWidth="7" strokeDasharray="3 4" />;
}

function Marker({ place, x, y, chosen }: { place: PlaceRow; x: number; y: number; chosen: boolean }) {
  const ring = chosen ? <circle cx={x} cy={y} r="17" fill="none" stroke="var(--copper)" strokeWidth="2.5" /> : null;
  if (place.rank) {
    const first = place.rank === 1;
    return (
      <g>
        <circle
          cx={x}
          cy={y}
          r="12"
          fill={first ? "var(--copper)" : "var(--sheet)"}
          stroke={first ? "var(--copper)" : "var(--ink)"}
          strokeWidth="1.6"
        />
        <text
          x={x}
          y={y + 5}
          textAnchor="middle"
          fontSize="13.5"
          fontWeight="640"
          style={{ fill: first ? "var(--on-copper)" : "var(--ink)" }}
        >
          {place.rank}
        </text>
        {ring}
      </g>
    );
  }
  if (place.state === "hit")
    return (
      <g>
        <rect x={x - 11} y={y - 11} width="22" height="22" fill="var(--stop)" />
        <line x1={x - 6} x2={x + 6} y1={y} y2={y} stroke="var(--sheet)" strokeWidth="3" />
        {ring}
      </g>
    );
  if (place.state === "clean")
    return (
      <g>
        <circle cx={x} cy={y} r="11" fill="var(--holds)" />
        <path d={`M${x - 5} ${y}l4 4 7-8`} stroke="var(--sheet)" strokeWidth="2.4" fill="none" />
        {ring}
      </g>
    );
  return (
    <g>
      <circle cx={x} cy={y} r="11" fill="var(--paper)" stroke="var(--edge)" strokeWidth="1.6" strokeDasharray="3 3" />
      {ring}
    </g>
  );
}
