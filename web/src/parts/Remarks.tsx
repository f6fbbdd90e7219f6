import type { Message, System } from "../api/types.ts";
import { fill } from "../format/message.ts";

/** What a step remarks beside its verdict, one line each; nothing where there is none. */
export function Remarks({ notes, system }: { notes: Message[]; system: System }) {
  if (!notes.length) return null;
  return (
    <ul className="mt-3 grid gap-1 text-[14px]">
      {notes.map((note) => (
        <li key={note.text} className="border-l-4 border-[var(--edge)] pl-3">
          {fill(note, system)}
        </li>
      ))}
    </ul>
  );
}
