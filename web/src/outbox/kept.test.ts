/** What earlier versions left on a device, as it lay there, is sent by this one: nothing of it is lost, and nothing under another name. */
import { describe, expect, it } from "vitest";
import { box, close, openFor } from "../device/device.ts";
import { fill } from "../format/message.ts";
import { answer, KEY, ORRIN, rows } from "../test-device.ts";
import { Outbox } from "./outbox.ts";

const FILES = import.meta.glob("./kept/*.json", { import: "default", eager: true }) as Record<
  string,
  Record<string, unknown>
>;
const SHEET = "/steps/identify/runs/0/sheet";
const bytes = (text: string) => Uint8Array.from(atob(text), (letter) => letter.charCodeAt(0));

/** A row as it lay in the device's store; bytes are written as text in the file. */
function asItLay(value: unknown): unknown {
  if (value === null || typeof value !== "object" || Array.isArray(value)) return value;
  const { $bytes, $buffer } = value as { $bytes?: string; $buffer?: string };
  if ($bytes !== undefined) return bytes($bytes);
  if ($buffer !== undefined) return bytes($buffer).buffer;
  return Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, asItLay(inner)]));
}

describe.each(Object.entries(FILES))("a queue of %s", (_, file) => {
  it("is sent: first what was under way, under its key, then what was only typed; what was refused stays with its reason", async () => {
    await close();
    rows.clear();
    for (const [name, value] of Object.entries(file)) rows.set(name, asItLay(value));
    await openFor(ORRIN, async () => KEY);
    const sent: { key: string; changes: { path: string; value: unknown; seen: unknown }[] }[] = [];
    answer.mockReset();
    answer.mockImplementation(async (request: Request) => {
      const body = (await request.clone().json()) as (typeof sent)[number];
      sent.push(body);
      const accepted = Object.fromEntries(body.changes.map(({ path, value }) => [path, value]));
      return Response.json({ accepted, problems: [], conflicts: [], echoes: {}, seq: 2 });
    });
    const outbox = new Outbox("job1", () => undefined);
    await outbox.start();
    outbox.stop();
    expect(sent.map((body) => body.changes.map(({ path, value }) => [path.slice(SHEET.length), value]))).toEqual([
      [["/oil", "POE 32"]],
      [["/serial", "QR-1"]],
    ]);
    expect(sent[0]?.changes[0]?.seen).toBe("mineral");
    expect(sent[0]?.key.length).toBeGreaterThanOrEqual(8);
    const { drafts, items } = outbox.snapshot();
    expect(items).toEqual([]);
    expect(Object.keys(drafts)).toEqual([`${SHEET}/circuit`]);
    const { problem } = drafts[`${SHEET}/circuit`] ?? {};
    expect(problem && fill(problem.message, "us")).toBe("no circuit of that name");
    expect((await box().rows("draft")).map(([name]) => name)).toEqual([`draft:job1:${SHEET}/circuit`]);
  });
});

it("there are queues of versions enough to look back on", () => {
  expect(Object.keys(FILES).length).toBeGreaterThanOrEqual(4);
});
