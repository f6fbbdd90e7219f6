/** Where something will stand once it has come: the shape of it, so that nothing jumps. */
export function Waiting({ rows, label = "Opening" }: { rows: number; label?: string }) {
  return (
    <div role="status" aria-label={label} className="mt-4 grid gap-3">
      {Array.from({ length: rows }, (_, n) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: bars without content
        <span key={n} className="block h-[44px] bg-[var(--tint4)]" style={{ width: `${92 - 9 * (n % 4)}%` }} />
      ))}
      <span className="sr-only">{label} …</span>
    </div>
  );
}
