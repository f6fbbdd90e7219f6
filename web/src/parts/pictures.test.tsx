import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, describe, expect, it } from "vitest";
import type { Band, Figure, Mark, Part } from "../api/types.ts";
import { jobView, said, show as showView, stepResult } from "../test-job.tsx";
import { BandRuler } from "./BandRuler.tsx";
import { BuildUpLines, BuildUpTape, rule } from "./BuildUp.tsx";
import { Ladder } from "./Ladder.tsx";
import { Run } from "./Run.tsx";
import { ScaleTape } from "./ScaleTape.tsx";
import { VerdictBadge } from "./shapes.tsx";
import { TrimTape } from "./TrimTape.tsx";
import { Weight } from "./Weight.tsx";
import { Why } from "./Why.tsx";

afterEach(cleanup);

const part = (id: string, kind: Part["kind"], kg: number): Part => ({
  id,
  kind,
  label: said(id),
  kg,
  limit_kg: 0,
  provenance: "plate",
});
const PARTS = [part("plate", "plate", 4.0), part("line", "line", 0.5), part("drier", "part", 0.04)];
const marks: Mark[] = [
  { id: "start", label: "start", gross_kg: 14.246, counted_kg: 0, low_kg: null, high_kg: null },
  { id: "slow", label: "slow down", gross_kg: 9.955, counted_kg: -4.29, low_kg: null, high_kg: null },
  { id: "close", label: "close", gross_kg: 9.48, counted_kg: -4.766, low_kg: null, high_kg: null },
];
const band = (side: "low" | "high", value: number, glide = 0): Band => ({
  id: side === "low" ? "superheat" : "subcooling",
  label: side === "low" ? "superheat" : "subcooling",
  side,
  amount: { value, quantity: "temperature_delta", u: 0.3 },
  low: 2,
  high: 14,
  target: side === "high" ? 5.5 : null,
  saturation: { value: side === "low" ? 279 : 316, quantity: "temperature", u: null },
  across: { value: side === "low" ? 279 - glide : 316 + glide, quantity: "temperature", u: null },
  measured: { value: side === "low" ? 279 + value : 316 - value, quantity: "temperature", u: null },
  word: "Holds",
  most: null,
  expected: null,
});

describe("the charge as a stack", () => {
  it("draws lengths true to weight", () => {
    const { container } = render(<BuildUpTape parts={PARTS} system="us" />);
    const heights = [...container.querySelectorAll("rect")].map((box) => Number(box.getAttribute("height")));
    expect((heights[0] ?? 0) / (heights[1] ?? 1)).toBeCloseTo(8, 1);
    expect(screen.getByText("8 lb 13.1 oz")).toBeTruthy();
  });

  it("never lets labels overlap or leave the picture", () => {
    const many = Array.from({ length: 6 }, (_, n) => part(`p${n}`, "part", 0.01)).concat(part("plate", "plate", 4));
    const { container } = render(<BuildUpTape parts={many} system="us" />);
    const tops = [...container.querySelectorAll('text[font-weight="640"]')]
      .map((t) => Number(t.getAttribute("y")))
      .sort((a, b) => a - b);
    for (let n = 1; n < tops.length; n += 1) expect((tops[n] ?? 0) - (tops[n - 1] ?? 0)).toBeGreaterThanOrEqual(37);
    expect(tops[0]).toBeGreaterThan(0);
  });

  it("draws nothing without a charge", () => {
    const { container } = render(<BuildUpTape parts={[]} system="us" />);
    expect(container.innerHTML).toBe("");
  });

  it("is told in lines too", () => {
    render(<BuildUpLines parts={PARTS} total="10 lb" system="si" />);
    expect(screen.getByText("4.000 kg")).toBeTruthy();
    expect(screen.getByText("10 lb")).toBeTruthy();
  });

  it("names pounds and ounces, never decimal pounds", () => {
    const texts = (from: number, to: number) =>
      rule(to * 0.45359237, "us", from * 0.45359237).flatMap((tick) => (tick.text ? [tick.text] : []));
    expect(texts(5.9, 6.6)).toContain("6 lb 2");
    expect(texts(5.9, 8.2)).toContain("6 lb 8");
    expect(texts(0, 0.9)).toContain("4 oz");
    for (const span of [0.3, 1, 2.5, 7, 40]) expect(texts(6, 6 + span).join(" ")).not.toContain(".");
  });

  it("rules its tape so that few ticks are named", () => {
    for (const top of [0.2, 1, 4.7, 30, 400]) {
      for (const system of ["us", "si"] as const) {
        const named = rule(top, system).filter((tick) => tick.text);
        expect(named.length).toBeGreaterThan(1);
        expect(named.length).toBeLessThan(14);
      }
    }
  });
});

