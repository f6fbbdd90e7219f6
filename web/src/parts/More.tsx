/** The next page of a list, where there is one. */
export function More({ more }: { more: (() => void) | null }) {
  if (!more) return null;
  return (
    <button type="button" className="btn mt-3" onClick={more}>
      More
    </button>
  );
}
