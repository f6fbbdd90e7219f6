/** Where each part of the circuit lies when it is laid out flat: as wide as its room inside. */
import type { LookInside } from "../../api/types.ts";

export const NAMES: Record<string, string> = {
  condenser: "condenser",
  receiver: "receiver",
  liquid_line: "liquid line",
  evaporator: "evaporator",
  suction_line: "suction line",
  accumulator: "accumulator",
  shell: "compressor",
};
const GAP = 7;
const LEAST = 16;

export type Place = { id: string; x: number; width: number };

/** The places of the parts over a width; even the smallest can be seen. */
export function places(inside: LookInside, width: number): Place[] {
  const free = Math.max(width - GAP * (inside.parts.length - 1), 100);
  const whole = inside.parts.reduce((sum, part) => sum + part.volume_m3, 0);
  const rest = free - LEAST * inside.parts.length;
  let x = 0;
  return inside.parts.map((part) => {
    const place = { id: part.id, x, width: LEAST + (rest * part.volume_m3) / whole };
    x += place.width + GAP;
    return place;
  });
}