describe("the scale", () => {
  it("runs from start to stop with the slow mark between", () => {
    render(<ScaleTape marks={marks} system="us" counted={false} />);
    expect(screen.getByRole("img", { name: "Scale from 31 lb 6.5 oz down to 20 lb 14.4 oz" })).toBeTruthy();
    expect(screen.getByText("21 lb 15.2 oz")).toBeTruthy();
  });

  it("counts down from zero", () => {
    render(<ScaleTape marks={marks} system="us" counted />);
    expect(screen.getByText(/close at\s*−10 lb 8\.1 oz/)).toBeTruthy();
  });

  it("draws nothing without marks", () => {
    const { container } = render(<ScaleTape marks={[]} system="us" counted={false} />);
    expect(container.innerHTML).toBe("");
  });
});

describe("the temperature ladder", () => {
  it("hangs superheat up from dew and subcooling down from bubble", () => {
    const { container } = render(<Ladder bands={[band("low", 6), band("high", 5)]} system="us" />);
    expect(screen.getByText(/dew/)).toBeTruthy();
    expect(screen.getByText(/bubble/)).toBeTruthy();
    const bars = [...container.querySelectorAll('rect[width="26"]')].map((bar) => Number(bar.getAttribute("height")));
    expect((bars[0] ?? 0) / (bars[1] ?? 1)).toBeCloseTo(6 / 5, 1);
  });

  it("draws saturation as wide as the glide, and names its other end", () => {
    const { container } = render(<Ladder bands={[band("low", 6, 5)]} system="us" />);
    expect(screen.getByText(/bubble 33\.5/)).toBeTruthy();
    const height = (width: number) => Number(container.querySelector(`rect[width="${width}"]`)?.getAttribute("height"));
    expect(height(49) / height(26)).toBeCloseTo(5 / 6, 1);
    cleanup();
    render(<Ladder bands={[band("high", 6, 0)]} system="us" />);
    expect(screen.queryByText(/^dew/)).toBeNull();
  });

  it("is drawn for one side alone, for none, and for nothing to hang", () => {
    for (const bands of [[band("low", 0)], [], [band("high", -1)]]) {
      const { container } = render(<Ladder bands={bands} system="si" />);
      expect(container.innerHTML.includes("NaN")).toBe(false);
    }
  });
});

describe("words, shapes and weights", () => {
  it("a verdict is a word beside its shape", () => {
    for (const word of ["Holds", "Wait", "Stop", "Open"] as const) {
      const { container } = render(<VerdictBadge word={word} large />);
      expect(container.querySelector(`[data-verdict="${word}"] svg`)).toBeTruthy();
      expect(screen.getByText(word)).toBeTruthy();
      cleanup();
    }
  });

  it("a weight is large in the person's units with every other face beside it", () => {
    render(<Weight kg={4.74855} system="us" label="total" spread="± 2.4 oz" />);
    expect(screen.getByTestId("big-weight").textContent).toBe("10lb7.5oz");
    expect(screen.getByText("4.749")).toBeTruthy();
    cleanup();
    render(<Weight kg={0.136} system="us" label="step" />);
    expect(screen.getByTestId("big-weight").textContent).toBe("4.8oz");
    cleanup();
    render(<Weight kg={0.136} system="si" label="step" />);
    expect(screen.getByTestId("big-weight").textContent).toBe("136g");
  });

  it("why opens the formula with source, rule and school", () => {
    const figure: Figure = {
      id: "total",
      label: "total charge",
      amount: { value: 4.74855, quantity: "mass", u: 0.034 },
      why: {
        terms: [
          [
            { op: "", amount: { value: 4.2, quantity: "mass", u: null }, label: "plate" },
            { op: "+", amount: { value: 0.5, quantity: "mass", u: null }, label: "line" },
          ],
        ],
        notes: [said("The tube sizes would give {x}.", { x: { value: 0.06, quantity: "linear_density", u: null } })],
        source: "data plate",
        rule_id: "charge.set_by",
        school: "by weight",
      },
    };
    render(<Why figure={figure} system="us" />);
    fireEvent.click(screen.getByRole("button", { name: "Why total charge" }));
    const dialog = screen.getByRole("dialog");
    for (const text of [
      "Why 10 lb 7.5 oz ± 2.4 oz",
      "plate",
      "The tube sizes would give 0.645 oz/ft.",
      "data plate",
      "charge.set_by",
      "by weight",
    ]) {
      expect(dialog.textContent).toContain(text);
    }
  });
});

