import { describe, expect, it } from "vitest";
import type { Message, System } from "../api/types.ts";
import { fill, listed, worded } from "./message.ts";
import cases from "./sentences.gen.json";

describe("sentences", () => {
  for (const { message, us, si, grams } of cases) {
    for (const [system, text] of [
      ["us", us],
      ["si", si],
      ["grams", grams],
    ] as [System, string][]) {
      it(`reads “${message.text}” in ${system} as the core does`, () => {
        expect(fill(message as unknown as Message, system).replaceAll("−", "-")).toBe(text);
      });
    }
  }

  it("reads what was kept before sentences had words", () => {
    const old = { text: "{value} of it.", amounts: { value: { value: 0.45359237, quantity: "mass", u: null } } };
    expect(fill(old as unknown as Message, "us")).toBe("1 lb 0.0 oz of it.");
  });

  it("takes a label with or without something of the job in it", () => {
    const label = { text: "where the {control} stood", amounts: {}, words: { control: "low cut-out" } };
    expect(worded("suction line", "us")).toBe("suction line");
    expect(listed(["suction line", label], "us")).toBe("suction line and where the low cut-out stood");
  });
});
