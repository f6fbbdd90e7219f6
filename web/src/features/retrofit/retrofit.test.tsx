import { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import type { RetrofitRow, RetrofitTable } from "../../api/types.ts";
import { answer } from "../../test-device.ts";
import { said, showPage } from "../../test-job.tsx";
import RetrofitPage from "./RetrofitPage.tsx";

const LB = 0.45359237;
const mass = (kg: number) => ({ value: kg, quantity: "mass", u: null });

const row = (name: string, part: Partial<RetrofitRow> = {}): RetrofitRow => ({
  name,
  safety_class: "A1",
  stops: [],
  properties: [{ id: "capacity", said: said("3 % more"), value: 1.03, mark: 1, bad: false }],
  changes: [said("New filter drier.")],
  ratio: 0.948,
  start: mass(7.46 * LB),
  final: mass(8.29 * LB),
  cycle: [],
  ...part,
});

const noChart = { chart: { refrigerant: "", bubble: [], dew: [], isotherms: [] }, points: [] };
const table: RetrofitTable = {
  refrigerant: "R-22",
  full: mass(8.75 * LB),
  assumptions: [
    { id: "evaporating", label: "evaporating, mean", amount: { value: 278.706, quantity: "temperature", u: null } },
  ],
  lacks: ["the oil"],
  cycle: [],
  by_weight: false,
  rows: [
    row("R-407C"),
    row("R-422D", { properties: [], start: null, final: null, ratio: null }),
    row("R-410A", { stops: [said("395.6 psig on the worst day, and the plate says 300.0 psig.")] }),
  ],
};

beforeEach(() => {
  answer.mockImplementation(async (request: Request) =>
    request.url.includes("/chart")
      ? Response.json(noChart)
      : request.url.includes("retrofit")
        ? Response.json(table)
        : Response.json({ id: 3, name: "Old split", refrigerant: "R-22" }),
  );
});
afterEach(cleanup);

const open = () => showPage(<RetrofitPage />, "/systems/3/retrofit", "/systems/:id/retrofit");

describe("another refrigerant", () => {
  it("says what is stopped and why, before anything may be chosen", async () => {
    open();
    const stopped = within(await screen.findByRole("region", { name: "Stopped first" }));
    expect(stopped.getByText("R-410A")).toBeTruthy();
    expect(stopped.getByText(/plate says 300.0 psig/)).toBeTruthy();
    expect(screen.queryByRole("button", { name: /R-410A/ })).toBeNull();
    expect(screen.getByText(/The plate does not say the oil/)).toBeTruthy();
  });

  it("plans the first that may go in, from the full charge, and another one when it is chosen", async () => {
    open();
    const plan = within(await screen.findByTestId("plan"));
    expect(plan.getByText("Plan for R-407C")).toBeTruthy();
    expect(plan.getByText("× 0.948")).toBeTruthy();
    expect(plan.getByText("8 lb 4.6 oz")).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: /R-422D/ }));
    expect(await screen.findByText("Plan for R-422D")).toBeTruthy();
    expect(screen.getByText(/without it there is no start/)).toBeTruthy();
  });

  it("asks again with another assumption, and keeps what was typed when it is refused", async () => {
    open();
    const box = await screen.findByRole("textbox", { name: "evaporating, mean" });
    expect((box as HTMLInputElement).value).toBe("42.0 °F");
    answer.mockImplementation(async (request: Request) =>
      request.url.includes("/chart")
        ? Response.json(noChart)
        : request.url.includes("retrofit")
          ? Response.json({ detail: "evaporating, mean: “warm” is no number.", code: "invalid" }, { status: 422 })
          : Response.json({ id: 3, name: "Old split", refrigerant: "R-22" }),
    );
    fireEvent.change(box, { target: { value: "warm" } });
    fireEvent.blur(box);
    expect((await screen.findByRole("alert")).textContent).toContain("is no number");
    expect((screen.getByRole("textbox", { name: "evaporating, mean" }) as HTMLInputElement).value).toBe("warm");
    expect(screen.getByText("Plan for R-407C")).toBeTruthy();
  });

  it("asks one question at a time while a condition is dragged, and the last wish is answered", async () => {
    open();
    const slider = await screen.findByRole("slider", { name: /evaporating, mean/ });
    const asked: string[] = [];
    const waiting: (() => void)[] = [];
    answer.mockImplementation((request: Request) => {
      if (!request.url.includes("retrofit")) return Promise.resolve(Response.json(noChart));
      asked.push(new URL(request.url).searchParams.get("evaporating") ?? "");
      return new Promise((resolve) => waiting.push(() => resolve(Response.json(table))));
    });
    for (const value of ["43", "44", "45", "46.5"]) fireEvent.change(slider, { target: { value } });
    await waitFor(() => expect(asked).toHaveLength(1));
    waiting.shift()?.();
    await waitFor(() => expect(asked).toHaveLength(2));
    waiting.shift()?.();
    expect(asked[1]).toBe("46.5 °F");
    expect((screen.getByRole("textbox", { name: "evaporating, mean" }) as HTMLInputElement).value).toBe("46.5 °F");
  });

  it("becomes a job at the conditions it was compared at", async () => {
    open();
    const box = await screen.findByRole("textbox", { name: "evaporating, mean" });
    fireEvent.change(box, { target: { value: "38 °F" } });
    fireEvent.blur(box);
    let body: unknown;
    answer.mockImplementation(async (request: Request) => {
      if (request.method === "POST") {
        body = await request.json();
        return Response.json(
          { detail: "A change of refrigerant needs the circuit.", code: "invalid" },
          { status: 422 },
        );
      }
      return Response.json(request.url.includes("retrofit") ? table : noChart);
    });
    fireEvent.click(await screen.findByRole("button", { name: "Make it the job: R-407C" }));
    expect((await screen.findByRole("alert")).textContent).toContain("needs the circuit");
    expect(body).toMatchObject({
      kind: "retrofit",
      circuit_id: 3,
      change: { refrigerant: "R-407C", conditions: { evaporating: "38 °F" } },
    });
  });
});
