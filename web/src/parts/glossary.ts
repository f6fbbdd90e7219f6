import forms from "../api/forms.gen.json";

export type Term = { word: string; also: string[]; meaning: string };
export const GLOSSARY = forms.glossary as Term[];

const escaped = (text: string) => text.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");

/** The words that stand in a text, in the order of the glossary. */
export function wordsIn(text: string): Term[] {
  return GLOSSARY.filter(({ word, also }) =>
    [word, ...also].some((name) => new RegExp(`(^|[^\\p{L}])${escaped(name)}(?![\\p{L}])`, "iu").test(text)),
  );
}

/** Those that hold what is searched for, in a name or else in the meaning. */
export function wordsLike(search: string): Term[] {
  const wanted = search.trim().toLowerCase();
  const named = GLOSSARY.filter(({ word, also }) =>
    [word, ...also].some((name) => name.toLowerCase().includes(wanted)),
  );
  return named.length ? named : GLOSSARY.filter(({ meaning }) => meaning.toLowerCase().includes(wanted));
}
