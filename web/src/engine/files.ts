/**
 * The engine's files on this device: fetched when the person wants to work without signal, kept until they do not.
 *
 * They lie in a cache of their own under a name made of what is in them, and the service worker only hands them out. A new
 * version is fetched beside the old one, which goes once the new one is whole.
 */

const CACHE = "yoshi-engine";
const WANTED = "yoshi:engine"; // "yes" or "no" once this device was asked
const PRESENT = "/engine.json";

export type Manifest = {
  version: string;
  core_version: string;
  files: { name: string; bytes: number; wire_bytes: number }[];
  wire_bytes: number;
};

/** The version of the core this page was built with. */
const CORE_VERSION: string = __CORE_VERSION__;

export const canKeep = (): boolean => typeof caches !== "undefined" && typeof Worker !== "undefined";
export const wanted = (): "yes" | "no" | null => localStorage.getItem(WANTED) as "yes" | "no" | null;
export const setWanted = (is: boolean): void => localStorage.setItem(WANTED, is ? "yes" : "no");

export const placeOf = (manifest: Manifest): string => `/engine/${manifest.version}/`;

/** The engine on this device, where it is whole and of this page's core. */
export async function kept(): Promise<Manifest | null> {
  if (!canKeep()) return null;
  const cache = await caches.open(CACHE);
  const said = await cache.match(PRESENT);
  if (!said) return null;
  const manifest = (await said.json()) as Manifest;
  return manifest.core_version === CORE_VERSION ? manifest : null;
}

/** What the server has now. */
export async function offered(): Promise<Manifest> {
  const reply = await fetch(PRESENT, { cache: "no-cache" });
  if (!reply.ok) throw new Error(`The server answered ${reply.status}.`);
  return (await reply.json()) as Manifest;
}

/** Bring the engine onto the device; `onShare` is told how much of it is here, 0 to 1. Already whole, it asks for nothing more. */
export async function fetchAll(onShare: (share: number) => void): Promise<Manifest> {
  const manifest = await offered();
  const cache = await caches.open(CACHE);
  const whole = manifest.files.reduce((sum, file) => sum + file.bytes, 0);
  let here = 0;
  for (const file of manifest.files) {
    const place = `${placeOf(manifest)}${file.name}`;
    if (!(await cache.match(place))) {
      const before = here;
      await cache.put(place, await wholeOf(place, file.bytes, (bytes) => onShare((before + bytes) / whole)));
    }
    here += file.bytes;
    onShare(here / whole);
  }
  await cache.put(PRESENT, Response.json(manifest));
  for (const request of await cache.keys()) {
    const { pathname } = new URL(request.url);
    if (pathname.startsWith("/engine/") && !pathname.startsWith(placeOf(manifest))) await cache.delete(request);
  }
  return manifest;
}

/** A file, whole or not at all: half of one would be kept as if it were the file. */
async function wholeOf(place: string, bytes: number, onBytes: (bytes: number) => void): Promise<Response> {
  const reply = await fetch(place);
  if (!reply.ok || !reply.body) throw new Error(`The server answered ${reply.status}.`);
  const parts: Uint8Array<ArrayBuffer>[] = [];
  let here = 0;
  const reader = reply.body.getReader();
  for (let part = await reader.read(); !part.done; part = await reader.read()) {
    parts.push(part.value);
    here += part.value.byteLength;
    onBytes(here);
  }
  if (here !== bytes) throw new Error("It broke off on the way.");
  return new Response(new Blob(parts), { headers: { "Content-Type": reply.headers.get("Content-Type") ?? "" } });
}

/** Take it off the device again. */
export async function removeAll(): Promise<void> {
  if (canKeep()) await caches.delete(CACHE);
}
