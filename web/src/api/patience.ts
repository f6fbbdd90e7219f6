/** A network that neither answers nor breaks is as good as none: how long a request may take before it counts as unanswered. */

const LONG = /\/(log|import|papers)$/; // files in
const SOON = /\/preview$/; // the core on this device may answer meanwhile

export function patienceMs(address: string): number {
  const { pathname } = new URL(address);
  return LONG.test(pathname) ? 150_000 : SOON.test(pathname) ? 8_000 : 30_000;
}

/** Asks as `fetch` does, and gives up after a while; what was sent may have arrived all the same. */
export function patiently(request: Request, limitMs = patienceMs(request.url)): Promise<Response> {
  const limit =
    typeof AbortSignal.any === "function" ? AbortSignal.any([request.signal, AbortSignal.timeout(limitMs)]) : undefined;
  return globalThis.fetch(request, limit ? { signal: limit } : undefined);
}
