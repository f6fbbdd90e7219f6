import { useQueryClient } from "@tanstack/react-query";
import { client, newKey, take } from "../../api/client.ts";
import { reportOf } from "../../api/tasks.ts";
import { CsvImport } from "../../parts/CsvImport.tsx";
import { Dialog } from "../../ui/Dialog.tsx";
import { AddCard } from "../cards/AddCard.tsx";
import { ArchivedCards } from "../cards/ArchivedCards.tsx";

/** What can be added here by hand, in the order it hangs together, and what was put away. */
export function AddMenu({ onCircuit }: { onCircuit: (id: number) => void }) {
  const queries = useQueryClient();
  return (
    <Dialog
      title="Add to the systems"
      trigger={
        <button type="button" className="btn">
          Add
        </button>
      }
    >
      <p>A site has systems; a system has one circuit or more. Start with what is not here yet.</p>
      <p className="mt-4 flex flex-wrap gap-3">
        <AddCard kind="site" />
        <AddCard kind="system" />
        <AddCard kind="circuit" done={(card) => onCircuit(card.id)} />
        <CsvImport
          title="Systems from a CSV file"
          columns="site, system, circuit, name, refrigerant, factory_charge, kind, metering, included_length, altitude, serial, oil"
          write={(text, far) =>
            reportOf(take(client.POST("/api/systems/import", { body: { key: newKey(), text } })), far)
          }
          done={() => void queries.invalidateQueries({ queryKey: ["systems"] })}
        />
      </p>
      <ArchivedCards kinds={["site", "system", "circuit"]} />
    </Dialog>
  );
}
