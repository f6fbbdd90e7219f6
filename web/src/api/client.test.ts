import { describe, expect, it } from "vitest";
import { NoAnswer, newKey, Refused, take } from "./client.ts";
import { factsOf, stepsOf, unitsOf } from "./fields.ts";
import { keep, kept } from "./kept.ts";

const refusal = (status: number, error?: unknown) =>
  take(reply(status, { error })).then(
    () => expect.unreachable("it was taken"),
    (thrown: unknown) => thrown as Refused,
  );
const reply = (status: number, part: { data?: unknown; error?: unknown } = {}) =>
  Promise.resolve({ ...part, response: new Response(null, { status }) });

describe("taking an answer", () => {
  it("is the data when all is well", async () => {
    expect(await take(reply(200, { data: { a: 1 } }))).toEqual({ a: 1 });
  });

  it("is the server's own words when it refuses", async () => {
    const problem = { detail: "16 oz are 1 lb.", code: "unit" };
    const refused = await refusal(422, problem);
    expect(refused).toBeInstanceOf(Refused);
    expect(refused.message).toBe("16 oz are 1 lb.");
    expect(refused.problem.code).toBe("unit");
  });

  it("is a sentence even when the refusal has none", async () => {
    const forbidden = await refusal(403, "<html>");
    expect(forbidden.message).toContain("sign in again");
    const odd = await refusal(418);
    expect(odd.message).toBe("The server answered 418.");
  });

  it.each([502, 503, 504])("counts %i from a gateway as no answer", async (status) => {
    await expect(take(reply(status))).rejects.toBeInstanceOf(NoAnswer);
  });

  it("counts a cut network as no answer", async () => {
    await expect(take(Promise.reject(new TypeError("Failed to fetch")))).rejects.toBeInstanceOf(NoAnswer);
  });

  it("makes keys that differ, also without randomUUID", () => {
    expect(newKey()).not.toBe(newKey());
    const before = crypto.randomUUID;
    Object.defineProperty(crypto, "randomUUID", { value: undefined, configurable: true });
    expect(newKey().length).toBeGreaterThanOrEqual(16);
    Object.defineProperty(crypto, "randomUUID", { value: before, configurable: true });
  });
});

describe("answers kept on the device", () => {
  it("come back with their time when there is no answer", async () => {
    const fresh = await kept("job:1", async () => ({ seq: 4 }));
    expect(fresh.fromDevice).toBe(false);
    const later = await kept("job:1", async () => {
      throw new NoAnswer("No answer from the server.");
    });
    expect(later).toEqual({ data: { seq: 4 }, at: fresh.at, fromDevice: true });
  });

  it("are the newest, also when that came with a save", async () => {
    await kept("job:1", async () => ({ seq: 4 }));
    keep("job:1", { seq: 5 });
    const later = await kept("job:1", async () => {
      throw new NoAnswer("");
    });
    expect(later.data).toEqual({ seq: 5 });
  });

  it("never hide a refusal", async () => {
    keep("job:1", { seq: 5 });
    const refusal = new Refused(404, { detail: "There is no such job here." } as never);
    await expect(kept("job:1", () => Promise.reject(refusal))).rejects.toBe(refusal);
  });

  it("do not invent what was never seen", async () => {
    await expect(kept("job:9", () => Promise.reject(new NoAnswer("")))).rejects.toBeInstanceOf(NoAnswer);
  });
});

describe("what the core says of a field", () => {
  it("puts the reader's unit first and offers the rest", () => {
    const facts = factsOf("identify", ["factory_charge"]);
    expect(unitsOf(facts, "us")[0]).toBe("lb");
    expect(unitsOf(facts, "si")[0]).toBe("kg");
    expect(new Set(unitsOf(facts, "us"))).toEqual(new Set(unitsOf(facts, "si")));
  });

  it("finds a field inside a row, and refuses one that is none", () => {
    expect(factsOf("identify", ["lines", "l3", "length"]).quantity).toBe("length");
    expect(() => factsOf("identify", ["colour"])).toThrow("no field identify colour");
  });

  it("knows the run of steps", () => {
    expect(stepsOf("charge").map((s) => s.id)).toEqual(["identify", "weigh_in", "verify", "close_out"]);
    expect(stepsOf("nothing")).toEqual([]);
  });
});
