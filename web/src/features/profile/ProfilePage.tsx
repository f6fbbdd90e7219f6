import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { profileQuery } from "../../api/queries.ts";
import type { ProfileState } from "../../api/types.ts";
import { Frame } from "../../app/Frame.tsx";
import { useSession } from "../../app/session.ts";
import { School, Threshold } from "./Entries.tsx";
import { History, type Line } from "./History.tsx";
import { Revise } from "./Revise.tsx";
import { CHOICES, GROUPS, RULES, type Rule } from "./rules.ts";

/** Every threshold and every choice between schools, with its source; the lead changes them with a reason. */
export default function ProfilePage() {
  const { data, error } = useQuery(profileQuery);
  return (
    <Frame crumb="Practice profile">
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)] max-md:overflow-y-auto md:grid-cols-[minmax(0,1fr)_300px]">
        <main className="bg-sheet px-5 py-5 md:overflow-y-auto md:px-7">
          {error && <p className="note stop">{error.message}</p>}
          {data && <Sheet key={data.data.revision} profile={data.data} />}
        </main>
        <aside className="border-rule px-5 py-5 md:overflow-y-auto md:border-l" aria-label="History">
          <h2 className="text-soft">Changes so far</h2>
          {data && <History lines={data.data.history as Line[]} />}
        </aside>
      </div>
    </Frame>
  );
}

function Sheet({ profile }: { profile: ProfileState }) {
  const { me, system } = useSession();
  const owner = me.role === "owner";
  const [texts, setTexts] = useState<Record<string, string>>({});
  const [schools, setSchools] = useState<Record<string, string>>({});
  const changed = Object.keys(texts).length + Object.keys(schools).length;
  return (
    <>
      <h1>{profile.name}</h1>
      <p className="max-w-[640px] text-[14px] text-soft">
        The rules a job is judged by, each with its source. New jobs are judged by it; a job begun before keeps the
        profile it was begun with.{owner ? "" : " The owner changes it."}
      </p>
      {Object.entries(CHOICES).map(([id, choice]) => (
        <School
          key={id}
          choice={choice}
          id={id}
          value={schools[id] ?? profile.choices[id] ?? choice.default}
          disabled={!owner}
          onChange={(school) => setSchools({ ...schools, [id]: school })}
        />
      ))}
      {GROUPS.map(({ title, rules }) => (
        <section key={title} className="mt-5">
          <h2 className="border-b border-ink pb-1">{title}</h2>
          {rules.map((id) => (
            <Threshold
              key={id}
              id={id}
              rule={RULES[id] as Rule}
              own={profile.overrides[id]}
              text={texts[id]}
              system={system}
              disabled={!owner}
              onChange={(text) => setTexts({ ...texts, [id]: text })}
            />
          ))}
        </section>
      ))}
      {changed > 0 && <Revise profile={profile} texts={texts} schools={schools} changed={changed} />}
    </>
  );
}
