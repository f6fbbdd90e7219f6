import { expect, it } from "vitest";

const SOURCES = import.meta.glob("../**/*.tsx", { query: "?raw", import: "default", eager: true }) as Record<
  string,
  string
>;
// A closed step says so over its sheet, a request under way shows itself, an owner's page says whose it is, a way that is shut stands with its words.
const SAID = /^(closed|busy|props\.disabled|!owner|!way\.open.*|busy \|\| kept !== "")$/;

function* buttons(): Generator<[string, string, string]> {
  for (const [name, text] of Object.entries(SOURCES)) {
    if (name.includes(".test.")) continue;
    for (const [, why = ""] of text.matchAll(/[^-]disabled=\{([^}]+)\}/g)) yield [name, why, text];
  }
}

it("stands beside every button that can be shut for a reason of its own", () => {
  const all = [...buttons()];
  expect(all.length).toBeGreaterThan(20);
  const silent = all.filter(
    ([, why, text]) => !SAID.test(why) && !text.includes("<WhyNot") && !text.includes("waits for signal"),
  );
  expect(silent.map(([name, why]) => `${name}: ${why}`)).toEqual([]);
});
