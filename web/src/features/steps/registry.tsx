/** One line a step: its sheet and what stands on the tape beside it. */
import { type ComponentType, lazy } from "react";
import type { StepName } from "../../api/fields.ts";
import { CloseOutSheet } from "./close_out/Sheet.tsx";
import { CloseOutSide } from "./close_out/Side.tsx";
import { IdentifySheet } from "./identify/Sheet.tsx";
import { IdentifySide } from "./identify/Side.tsx";
import { VerifySheet } from "./verify/Sheet.tsx";
import { VerifySide } from "./verify/Side.tsx";
import { WeighInSheet } from "./weigh_in/Sheet.tsx";
import { WeighInSide } from "./weigh_in/Side.tsx";

export const STEPS: Record<StepName, { Sheet: ComponentType; Side: ComponentType }> = {
  identify: { Sheet: IdentifySheet, Side: IdentifySide },
  as_found: { Sheet: lazy(() => import("./as_found/Sheet.tsx")), Side: lazy(() => import("./as_found/Side.tsx")) },
  plan_change: {
    Sheet: lazy(() => import("./plan_change/Sheet.tsx")),
    Side: lazy(() => import("./plan_change/Side.tsx")),
  },
  leak_search: {
    Sheet: lazy(() => import("./leak_search/Sheet.tsx")),
    Side: lazy(() => import("./leak_search/Side.tsx")),
  },
  recover: { Sheet: lazy(() => import("./recover/Sheet.tsx")), Side: lazy(() => import("./recover/Side.tsx")) },
  repair: { Sheet: lazy(() => import("./repair/Sheet.tsx")), Side: lazy(() => import("./repair/Side.tsx")) },
  change_over: {
    Sheet: lazy(() => import("./change_over/Sheet.tsx")),
    Side: lazy(() => import("./change_over/Side.tsx")),
  },
  pressure_hold: {
    Sheet: lazy(() => import("./pressure_hold/Sheet.tsx")),
    Side: lazy(() => import("./pressure_hold/Side.tsx")),
  },
  evacuate: { Sheet: lazy(() => import("./evacuate/Sheet.tsx")), Side: lazy(() => import("./evacuate/Side.tsx")) },
  weigh_in: { Sheet: WeighInSheet, Side: WeighInSide },
  verify: { Sheet: VerifySheet, Side: VerifySide },
  close_out: { Sheet: CloseOutSheet, Side: CloseOutSide },
};
