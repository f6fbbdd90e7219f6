import { useState } from "react";

/** What is typed and cannot be kept yet, a time half written: it outlives a reload of this tab, and goes when the field is left. */
export function usePending(place: string): [string | null, (text: string | null) => void] {
  const key = `typing ${place}`;
  const [text, setText] = useState(() => sessionStorage.getItem(key));
  const keep = (next: string | null) => {
    setText(next);
    if (next === null) sessionStorage.removeItem(key);
    else sessionStorage.setItem(key, next);
  };
  return [text, keep];
}
