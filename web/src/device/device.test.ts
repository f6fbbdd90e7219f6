import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { leave, whoIsHere } from "../api/session.ts";
import { Outbox } from "../outbox/outbox.ts";
import { answer, KEY, ORRIN, rows } from "../test-device.ts";
import { Box, keysFrom } from "./box.ts";
import { box, close, left, openFor, reopen, waiting } from "./device.ts";
import { Paper } from "./paper.ts";
import { opened } from "./time.ts";

const OTHER = "cGVsbC1wZWxsLXBlbGwtcGVsbC1wZWxsLXBlbGwtcGU=";
const PATH = "/steps/identify/runs/0/sheet/oil";
const ME = { ...ORRIN, name: "M. Orrin", role: "technician", shop: "Brindlewick", units: "us", offline_days: 14 };

beforeEach(() => {
  answer.mockReset();
});

describe("what a device keeps", () => {
  it("is read back under the same key, and not at all without it", async () => {
    await box().set("draft", "draft:job1:oil", { value: "POE of Mrs. Vale" });
    expect(await box().get("draft", "draft:job1:oil")).toEqual({ value: "POE of Mrs. Vale" });
    const plain = [...rows].map(([place, row]) => {
      const data = (row as { data?: ArrayBuffer }).data;
      return place + (data ? new TextDecoder("latin1").decode(data) : "");
    });
    expect(plain.join()).not.toMatch(/job1|oil|Vale|POE/);
    const wrong = new Box(await keysFrom(ORRIN.owner, OTHER));
    expect(await wrong.get("draft", "draft:job1:oil")).toBeUndefined();
    expect(await wrong.rows("draft")).toEqual([]);
  });

  it("belongs to a person: another finds none of it, and leaves it there", async () => {
    await box().set("draft", "draft:job1:oil", 1);
    await close();
    await openFor({ owner: "1-2", username: "pell" }, async () => OTHER);
    expect(await box().rows("draft")).toEqual([]);
    await box().clear(["draft", "answer"]);
    await close();
    await openFor(ORRIN, async () => KEY);
    expect(await box().rows("draft")).toEqual([["draft:job1:oil", 1]]);
  });

  it("has a key that lasts over a reload and cannot be read out", async () => {
    const kept = rows.get("device:key") as { cipher: CryptoKey; digest: CryptoKey };
    expect([kept.cipher.extractable, kept.digest.extractable]).toEqual([false, false]);
    expect(await reopen()).toBe(true);
    await close();
    expect(rows.has("device:key")).toBe(false);
    expect(await reopen()).toBe(false);
  });

  it("keeps writes in their order", async () => {
    await Promise.all(Array.from({ length: 20 }, (_, n) => box().set("answer", "a", n)));
    expect(await box().get("answer", "a")).toBe(19);
  });

  it("moves in from an earlier version for who used the device last, and for nobody else", async () => {
    const old = { path: PATH, value: "PAG", seen: null, force: false, ready: true, stamp: "s", at: 1 };
    await close();
    rows.set("kept2:me", { data: { username: "orrin" } });
    rows.set(`draft:job1:${PATH}`, old);
    await openFor({ owner: "1-2", username: "pell" }, async () => OTHER);
    expect(await box().rows("draft")).toEqual([]);
    await close();
    await openFor(ORRIN, async () => KEY);
    expect(await box().rows("draft")).toEqual([[`draft:job1:${PATH}`, old]]);
    expect([...rows.keys()].filter((place) => /^(draft|kept)/.test(place))).toEqual([]);
  });
});

describe("signing out", () => {
  it("keeps or clears what waits", async () => {
    const outbox = new Outbox("job1", () => undefined);
    await outbox.type(PATH, "POE", null);
    expect(await waiting()).toBe(1);
    answer.mockResolvedValue(new Response(null, { status: 204 }));
    await leave({ clear: false });
    expect(rows.has("device:key")).toBe(false);
    await openFor(ORRIN, async () => KEY);
    expect(await waiting()).toBe(1);
    await leave({ clear: true });
    await openFor(ORRIN, async () => KEY);
    expect(await waiting()).toBe(0);
  });

  it("without signal is told to the server before anything else is asked", async () => {
    answer.mockRejectedValueOnce(new TypeError("Failed to fetch"));
    await leave({ clear: false });
    expect(await left()).toBe(true);
    expect(await reopen()).toBe(false);
    const asked: string[] = [];
    answer.mockImplementation(async (request: Request) => {
      asked.push(`${request.method} ${new URL(request.url).pathname}`);
      if (request.method === "DELETE") return new Response(null, { status: 204 });
      return Response.json({ detail: "out" }, { status: 401 });
    });
    await expect(whoIsHere()).rejects.toMatchObject({ status: 401 });
    expect(asked).toEqual(["DELETE /api/session", "GET /api/me"]);
    expect(await left()).toBe(false);
  });
});

