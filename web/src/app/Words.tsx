import { useState } from "react";
import { Field } from "../parts/Field.tsx";
import { GLOSSARY, type Term, wordsIn, wordsLike } from "../parts/glossary.ts";
import { Dialog } from "../ui/Dialog.tsx";

/** The trade's words a press away: those of this page first, then all. */
export function Words() {
  const [here, setHere] = useState<Term[]>([]);
  const [search, setSearch] = useState("");
  const look = (open: boolean) => {
    if (!open) return;
    setSearch("");
    setHere(wordsIn(document.querySelector("main")?.textContent ?? ""));
  };
  const rest = GLOSSARY.filter((term) => !here.includes(term));
  return (
    <Dialog
      title="What the words mean"
      onOpenChange={look}
      trigger={
        <button type="button" className="chip" aria-label="What the words mean">
          ?
        </button>
      }
    >
      <Field label="find" value={search} onChange={setSearch} hint="a word, or a part of it" />
      {search.trim() ? (
        <List terms={wordsLike(search)} />
      ) : (
        <>
          {here.length > 0 && (
            <section aria-label="On this page">
              <h3>On this page</h3>
              <List terms={here} />
            </section>
          )}
          <section aria-label="All other words" className="mt-6">
            <h3>{here.length ? "All other words" : "All words"}</h3>
            <List terms={rest} />
          </section>
        </>
      )}
    </Dialog>
  );
}

function List({ terms }: { terms: Term[] }) {
  if (!terms.length) return <p className="mt-2 text-soft">No word here is like that.</p>;
  return (
    <dl>
      {terms.map((term) => (
        <div key={term.word} className="border-b border-rule py-2">
          <dt className="text-[16px] font-semibold">
            {term.word}
            {term.also.length > 0 && <span className="font-normal text-soft"> · {term.also.join(", ")}</span>}
          </dt>
          <dd className="text-[16px]">{term.meaning}</dd>
        </div>
      ))}
    </dl>
  );
}
