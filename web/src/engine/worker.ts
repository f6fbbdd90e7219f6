/// <reference lib="webworker" />
/** Runs the core in a thread of its own: Python for the browser, the core unpacked into it, and one function from text to text. */
import type { FromWorker, ToWorker } from "./protocol.ts";

type Python = {
  version: string;
  unpackArchive: (data: ArrayBuffer, kind: string, options: { extractDir: string }) => void;
  runPython: (code: string) => unknown;
  _module?: { HEAPU8?: Uint8Array };
};
type Loader = { loadPyodide: (options: Record<string, unknown>) => Promise<Python> };

const scope = self as unknown as DedicatedWorkerGlobalScope;
const say = (message: FromWorker) => scope.postMessage(message);
const LONGEST = 2_000; // of an error: what broke inside may carry a whole program with it

let answer: ((question: string) => string) | null = null;

async function start(place: string): Promise<void> {
  const { loadPyodide } = (await import(/* @vite-ignore */ `${place}pyodide.mjs`)) as Loader;
  const [python, core] = await Promise.all([
    loadPyodide({ indexURL: place, stderr: (line: string) => console.error(line) }),
    fetch(`${place}core.zip`).then((reply) => reply.arrayBuffer()),
  ]);
  python.unpackArchive(core, "zip", { extractDir: "/core" });
  answer = python.runPython(
    "import sys; sys.path.insert(0, '/core'); from yoshi_core.device.door import answer; answer",
  ) as (question: string) => string;
  answer(
    '{"ask":"saturation","name":"R-410A","pressure":"118","temperature":"","altitude":"0 m","gauge":"vented","units":"us"}',
  );
  say({ started: true, python: python.version, bytes: python._module?.HEAPU8?.byteLength ?? 0 });
}

const worded = (error: unknown) => String(error instanceof Error ? error.message : error).slice(-LONGEST);

scope.addEventListener("message", ({ data }: MessageEvent<ToWorker>) => {
  if ("start" in data) {
    start(data.start).catch((error: unknown) => say({ failed: worded(error) }));
    return;
  }
  try {
    if (!answer) throw new Error("asked before it was started");
    const began = performance.now();
    say({ id: data.id, answer: answer(data.question), ms: performance.now() - began });
  } catch (error) {
    say({ id: data.id, broke: worded(error) });
  }
});
