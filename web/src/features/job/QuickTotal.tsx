import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { Refused } from "../../api/client.ts";
import { refrigerantsQuery } from "../../api/queries.ts";
import { EntryField, TextField } from "../../fields/index.ts";
import { fill } from "../../format/message.ts";
import { useJob, useRows, useStep } from "../../job/context.ts";
import { JobNaming, namingBody } from "../../parts/JobNaming.tsx";
import { Dialog } from "../../ui/Dialog.tsx";
import { IdentifySide } from "../steps/identify/Side.tsx";
import { ActOn } from "../steps/weigh_in/Sheet.tsx";

/** Plate, line, cylinder: the mark, without a site or a customer. Kept, and made a job at a tap. */
export function QuickTotal() {
  const { data } = useQuery(refrigerantsQuery);
  const [line] = useRows("identify", "lines", ["l1"]);
  const [draw] = useRows("weigh_in", "draws", ["d1"]);
  const l = line ?? "l1";
  const d = draw ?? "d1";
  return (
    <div className="grid gap-8 md:grid-cols-[minmax(0,1fr)_300px]">
      <div className="max-md:order-2">
        <h1>Quick total</h1>
        <p className="text-[14px] text-soft">Plate, line, cylinder. It is kept, and becomes a job at a tap.</p>
        <div className="mt-3 grid grid-cols-2 gap-x-5 lg:grid-cols-3">
          <TextField step="identify" keys={["refrigerant"]} list={data?.data.map((r) => r.name)} hint="as stamped" />
          <EntryField step="identify" keys={["factory_charge"]} hint="9 lb 4 oz, 148 oz, kg" />
          <EntryField step="identify" keys={["included_length"]} />
          <EntryField step="identify" keys={["lines", l, "length"]} label="line, one way" />
          <EntryField step="identify" keys={["lines", l, "liquid_od"]} hint="3/8 in or mm" />
          <EntryField
            step="identify"
            keys={["lines", l, "suction_od"]}
            hint="may stay empty; it then says what that is worth"
          />
          <EntryField step="identify" keys={["lines", l, "allowance"]} hint="if empty: from the tube size" />
        </div>
        <LeftOut />
        <h2 className="mt-3 border-b border-ink pb-1">Cylinder on the scale</h2>
        <div className="mt-2 grid grid-cols-2 gap-x-5 lg:grid-cols-3">
          <EntryField step="weigh_in" keys={["draws", d, "gross_start"]} />
          <EntryField step="weigh_in" keys={["draws", d, "tare"]} hint="stamped TW" />
          <EntryField step="weigh_in" keys={["draws", d, "hose_loss"]} hint="0 if the hose stays full" />
        </div>
        <MakeJob />
      </div>
      <div className="max-md:order-1">
        <IdentifySide />
        <div className="mt-4 border-t-2 border-copper pt-3">
          <ActOn />
        </div>
      </div>
    </div>
  );
}

/** What the vapour line would add that nobody typed. */
function LeftOut() {
  const { system } = useJob();
  const { verdict } = useStep("identify");
  const said = verdict.reasons.find((reason) => reason.rule_id === "identify.left_out");
  return said ? <p className="text-[15px]">{fill(said.message, system)}</p> : null;
}

function MakeJob() {
  const { answer, sendNow, act } = useJob();
  const navigate = useNavigate();
  const [open, setOpen] = useState(false);
  const [naming, setNaming] = useState({ title: "", circuit: "" });
  const [refused, setRefused] = useState("");
  const go = async () => {
    try {
      await sendNow();
      await act({ act: "adopt", ...namingBody(naming) });
      navigate(`/job/${answer.code}/identify`);
    } catch (error) {
      setRefused(
        error instanceof Refused
          ? error.message
          : "No answer from the server, and the rules are not on this device. The quick total is kept; try again when there is signal.",
      );
    }
  };
  return (
    <Dialog
      open={open}
      onOpenChange={setOpen}
      title="Make it a job"
      trigger={
        <button type="button" className="btn go mt-4">
          Make it a job
        </button>
      }
    >
      <JobNaming value={naming} onChange={setNaming} />
      {refused && (
        <p className="note stop mt-3" role="alert">
          {refused}
        </p>
      )}
      <button type="button" className="btn go mt-4" onClick={() => void go()}>
        Make it a job
      </button>
    </Dialog>
  );
}