describe("the rule of a difference", () => {
  const judged = { ...band("high", 3.5), target: 5.6, most: 12, expected: 4.6 };

  it("says all it draws, and numbers what was before", () => {
    render(<BandRuler band={judged} earlier={[0.5, 2]} system="us" />);
    const drawn = screen.getByTestId("ruler-subcooling");
    expect(drawn.getAttribute("aria-label")).toMatch(
      /subcooling 6\.3 °F.*after the next step about 8\.3 °F.*no higher than 21\.6 °F/,
    );
    expect(drawn.querySelectorAll("[data-earlier]")).toHaveLength(2);
    expect(drawn.querySelectorAll("[data-expected]")).toHaveLength(1);
  });

  it("leaves out what is far away", () => {
    render(<BandRuler band={{ ...judged, most: 60, expected: null }} earlier={[]} system="si" />);
    const drawn = screen.getByTestId("ruler-subcooling");
    expect(drawn.querySelectorAll("[data-most], [data-expected]")).toHaveLength(0);
  });
});

describe("the tape of trimming", () => {
  const tape = {
    inside_kg: 2.6,
    limit_kg: 0.02,
    plan_kg: 2.72,
    cap_low_kg: 2.45,
    cap_high_kg: 2.99,
    holds_low_kg: 2.65,
    holds_high_kg: 3.2,
    next_kg: 2.7,
    close_gross_kg: null,
  };

  it("reads from the most to the least, with the step to come", () => {
    render(<TrimTape tape={tape} rows={[]} system="us" />);
    const drawn = screen.getByTestId("trim-tape");
    expect(drawn.getAttribute("aria-label")).toBe(
      "most 6 lb 9.5 oz, plan 5 lb 15.9 oz, next 5 lb 15.2 oz, in now 5 lb 11.7 oz, least 5 lb 6.4 oz",
    );
    expect(drawn.querySelectorAll("[data-holds]")).toHaveLength(1);
  });

  it("draws no tolerance that nobody knows, and no step where none is due", () => {
    render(
      <TrimTape tape={{ ...tape, holds_low_kg: null, holds_high_kg: null, next_kg: null }} rows={[]} system="us" />,
    );
    const drawn = screen.getByTestId("trim-tape");
    expect(drawn.querySelectorAll("[data-holds]")).toHaveLength(0);
    expect(drawn.getAttribute("aria-label")).not.toContain("next");
  });
});

describe("the run", () => {
  it("names every step with the figure it produced and marks the current one", () => {
    const steps = [
      stepResult("identify", "Holds", { state: "closed" }),
      stepResult("weigh_in", "Wait", { state: "changed" }),
      stepResult("verify", "Open"),
      stepResult("close_out", "Open"),
    ];
    showView(jobView(), <Run kind="charge" steps={steps} current="verify" system="us" base="/job/x" />);
    expect(screen.getAllByText("identify in short")).toHaveLength(1);
    expect(screen.getByText(/changed since closing/)).toBeTruthy();
    const current = document.querySelectorAll('[aria-current="step"]');
    expect([...current].every((link) => link.getAttribute("href") === "/job/x/verify")).toBe(true);
    expect(current).toHaveLength(2);
  });
});
