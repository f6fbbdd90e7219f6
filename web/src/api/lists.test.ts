import { QueryClient } from "@tanstack/react-query";
import { beforeEach, describe, expect, it } from "vitest";
import { answer } from "../test-device.ts";
import { keep } from "./kept.ts";
import { cylindersQuery } from "./lists.ts";

const row = (code: string, kind: string, refrigerant: string) => ({ code, kind, refrigerant, name: `the ${code}` });
const BOOK = [row("C1", "new", "R-410A"), row("C2", "recovery", "R-410A"), row("C3", "recovery", "R-22")];

const asked = async (ask: Parameters<typeof cylindersQuery>[0]) => {
  const found = await new QueryClient({ defaultOptions: { queries: { retry: false } } }).fetchInfiniteQuery(
    cylindersQuery(ask),
  );
  return { codes: found.pages[0]?.data.rows.map(({ code }) => code), fromDevice: found.pages[0]?.fromDevice };
};

beforeEach(() => {
  answer.mockReset();
  answer.mockRejectedValue(new TypeError("Failed to fetch"));
});

describe("a list without signal", () => {
  it("is the whole of what was taken along, and what is asked of it", async () => {
    keep("cylinders", { rows: BOOK.slice(0, 1), next: 1 });
    keep("cylinders:all", { rows: BOOK, next: null });
    expect(await asked({})).toEqual({ codes: ["C1", "C2", "C3"], fromDevice: true });
    expect((await asked({ kind: "recovery" })).codes).toEqual(["C2", "C3"]);
    expect((await asked({ kind: "recovery", refrigerant: "R-22", sort: "number" })).codes).toEqual(["C3"]);
    expect((await asked({ code: "C2" })).codes).toEqual(["C2"]);
    expect((await asked({ search: "the c1" })).codes).toEqual(["C1"]);
  });

  it("is what the server says while it answers, whatever the device has", async () => {
    keep("cylinders:all", { rows: BOOK, next: null });
    answer.mockImplementation(async () => Response.json({ rows: [BOOK[2]], next: null }));
    expect(await asked({ kind: "recovery" })).toEqual({ codes: ["C3"], fromDevice: false });
  });
});
