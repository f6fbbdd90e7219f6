import { beforeEach, describe, expect, it } from "vitest";
import type { JobSaved } from "../api/types.ts";
import { box } from "../device/device.ts";
import { answer } from "../test-device.ts";
import { Outbox } from "./outbox.ts";

const PATH = "/steps/identify/runs/0/sheet/oil";

function saved(accepted: Record<string, unknown>, problems: unknown[] = []): Response {
  return Response.json({ accepted, problems, conflicts: [], echoes: {}, seq: 2 });
}

async function bodies(): Promise<
  { key: string; changes: { path: string; value: unknown; seen: unknown; typed_at: string }[] }[]
> {
  return Promise.all(answer.mock.calls.map(([request]) => (request as Request).clone().json()));
}

function opened() {
  const received: JobSaved[] = [];
  return { outbox: new Outbox("job1", (state) => received.push(state)), received };
}

const kept = async () => (await box().rows("draft")).map(([name]) => name);

beforeEach(() => {
  answer.mockReset();
});

describe("the outbox", () => {
  it("writes a keystroke to the device before anything is sent", async () => {
    const { outbox } = opened();
    await outbox.type(PATH, "PO", null);
    expect(await kept()).toEqual([`draft:job1:${PATH}`]);
    expect(answer).not.toHaveBeenCalled();
  });

  it("sends what was committed with the value seen, and forgets it", async () => {
    answer.mockResolvedValue(saved({ [PATH]: "POE" }));
    const { outbox, received } = opened();
    await outbox.type(PATH, "POE", "mineral");
    await outbox.commit(PATH);
    const change = { path: PATH, seen: "mineral", value: "POE", force: false, typed_at: expect.any(String) };
    expect((await bodies())[0]?.changes).toEqual([change]);
    expect(outbox.snapshot().drafts).toEqual({});
    expect(await kept()).toEqual([]);
    expect(received).toHaveLength(1);
  });

  it("keeps everything without a network and sends the very same request later", async () => {
    answer.mockRejectedValueOnce(new TypeError("Failed to fetch"));
    const { outbox } = opened();
    await outbox.type(PATH, "POE", null);
    await outbox.commit(PATH);
    expect(outbox.snapshot().link).toBe("offline");
    outbox.stop();
    answer.mockImplementation(async () => saved({ [PATH]: "POE" }));
    const later = opened();
    await later.outbox.start();
    const [first, second] = await bodies();
    expect(second).toEqual(first);
    expect(later.outbox.snapshot()).toMatchObject({ drafts: {}, link: "fine" });
    later.outbox.stop();
  });

  it("keeps a refused entry with its reason and does not send it again", async () => {
    answer.mockImplementation(async () =>
      saved({}, [{ path: PATH, code: "unit", message: { text: "no", amounts: {} } }]),
    );
    const { outbox } = opened();
    await outbox.type(PATH, "bad", null);
    await outbox.commit(PATH);
    expect(outbox.snapshot().drafts[PATH]?.problem?.message.text).toBe("no");
    await outbox.flush();
    expect(answer).toHaveBeenCalledTimes(1);
  });

  it("loses nothing that is typed while a request is on its way", async () => {
    const { outbox } = opened();
    const other = PATH.replace("oil", "serial");
    answer.mockImplementationOnce(async () => {
      await outbox.type(PATH, "POE 32", null);
      await outbox.type(other, "QR-1", null);
      return saved({ [PATH]: "POE" });
    });
    await outbox.type(PATH, "POE", null);
    await outbox.commit(PATH);
    expect(outbox.snapshot().drafts[PATH]).toMatchObject({ value: "POE 32", seen: "POE" });
    expect(outbox.snapshot().drafts[other]?.value).toBe("QR-1");
  });

  it("keeps entries when the session has run out", async () => {
    answer.mockResolvedValueOnce(Response.json({ detail: "signed out", code: "signed_out" }, { status: 401 }));
    const { outbox } = opened();
    await outbox.type(PATH, "POE", null);
    await outbox.commit(PATH);
    expect(outbox.snapshot().link).toBe("signed_out");
    expect(outbox.snapshot().drafts[PATH]?.value).toBe("POE");
  });

  it("sets the one entry aside that the server fails on, and sends the rest", async () => {
    const bad = "/steps/identify/runs/0/sheet/serial";
    answer.mockImplementation(async (request: Request) => {
      const { changes } = (await request.clone().json()) as { changes: { path: string }[] };
      if (changes.some((change) => change.path === bad)) return Response.json({ detail: "broken" }, { status: 500 });
      return saved(Object.fromEntries(changes.map((change) => [change.path, "x"])));
    });
    const { outbox, received } = opened();
    const paths = [PATH, bad, "/steps/identify/runs/0/sheet/circuit"];
    for (const path of paths) await outbox.type(path, "x", null, { ready: true });
    for (let n = 0; n < 12; n++) await outbox.flush();
    outbox.stop();
    const { drafts } = outbox.snapshot();
    expect(Object.keys(drafts)).toEqual([bad]);
    expect(drafts[bad]?.problem?.message.text).toContain("It is kept here");
    expect(received.length).toBeGreaterThan(0);
    const before = answer.mock.calls.length;
    await outbox.flush();
    expect(answer.mock.calls.length).toBe(before);
  });

  it("sends what waited long in parts, and all of it", async () => {
    const sizes: number[] = [];
    answer.mockImplementation(async (request: Request) => {
      const { changes } = (await request.clone().json()) as { changes: { path: string }[] };
      sizes.push(changes.length);
      return saved(Object.fromEntries(changes.map((change) => [change.path, "x"])));
    });
    const { outbox } = opened();
    answer.mockRejectedValueOnce(new TypeError("Failed to fetch"));
    for (let n = 0; n < 430; n++) await outbox.type(`/acts/a${n}/reason`, "x", null, { ready: true });
    for (let n = 0; n < 3; n++) await outbox.flush();
    outbox.stop();
    expect(sizes.every((size) => size <= 200)).toBe(true);
    expect(outbox.snapshot().drafts).toEqual({});
    expect(await kept()).toEqual([]);
  });

  it.each([408, 429, 503])("tries again after %i, and sets nothing aside", async (status) => {
    answer.mockResolvedValueOnce(Response.json({ detail: "later" }, { status }));
    answer.mockResolvedValue(saved({ [PATH]: "POE" }));
    const { outbox } = opened();
    await outbox.type(PATH, "POE", null, { ready: true });
    await outbox.flush();
    expect(outbox.snapshot().drafts[PATH]?.problem ?? null).toBeNull();
    await outbox.flush();
    outbox.stop();
    expect(outbox.snapshot().drafts).toEqual({});
  });

  it("halves what is too large for one request until it fits", async () => {
    answer.mockImplementation(async (request: Request) => {
      const { changes } = (await request.clone().json()) as { changes: { path: string }[] };
      if (changes.length > 3) return Response.json({ detail: "too large", code: "too_large" }, { status: 413 });
      return saved(Object.fromEntries(changes.map((change) => [change.path, "x"])));
    });
    const { outbox } = opened();
    for (let n = 0; n < 10; n++) await outbox.type(`/acts/a${n}/reason`, "x", null, { ready: true });
    for (let n = 0; n < 12; n++) await outbox.flush();
    outbox.stop();
    expect(outbox.snapshot().drafts).toEqual({});
  });
});
