import { Waiting } from "./Waiting.tsx";

/** A page before anything of it is known: the bar, and where the rest will stand. */
export function Shell({ label }: { label: string }) {
  return (
    <div className="flex h-dvh flex-col">
      <header className="name flex min-h-[56px] items-center border-b border-rule px-5">Yoshi</header>
      <main className="flex-1 bg-sheet px-6">
        <Waiting rows={5} label={label} />
      </main>
    </div>
  );
}
