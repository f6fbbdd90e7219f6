/** A network that neither answers nor breaks is as good as none: how long a request may take before it counts as unanswered. */

import { heard } from "../device/time.ts";

const LONG = /\/(log|import|papers)$/; // files in
const SOON = /\/preview$/; // the core on this device may answer meanwhile

export function patienceMs(address: string): number {
  const { pathname } = new URL(address);
  return LONG.test(pathname) ? 150_000 : SOON.test(pathname) ? 8_000 : 30_000;
}

/** Asks as `fetch` does, and gives up after a while; what was sent may have arrived all the same. What time it is there is heard on the way. */
export async function patiently(request: Request, limitMs = patienceMs(request.url)): Promise<Response> {
  const asked = performance.now();
  const limit =
    typeof AbortSignal.any === "function" ? AbortSignal.any([request.signal, AbortSignal.timeout(limitMs)]) : undefined;
  const answer = await globalThis.fetch(request, limit ? { signal: limit } : undefined);
  heard(answer.headers.get("Date"), asked, performance.now());
  return answer;
}
