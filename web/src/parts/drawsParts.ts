import type { StepName } from "../api/fields.ts";

/** Steps done on a part of the circuit: they draw what is shut off above their sheet; at any other it stands under what is inside. */
export const DRAWS_PARTS: ReadonlySet<StepName> = new Set<StepName>(["repair", "pressure_hold", "evacuate"]);
