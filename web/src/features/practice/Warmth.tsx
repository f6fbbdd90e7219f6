import { scaleLinear } from "d3-scale";
import type { LookInside, Units } from "../../api/types.ts";
import { factorOf, inUnit, inUnits, unitFor } from "../../format/quantity.ts";
import { places } from "./layout.ts";

const [LEFT, TOP, BOTTOM, HEIGHT] = [0, 20, 12, 262];
const HOT = new Set(["condenser", "receiver", "liquid_line"]);

/** Temperature along the circuit, on the same length as what is in it; the airs beside it dashed. */
export function Warmth({ inside, system, width }: { inside: LookInside; system: Units; width: number }) {
  const laid = new Map(places(inside, width).map((place) => [place.id, place]));
  const unit = unitFor("temperature", system);
  const all = [...inside.spots.map((spot) => spot.kelvin), ...inside.airs];
  const step = (system === "us" ? 20 : 10) * factorOf("temperature", unit);
  const [least, most] = [Math.min(...all) - step * 0.4, Math.max(...all) + step * 0.4];
  const y = scaleLinear([most, least], [TOP, HEIGHT - BOTTOM]);
  const at = (part: string, share: number) => {
    const place = laid.get(part);
    return place ? place.x + place.width * share : null;
  };
  const points = inside.spots.flatMap((spot) => {
    const x = at(spot.part, spot.share);
    return x === null ? [] : [{ ...spot, x, y: y(spot.kelvin) }];
  });
  const line = (wanted: (part: string) => boolean) => {
    const own = points.filter((point) => wanted(point.part));
    return own.map((point, n) => `${n ? "L" : "M"}${point.x.toFixed(1)} ${point.y.toFixed(1)}`).join("");
  };
  const [first, last] = [
    Math.ceil(inUnits([least], "temperature", unit)[0] ?? 0),
    inUnits([most], "temperature", unit)[0] ?? 0,
  ];
  const apart = system === "us" ? 20 : 10;
  const marks = Array.from({ length: 20 }, (_, n) => (Math.ceil(first / apart) + n) * apart).filter(
    (mark) => mark < last,
  );
  const kelvin = (mark: number) =>
    least +
    ((mark - (inUnits([least], "temperature", unit)[0] ?? 0)) * (most - least)) /
      (last - (inUnits([least], "temperature", unit)[0] ?? 0));
  const said = (value: number) => inUnit(value, "temperature", unit);
  const spot = (part: string, n: number) => points.filter((point) => point.part === part)[n];
  const discharge = spot("condenser", 0);
  const condensing = spot("condenser", 1);
  const liquid = spot("liquid_line", 0);
  const boiling = spot("evaporator", 0);
  const suction = spot("suction_line", 1);
  const compressor = spot("shell", 0);
  const [hotAir, coldAir] = inside.airs;
  const air = (part: string, value: number | undefined, name: string) => {
    const place = laid.get(part);
    if (!place || value === undefined) return null;
    return (
      <g>
        <line
          x1={place.x}
          x2={place.x + place.width}
          y1={y(value)}
          y2={y(value)}
          stroke="var(--edge)"
          strokeDasharray="6 4"
        />
        <text x={place.x + 8} y={y(value) + 17} fontSize="14" style={{ fill: "var(--soft)" }}>
          {name} {said(value)}
        </text>
      </g>
    );
  };
  return (
    <svg
      width={width}
      height={HEIGHT}
      role="img"
      aria-label={`Temperatures along the circuit, ${points.map((point) => said(point.kelvin)).join(", ")}`}
      data-testid="warmth"
    >
      {marks.map((mark) => (
        <g key={mark}>
          <line x1={LEFT} x2={width} y1={y(kelvin(mark))} y2={y(kelvin(mark))} stroke="var(--rule)" />
          <text x={width - 2} y={y(kelvin(mark)) - 4} fontSize="13" textAnchor="end" style={{ fill: "var(--soft)" }}>
            {mark}
          </text>
        </g>
      ))}
      {air("condenser", hotAir, "air")}
      {air("evaporator", coldAir, "air")}
      <path d={line((part) => HOT.has(part))} fill="none" stroke="var(--high)" strokeWidth="2.4" />
      <path
        d={line((part) => part === "evaporator" || part === "suction_line")}
        fill="none"
        stroke="var(--low)"
        strokeWidth="2.4"
      />
      {inside.running && suction && compressor && (
        <path
          d={`M${suction.x} ${suction.y}L${compressor.x} ${compressor.y}`}
          stroke="var(--ink)"
          strokeDasharray="2 3"
          fill="none"
        />
      )}
      {inside.running && liquid && boiling && (
        <path
          d={`M${spot("liquid_line", 1)?.x ?? 0} ${spot("liquid_line", 1)?.y ?? 0}L${boiling.x} ${boiling.y}`}
          stroke="var(--ink)"
          strokeDasharray="2 3"
          fill="none"
        />
      )}
      {inside.running && (
        <>
          <Named at={discharge} text="discharge" said={said} dx={8} dy={4} colour="var(--high)" />
          <Named at={condensing} text="condensing" said={said} dx={26} dy={-8} colour="var(--high)" />
          <Named at={liquid} text="liquid line" said={said} dx={16} dy={18} colour="var(--high)" />
          <Named at={boiling} text="boiling" said={said} dx={10} dy={-8} colour="var(--low)" />
          <Named at={suction} text="suction line" said={said} dx={-4} dy={-10} colour="var(--low)" end />
        </>
      )}
    </svg>
  );
}

type Spot = { x: number; y: number; kelvin: number };

function Named({
  at,
  text,
  said,
  dx,
  dy,
  colour,
  end,
}: {
  at: Spot | undefined;
  text: string;
  said: (kelvin: number) => string;
  dx: number;
  dy: number;
  colour: string;
  end?: boolean;
}) {
  if (!at) return null;
  return (
    <>
      <circle cx={at.x} cy={at.y} r="4" fill="var(--sheet)" stroke={colour} strokeWidth="1.8" />
      <text
        x={at.x + dx}
        y={at.y + dy}
        fontSize="14"
        fontWeight="620"
        textAnchor={end ? "end" : "start"}
        style={{ fill: colour }}
      >
        {text} {said(at.kelvin)}
      </text>
    </>
  );
}
