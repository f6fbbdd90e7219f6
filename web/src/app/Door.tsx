import type { ReactNode } from "react";

/** The page before the first one: a narrow form in the middle, for signing in and for setting a password. */
export function Door({ onGo, children }: { onGo: () => Promise<void>; children: ReactNode }) {
  return (
    <main className="grid min-h-dvh place-items-center bg-sheet p-6">
      <form
        className="w-full max-w-[360px]"
        onSubmit={(event) => {
          event.preventDefault();
          void onGo();
        }}
      >
        <h1 className="name">Yoshi</h1>
        {children}
      </form>
    </main>
  );
}
