import { cleanup, fireEvent, screen, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { answer } from "../../test-device.ts";
import { jobView, said, show } from "../../test-job.tsx";
import RefrigerantsPage from "./RefrigerantsPage.tsx";

const row = (name: string, glide_k: number, parts: { name: string; mass_share: number }[] = []) => ({
  name,
  safety_class: "A1",
  gwp_ar4: 1774,
  stands_on: "published pressure charts, 2 values from memory, and its boiling point",
  oils: ["POE"],
  parts,
  glide_k,
  liquid_only: parts.length > 1,
  first_k: 200,
  last_k: 350,
});

const saturation = (problems: unknown[] = []) => ({
  refrigerant: "R-410A",
  site_pressure_pa: 78_300,
  gauge_zero_pa: 78_300,
  critical_k: 344.5,
  table: [
    { temperature_k: 277.594, bubble_gauge_pa: 813_600, dew_gauge_pa: 810_000 },
    { temperature_k: 327.594, bubble_gauge_pa: 3_300_000, dew_gauge_pa: 3_280_000 },
  ],
  bubble_k: 277.55,
  dew_k: 277.65,
  glide_k: 0.1,
  sealed_dew_k: 279.2,
  gauge_pa: 813_600,
  temperature_k: 310.93,
  bubble_gauge_pa: 2_190_000,
  dew_gauge_pa: 2_180_000,
  liquid_kg_m3: 980,
  vapor_kg_m3: 90,
  problems,
});

const at = (pressure_pa: number, enthalpy_j_kg: number, temperature_k: number) => ({
  pressure_pa,
  enthalpy_j_kg,
  temperature_k,
});
const DOME = {
  refrigerant: "R-410A",
  bubble: [at(1e5, 160e3, 222), at(2e6, 260e3, 305)],
  dew: [at(1e5, 395e3, 222), at(2e6, 425e3, 305)],
  isotherms: [],
};
let read: unknown[] = [];
let asked: URL[] = [];
let problems: unknown[] = [];

beforeEach(() => {
  asked = [];
  problems = [];
  read = [];
  answer.mockImplementation(async (request: Request) => {
    const url = new URL(request.url);
    asked.push(url);
    if (url.pathname.endsWith("/saturation")) return Response.json(saturation(problems));
    if (url.pathname.endsWith("/chart")) return Response.json({ chart: DOME, points: read });
    if (url.pathname.endsWith("/jobs"))
      return Response.json({ jobs: [{ code: "j7", title: "Annex split", kind: "service" }], next: null });
    if (url.pathname.endsWith("/refrigerants"))
      return Response.json([
        row("R-410A", 0.1, [
          { name: "R-32", mass_share: 0.5 },
          { name: "R-125", mass_share: 0.5 },
        ]),
        row("R-22", 0),
      ]);
    return Response.json({
      rows: [{ id: 1, site: "Skellane", name: "Split", plate: { altitude: { text: "2100 m" } } }],
      next: null,
    });
  });
});
afterEach(cleanup);

const lastAsk = () => asked.filter((url) => url.pathname.endsWith("/saturation")).at(-1)?.searchParams;

describe("the refrigerants page", () => {
  it("shows bubble and dew side by side at the site's altitude", async () => {
    show(jobView(), <RefrigerantsPage />);
    await waitFor(() => expect(screen.getByTestId("dew-temperature").textContent).toContain("40.1"));
    expect(screen.getByTestId("bubble-temperature").textContent).toContain("39.9");
    expect(screen.getByTestId("glide-temperature_delta").textContent).toContain("0.2");
    await waitFor(() => expect(lastAsk()?.get("altitude")).toBe("2100 m"));
    expect(screen.getByText(/The same reading on a sealed gauge/)).toBeTruthy();
  });

  it("says what leaves the cylinder, and what it is made of", async () => {
    show(jobView(), <RefrigerantsPage />);
    await waitFor(() => expect(screen.getByText(/leaves the cylinder as liquid/)).toBeTruthy());
    expect(screen.getByText("R-32 50 % · R-125 50 %")).toBeTruthy();
    expect(screen.getByText(/published pressure charts, 2 values/)).toBeTruthy();
    expect(screen.getAllByText(/no glide/)).toHaveLength(1);
  });

  it("asks again with what was typed, as typed", async () => {
    show(jobView(), <RefrigerantsPage />);
    await waitFor(() => screen.getByLabelText(/^pressure/, { selector: "input" }));
    fireEvent.change(screen.getByLabelText(/^pressure/, { selector: "input" }), { target: { value: "8 bar" } });
    await waitFor(() => expect(lastAsk()?.get("pressure")).toBe("8 bar"));
    fireEvent.click(screen.getByRole("radio", { name: "Sealed" }));
    await waitFor(() => expect(lastAsk()?.get("gauge")).toBe("sealed"));
  });

  it("moves the crosshair by arrow keys, from pressure and from temperature", async () => {
    show(jobView(), <RefrigerantsPage />);
    const handle = await screen.findByRole("slider", { name: "pressure, psig" });
    expect(handle.getAttribute("aria-valuetext")).toContain("bubble 39.9 °F, dew 40.1 °F");
    fireEvent.keyDown(handle, { key: "ArrowRight" });
    await waitFor(() => expect(lastAsk()?.get("pressure")).toBe("119"));
    fireEvent.keyDown(screen.getByRole("slider"), { key: "PageDown" });
    await waitFor(() => expect(lastAsk()?.get("pressure")).toBe("108"));
    fireEvent.click(screen.getByRole("radio", { name: "from temperature" }));
    fireEvent.keyDown(screen.getByRole("slider", { name: "temperature, °F" }), { key: "ArrowUp" });
    await waitFor(() => expect(lastAsk()?.get("temperature")).toBe("101"));
  });

  it("says beside a field why it cannot be read, and keeps the rest", async () => {
    problems = [{ path: "/pressure", code: "range", message: said("Above the critical point.") }];
    show(jobView(), <RefrigerantsPage />);
    await waitFor(() => expect(screen.getByText("Above the critical point.")).toBeTruthy());
    expect(screen.getByLabelText(/^pressure/, { selector: "input" }).getAttribute("aria-invalid")).toBe("true");
    expect(screen.getByLabelText(/^or temperature/, { selector: "input" }).getAttribute("aria-invalid")).toBeNull();
  });

  it("finds by any spelling, and says when it is not here", async () => {
    show(jobView(), <RefrigerantsPage />);
    await waitFor(() => screen.getByRole("link", { name: /R-22/ }));
    fireEvent.change(screen.getByLabelText("find a refrigerant"), { target: { value: "r 22" } });
    expect(screen.queryByRole("link", { name: /R-410A/ })).toBeNull();
    fireEvent.change(screen.getByLabelText("find a refrigerant"), { target: { value: "R-999" } });
    expect(screen.getByText(/A plan by weight is still possible/)).toBeTruthy();
  });

  it("puts a job's readings on the chart, and says which is reckoned", async () => {
    read = [
      {
        label: "reading 1",
        suction: at(9e5, 430e3, 285),
        discharge: at(25e5, 470e3, 345),
        liquid: at(25e5, 265e3, 310),
        inlet: at(9e5, 265e3, 277),
        vapour_share: 0.23,
        dew_k: 277.0,
        superheat_k: 8.0,
        bubble_k: 313.0,
        subcooling_k: 3.0,
      },
    ];
    show(jobView(), <RefrigerantsPage />);
    await screen.findAllByRole("option", { name: "Annex split" });
    fireEvent.change(screen.getByLabelText("readings of"), { target: { value: "j7" } });
    const corners = await screen.findByTestId("corners");
    await waitFor(() => expect(corners.textContent).toContain("discharge, worked out161.3 °F"));
    expect(corners.textContent).toContain("23 % vapour");
    expect(screen.getByTestId("drops").textContent).toContain("superheat 14.4 °F");
    expect(screen.getByTestId("drops").textContent).toContain("subcooling 5.4 °F");
    expect(asked.some((url) => url.searchParams.get("job") === "j7")).toBe(true);
  });
});
