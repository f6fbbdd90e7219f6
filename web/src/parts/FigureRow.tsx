import type { ReactNode } from "react";
import type { Figure, System } from "../api/types.ts";
import { worded } from "../format/message.ts";
import { show, showSpread } from "../format/quantity.ts";
import { Why } from "./Why.tsx";

/** The few numbers that matter now, side by side. */
export function FigureRow({ children }: { children: ReactNode }) {
  return <div className="mt-3 flex flex-wrap gap-x-8 border-y border-rule py-1">{children}</div>;
}

const CELL = "block min-h-[62px] py-1 text-left";

/** One of them: what it is, and the number large. */
export function Big({ label, children, accent }: { label: string; children: ReactNode; accent?: boolean }) {
  return (
    <p className={CELL}>
      <span className="lab block">{label}</span>
      <span className={`num block text-[22px] leading-[30px] whitespace-nowrap ${accent ? "text-copper" : ""}`}>
        {children}
      </span>
    </p>
  );
}

/** A figure of the step; a tap opens its formula. */
export function BigFigure({ figure, label, system }: { figure: Figure | undefined; label?: string; system: System }) {
  if (!figure) return null;
  return (
    <Why figure={figure} system={system} className={CELL}>
      <span className="lab block">
        {label ?? worded(figure.label, system)} <span className="text-copper underline">Why</span>
      </span>
      <span className="num block text-[22px] leading-[30px] whitespace-nowrap">
        {show(figure.amount.value, figure.amount.quantity, system)}{" "}
        <small className="text-[14px] font-medium text-soft">{showSpread(figure.amount, system)}</small>
      </span>
    </Why>
  );
}
