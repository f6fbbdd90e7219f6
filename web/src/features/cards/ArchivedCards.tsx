import { CardDialog } from "./CardDialog.tsx";
import { KIND_WORDS, type Kind, useCards } from "./cards.ts";

/** What was archived, to be looked at and put back. */
export function ArchivedCards({ kinds }: { kinds: Kind[] }) {
  return (
    <section aria-label="Archived" className="mt-8">
      <h3 className="border-b border-ink pb-1">Archived</h3>
      {kinds.map((kind) => (
        <Some key={kind} kind={kind} />
      ))}
    </section>
  );
}

function Some({ kind }: { kind: Kind }) {
  const { rows, loaded, more } = useCards(kind, "", true);
  if (!loaded) return null;
  return (
    <>
      {rows.length === 0 && <p className="py-2 text-[15px] text-soft">No {KIND_WORDS[kind]}.</p>}
      <ul>
        {rows.map((row) => (
          <li key={row.id} className="flex items-center justify-between gap-3 border-b border-rule">
            <span>
              {row.title} <span className="text-soft">{row.below}</span>
            </span>
            <CardDialog kind={kind} id={row.id} label="Look at it" about={row.title} />
          </li>
        ))}
      </ul>
      {more && (
        <button type="button" className="btn quiet" onClick={more}>
          More
        </button>
      )}
    </>
  );
}