describe("who is here", () => {
  it("is who was, while there is no signal", async () => {
    answer.mockResolvedValueOnce(Response.json(ME));
    await whoIsHere();
    answer.mockRejectedValue(new TypeError("Failed to fetch"));
    expect(await whoIsHere()).toMatchObject({ data: ME, fromDevice: true });
  });

  it("is nobody once the device was longer without the server than the shop allows", async () => {
    const now = Date.now();
    answer.mockResolvedValueOnce(Response.json(ME));
    await whoIsHere();
    answer.mockRejectedValue(new TypeError("Failed to fetch"));
    const clock = vi.spyOn(Date, "now").mockReturnValue(now + 13.9 * 86_400_000);
    opened();
    expect(await whoIsHere()).toMatchObject({ fromDevice: true });
    clock.mockReturnValue(now + 14.1 * 86_400_000);
    opened();
    await expect(whoIsHere()).rejects.toThrow("No answer");
    expect(rows.has("device:key")).toBe(false);
    clock.mockRestore();
    opened();
  });

  it("leaves nothing to be read once it is signed out, and what waits locked", async () => {
    answer.mockResolvedValueOnce(Response.json(ME));
    await whoIsHere();
    await new Outbox("job1", () => undefined).type(PATH, "POE", null);
    answer.mockResolvedValue(new Response(null, { status: 204 }));
    await leave({ clear: false });
    expect([...rows.keys()].filter((place) => place.includes("/answer/"))).toEqual([]);
    expect([...rows.keys()].filter((place) => place.includes("/draft/"))).toHaveLength(1);
  });

  it("takes no other person's key for theirs", async () => {
    await close();
    answer.mockResolvedValueOnce(Response.json(ME));
    answer.mockResolvedValueOnce(Response.json({ owner: "1-2", key: OTHER }));
    await expect(whoIsHere()).rejects.toThrow("Somebody else signed in meanwhile.");
    expect(rows.has("device:key")).toBe(false);
  });

  it("takes the key away when the session is over", async () => {
    answer.mockResolvedValue(Response.json({ detail: "out" }, { status: 401 }));
    await expect(whoIsHere()).rejects.toMatchObject({ status: 401 });
    expect(rows.has("device:key")).toBe(false);
  });

  it("says whose entries it sends, so that nobody else is credited with them", async () => {
    answer.mockImplementation(async () =>
      Response.json({ accepted: {}, problems: [], conflicts: [], echoes: {}, seq: 2 }),
    );
    const outbox = new Outbox("job1", () => undefined);
    await close();
    await openFor({ owner: "1-2", username: "pell" }, async () => OTHER);
    await outbox.type(PATH, "POE", null, { ready: true });
    await outbox.flush();
    const [request] = answer.mock.calls[0] as [Request];
    expect(request.headers.get("X-Yoshi-Owner")).toBe("1-1");
  });
});

describe("an address without TLS", () => {
  const subtle = crypto.subtle;
  const without = (value: unknown) => Object.defineProperty(crypto, "subtle", { value, configurable: true });
  afterEach(() => without(subtle));

  it("keeps what is typed as long as the page, and leaves nothing on the device", async () => {
    await close();
    rows.clear();
    without(undefined);
    await openFor(ORRIN, async () => KEY);
    expect(box()).toBeInstanceOf(Paper);
    await box().set("draft", "draft:job1:oil", 1);
    expect(await box().rows("draft")).toEqual([["draft:job1:oil", 1]]);
    await box().del("draft", "draft:job1:oil");
    expect(await box().get("draft", "draft:job1:oil")).toBeUndefined();
    expect([...rows.keys()]).toEqual([]);
  });
});
