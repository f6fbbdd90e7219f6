import { ChargeLines } from "../../job/ChargeLines.tsx";
import { History } from "./Sheet.tsx";

/** The charge in short, and what happened when. */
export function CloseOutSide() {
  return (
    <div>
      <ChargeLines />
      <h2 className="mt-5 text-soft">What happened</h2>
      <History />
    </div>
  );
}
