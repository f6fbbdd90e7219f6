import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { client, take } from "../../api/client.ts";
import { PickFrom } from "../../parts/PickFrom.tsx";
import { useSettled } from "../../parts/useSettled.ts";
import { type CardState, KIND_WORDS, type MergePreview, mergeQuery, useCards, useCardWrite } from "./cards.ts";

/** The same thing entered twice: pick the other card, see what would go over, and merge. */
export function Merge({ card }: { card: CardState }) {
  const [search, setSearch] = useState("");
  const [other, setOther] = useState("");
  const { rows, hasMore } = useCards(card.kind, useSettled(search));
  const word = KIND_WORDS[card.kind];
  const others = rows.filter((row) => row.id !== card.id);
  return (
    <div>
      <h3>Entered twice?</h3>
      <p className="text-[15px] text-soft">
        Pick the other card of the same {word}. This one goes on; what hangs on the other comes over. It can be undone.
      </p>
      <PickFrom
        label={`the other ${word}`}
        none="none"
        value={other}
        rows={others.map((row) => ({
          key: String(row.id),
          text: [row.title, row.below].filter(Boolean).join(", "),
        }))}
        hasMore={hasMore}
        search={search}
        onSearch={setSearch}
        onPick={setOther}
      />
      {other && <Preview key={other} card={card} other={Number(other)} done={() => setOther("")} />}
    </div>
  );
}

function Preview({ card, other, done }: { card: CardState; other: number; done: () => void }) {
  const { data } = useQuery(mergeQuery(card.kind, card.id, other));
  const [once, setOnce] = useState(true);
  const { busy, refused, write } = useCardWrite();
  if (!data) return <p className="text-soft">Looking …</p>;
  if (data.refused) return <p className="note stop mt-2">{data.refused}</p>;
  const params = { path: { kind: card.kind, card: card.id } };
  const go = async () => {
    const body = { other, once_only: data.twice && once };
    const fit = await write((key) =>
      take(client.POST("/api/cards/{kind}/{card}/merge", { params, body: { key, ...body } })),
    );
    if (fit) done();
  };
  return (
    <div className="mt-2 border-l-4 border-copper pl-4 text-[15px]">
      <p>
        <b>{data.keeps}</b> goes on, <b>{data.goes}</b> leaves the lists.
      </p>
      <p>{movesOf(data)}</p>
      {data.differs.length > 0 && (
        <table className="table mt-2">
          <thead>
            <tr>
              <th>where they differ</th>
              <th>stays</th>
              <th>goes</th>
            </tr>
          </thead>
          <tbody>
            {data.differs.map((row) => (
              <tr key={row.label}>
                <td>{row.label}</td>
                <td>{row.kept || "nothing"}</td>
                <td>{row.gone || "nothing"}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {data.books && <p className="mt-2">{data.books}</p>}
      {data.twice && (
        <label className="flex min-h-[44px] items-center gap-3">
          <input
            type="checkbox"
            className="h-5 w-5 accent-[var(--copper)]"
            checked={once}
            onChange={(event) => setOnce(event.target.checked)}
          />
          Both begin with an opening balance: it is one charge, count it once
        </label>
      )}
      {refused.text && (
        <p className="note stop mt-2" role="alert">
          {refused.text}
        </p>
      )}
      <button type="button" className="btn go mt-3" disabled={busy} onClick={() => void go()}>
        Merge the two
      </button>
    </div>
  );
}

function movesOf({ moves }: MergePreview): string {
  if (moves.length === 0) return "Nothing hangs on the other.";
  return `Comes over: ${moves.map(({ what, count }) => `${what} ${count}`).join(", ")}.`;
}
