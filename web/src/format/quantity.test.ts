import { describe, expect, it } from "vitest";
import type { System } from "../api/types.ts";
import cases from "./cases.gen.json";
import { fill } from "./message.ts";
import { ago, factorOf, lasting, otherFaces, poundsOunces, show, showAmount } from "./quantity.ts";

describe("showing quantities", () => {
  for (const { quantity, value, us, si, grams } of cases) {
    for (const [system, text] of [
      ["us", us],
      ["si", si],
      ["grams", grams],
    ] as [System, string][]) {
      it(`agrees with the core on ${value} ${quantity} in ${system}`, () => {
        expect(show(value, quantity, system).replaceAll("−", "-")).toBe(text);
      });
    }
  }

  it("never shows sixteen ounces", () => {
    for (let kg = 0; kg < 20; kg += 0.00317) expect(poundsOunces(kg).ounces).not.toBe("16.0");
  });

  it.each([
    [45, "45 s"],
    [7140, "119 min"],
    [9000, "2 h 30 min"],
    [43_200, "12 h"],
    [604_800, "7 days"],
    [302_400, "3.5 days"],
  ])("says how long %s s are as it is said aloud", (seconds, said) => {
    expect(show(seconds, "duration", "us")).toBe(said);
    expect(lasting(seconds)).toBe(said);
  });

  it("says a leak to two figures", () => {
    expect(show(1_138.4 * factorOf("mass_rate", "oz/yr"), "mass_rate", "us")).toBe("1100 oz/yr");
  });

  it("says a gross leak by the day, and both ends of a band in one unit", () => {
    const day = factorOf("mass_rate", "oz/day");
    expect(show(9.9 * day, "mass_rate", "us")).toBe("3600 oz/yr");
    expect(show(10 * day, "mass_rate", "us")).toBe("10 oz/day");
    const amounts = {
      low: { value: 4.2 * day, quantity: "mass_rate", u: null },
      high: { value: 76.4 * day, quantity: "mass_rate", u: null },
    };
    expect(fill({ text: "{low} to {high}", amounts, words: {} }, "us")).toBe("4 oz/day to 76 oz/day");
    expect(showAmount(amounts.low, "us")).toBe("1500 oz/yr");
  });

  it("marks what counts down with a true minus", () => {
    expect(show(-4.58978, "mass", "us")).toBe("−10 lb 1.9 oz");
  });

  it("fills a message in the person's units", () => {
    const message = {
      text: "Add {value} of {what}.",
      amounts: { value: { value: 0.45359237, quantity: "mass", u: null } },
      words: {},
    };
    expect(fill(message, "us")).toBe("Add 1 lb 0.0 oz of {what}.");
    expect(fill(message, "si")).toBe("Add 454 g of {what}.");
  });

  it("shows a spread at two standard uncertainties, as a difference", () => {
    expect(showAmount({ value: 310.928, quantity: "temperature", u: 0.5 }, "us")).toBe("100.0 °F ± 1.8 °F");
  });

  it("keeps every other face within reach", () => {
    expect(otherFaces(4.74855, "us")).toEqual(["10.47 lb", "167.5 oz", "4.749 kg"]);
    expect(otherFaces(4.74855, "si")).toEqual(["10 lb 7.5 oz", "10.47 lb", "167.5 oz"]);
  });

  it("says how long ago", () => {
    const now = Date.parse("2026-06-18T15:00:00Z");
    expect(ago("2026-06-18T14:59:40Z", now)).toBe("just now");
    expect(ago("2026-06-18T14:20:00Z", now)).toBe("40 min ago");
    expect(ago("2026-06-17T15:00:00Z", now)).toBe("24 h ago");
  });
});
