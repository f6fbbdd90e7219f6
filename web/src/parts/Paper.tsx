import type { ReactNode } from "react";

/** A page that is meant to be printed: plain flow, its button left off the paper. */
export function Paper({ title, children }: { title: string; children: ReactNode }) {
  return (
    <main className="mx-auto min-h-screen max-w-[820px] bg-sheet p-6 print:max-w-none print:bg-white print:p-0">
      <p className="mb-3 flex justify-between print:hidden">
        <button type="button" className="btn go" onClick={() => window.print()}>
          Print
        </button>
      </p>
      <h1>{title}</h1>
      {children}
      <p className="mt-6 border-t border-rule pt-2 text-[14px] text-soft">
        Yoshi advises; the maker's instructions, the data plate and local law prevail.
      </p>
    </main>
  );
}
