/** Four bars: full where there is signal, struck through where there is none. */
export function SignalMark({ none }: { none: boolean }) {
  const bars = [5, 9, 13, 17];
  return (
    <svg width="26" height="22" viewBox="0 0 26 22" aria-hidden="true" className="mt-[2px] shrink-0">
      {bars.map((height, n) => (
        <path
          key={height}
          d={`M${2 + n * 6} ${20 - height}h4v${height}h-4z`}
          fill={none ? "none" : "currentColor"}
          stroke="currentColor"
          strokeWidth="1.3"
        />
      ))}
      {none && <path d="M1 3l23 18" stroke="currentColor" strokeWidth="2" />}
    </svg>
  );
}
