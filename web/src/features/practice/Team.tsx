import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, saidOf, take } from "../../api/client.ts";
import { peopleQuery } from "../../api/queries.ts";
import type { ExerciseRow } from "../../api/types.ts";
import { useSession } from "../../app/session.ts";
import { day, show } from "../../format/quantity.ts";
import { WhyNot } from "../../parts/WhyNot.tsx";
import { Dialog } from "../../ui/Dialog.tsx";
import { teamQuery } from "./queries.ts";

/** What a lead has of practice: give an exercise to people, and see what they did. */
export function Team({ exercises }: { exercises: ExerciseRow[] }) {
  const { data } = useQuery(teamQuery);
  const { system } = useSession();
  return (
    <section className="mt-8 border-t-2 border-ink pt-3" aria-label="The shop's people" data-testid="team">
      <div className="flex items-baseline justify-between gap-4">
        <h2 className="text-[17px]">The shop's people</h2>
        <Give exercises={exercises} />
      </div>
      {data?.length === 0 && <p className="text-soft">Nobody has ended a run yet.</p>}
      {data && data.length > 0 && (
        <table className="table mt-2">
          <thead>
            <tr>
              <th>who</th>
              <th>exercise</th>
              <th>when</th>
              <th>how close</th>
            </tr>
          </thead>
          <tbody>
            {data.slice(0, 40).map((row) => (
              <tr key={`${row.person} ${row.name} ${row.ended_at}`}>
                <td>{row.person}</td>
                <td>
                  {row.name}
                  {row.test ? ", test" : ""}
                </td>
                <td>{row.ended_at ? day(row.ended_at) : ""}</td>
                <td>
                  {row.shared
                    ? `${row.met ? "all marks met" : "not yet"}${row.off_kg === null ? "" : `, ${show(row.off_kg, "mass", system)} off`}`
                    : "not shared"}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <p className="mt-2 text-[14px] text-soft">How close somebody was is theirs to share, and to take back.</p>
    </section>
  );
}

function Give({ exercises }: { exercises: ExerciseRow[] }) {
  const [open, setOpen] = useState(false);
  const { data } = useQuery({ ...peopleQuery, enabled: open });
  const [which, setWhich] = useState("");
  const [to, setTo] = useState<string[]>([]);
  const [said, setSaid] = useState("");
  const row = exercises.find((one) => (one.shipped || String(one.own)) === which);
  const give = () => {
    if (!row) return;
    const body = { shipped: row.shipped, own: row.own, to };
    take(client.POST("/api/practice/give", { body }))
      .then((done) => setSaid(done.people === 1 ? "Given to one person." : `Given to ${done.people} people.`))
      .catch((error) => setSaid(saidOf(error)));
  };
  return (
    <Dialog
      open={open}
      onOpenChange={setOpen}
      title="Give an exercise"
      trigger={
        <button type="button" className="btn quiet">
          Give an exercise
        </button>
      }
    >
      <label className="block">
        <span className="lab">Which</span>
        <select className="control" value={which} onChange={(event) => setWhich(event.target.value)}>
          <option value="" disabled>
            choose
          </option>
          {exercises.map((one) => (
            <option key={one.shipped || one.own} value={one.shipped || String(one.own)}>
              {one.card.number ? `${one.card.number}. ` : ""}
              {one.card.name}
            </option>
          ))}
        </select>
      </label>
      <fieldset className="mt-4">
        <legend className="lab">To</legend>
        <div className="mt-1 flex flex-wrap gap-2">
          {data?.people.map((person) => (
            <label key={person.username} className="pick">
              <input
                type="checkbox"
                className="sr-only"
                checked={to.includes(person.username)}
                onChange={(event) =>
                  setTo((before) =>
                    event.target.checked
                      ? [...before, person.username]
                      : before.filter((one) => one !== person.username),
                  )
                }
              />
              {person.name}
            </label>
          ))}
        </div>
      </fieldset>
      {said && (
        <p className="mt-3" role="status">
          {said}
        </p>
      )}
      <button type="button" className="btn go mt-4" disabled={!row || !to.length} onClick={give}>
        Give it
      </button>
      <WhyNot unless={Boolean(row && to.length)}>choose the exercise and who gets it</WhyNot>
    </Dialog>
  );
}
