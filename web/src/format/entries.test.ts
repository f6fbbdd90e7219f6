import { expect, it } from "vitest";
import { chosenOf, labelOf, saidOfStored, textOf } from "./entries.ts";

const SHEET = "/steps/identify/runs/0/sheet";

it("calls an entry as its form does, and one of a form that is no more by its name", () => {
  expect(labelOf(`${SHEET}/factory_charge`)).toBe("factory charge");
  expect(labelOf(`${SHEET}/once_upon/r1/a_time`)).toBe("a time");
  expect(labelOf("/acts/a1/once_upon")).toBe("once upon");
  expect(textOf(`${SHEET}/once_upon/r1/a_time`, "long_ago")).toBe("long ago");
});

it("says a stored value, and types it as who chooses it", () => {
  const entry = { text: "9 lb 4 oz", unit: "lb oz", value: 4.19 };
  expect([entry, 4, null, "txv"].map(saidOfStored)).toEqual(["9 lb 4 oz", "4", "nothing", "txv"]);
  expect([entry, null, "txv"].map(chosenOf)).toEqual([{ text: "9 lb 4 oz", unit: "lb" }, null, "txv"]);
});
