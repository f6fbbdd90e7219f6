import { cleanup, fireEvent, screen, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { StillOpen } from "../features/job/StillOpen.tsx";
import { answer } from "../test-device.ts";
import { jobView, show, stepResult } from "../test-job.tsx";
import { EntryField } from "./EntryField.tsx";
import { LogAside } from "./LogAside.tsx";
import { Readings } from "./Readings.tsx";

beforeEach(() => {
  answer.mockReset();
  answer.mockResolvedValue(Response.json({ data: [] }));
});
afterEach(cleanup);

const entry = (source: string) => ({ value: 2.4, text: "5 lb 5 oz", unit: "lb oz", source });
const identified = (source: string) =>
  jobView({}, { steps: { identify: { runs: [{ sheet: { factory_charge: entry(source) } }] } } }, [
    stepResult("identify", "Open"),
  ]);
const CHARGE = "/steps/identify/runs/0/sheet/factory_charge";

describe("how a figure is known", () => {
  it("stands under the figure and is changed at one tap, the figure as typed", () => {
    const view = identified("plate");
    show(view, <EntryField step="identify" keys={["factory_charge"]} how />);
    const how = screen.getByLabelText("factory charge: how it is known");
    expect(how).toHaveProperty("value", "plate");
    expect(within(how).getAllByRole("option")[0]?.textContent).toBe("weighed");
    fireEvent.change(how, { target: { value: "told" } });
    expect(view.type).toHaveBeenCalledWith(CHARGE, { text: "5 lb 5 oz", unit: "lb", source: "told" }, { ready: true });
  });

  it("asks for it where nobody said", () => {
    show(identified("typed"), <EntryField step="identify" keys={["factory_charge"]} how />);
    expect(screen.getByRole("option", { name: "say how" })).toHaveProperty("selected", true);
  });

  it("is a word and no choice once the step is closed, and is not there before there is a figure", () => {
    const view = identified("makers");
    view.findings.steps = [stepResult("identify", "Holds", { state: "closed" })];
    show(view, <EntryField step="identify" keys={["factory_charge"]} how />);
    expect(screen.getByText("maker's data")).toBeTruthy();
    expect(screen.queryByRole("combobox")).toBeNull();
    cleanup();
    show(
      jobView({}, {}, [stepResult("identify", "Open")]),
      <EntryField step="identify" keys={["factory_charge"]} how />,
    );
    expect(screen.queryByRole("combobox")).toBeNull();
  });
});

describe("what is still open", () => {
  const pairing = {
    path: "/steps/identify/runs/0/sheet/pairing_proven",
    label: "proof that these units are a pair",
    hard: true,
  };

  it("is answered where it is asked, though its own step is closed", () => {
    const view = jobView({}, {}, [
      stepResult("identify", "Holds", { state: "closed" }),
      stepResult("recover", "Open", { missing: [pairing] }),
    ]);
    show(view, <StillOpen step="recover" />);
    expect(screen.getByTestId("missing").textContent).toBe("Still needed: proof that these units are a pair");
    fireEvent.click(within(screen.getByTestId("asked-elsewhere")).getByLabelText("Yes"));
    expect(view.type).toHaveBeenCalledWith(pairing.path, true, { ready: true });
  });

  it("takes no second answer there", () => {
    const answered = { steps: { identify: { runs: [{ sheet: { pairing_proven: false } }] } } };
    const view = jobView({}, answered, [
      stepResult("identify", "Holds", { state: "closed" }),
      stepResult("recover", "Open", { missing: [pairing] }),
    ]);
    show(view, <StillOpen step="recover" />);
    expect(within(screen.getByTestId("asked-elsewhere")).getByLabelText("Yes")).toHaveProperty("disabled", true);
  });

  it("leads to the field of its own step, out of whatever is folded away", () => {
    Element.prototype.scrollIntoView = () => undefined;
    const view = jobView({}, {}, [
      stepResult("identify", "Open", { missing: [{ path: CHARGE, label: "factory charge", hard: false }] }),
    ]);
    show(
      view,
      <>
        <details>
          <EntryField step="identify" keys={["factory_charge"]} />
        </details>
        <StillOpen step="identify" />
      </>,
    );
    fireEvent.click(screen.getByRole("button", { name: "factory charge" }));
    expect(document.querySelector("details")?.open).toBe(true);
    expect(document.activeElement?.tagName).toBe("INPUT");
    expect(screen.queryByTestId("asked-elsewhere")).toBeNull();
  });
});

describe("a reading set aside", () => {
  const rows = {
    r1: { at: "2026-06-18T10:00:00Z", pressure: { value: 1e6, text: "145 psig", unit: "psig", source: "measured" } },
  };
  it("is given its reason, and stays", () => {
    const view = jobView({}, { steps: { pressure_hold: { runs: [{ sheet: { readings: rows } }] } } });
    view.findings.steps = [stepResult("pressure_hold", "Open")];
    show(view, <Readings step="pressure_hold" record="readings" fields={["pressure"]} go="Type a reading" />);
    const fold = document.querySelector("details") as HTMLDetailsElement;
    fold.open = true;
    fireEvent(fold, new Event("toggle"));
    fireEvent.click(screen.getByRole("button", { name: "Set this reading aside" }));
    fireEvent.change(screen.getByLabelText("set aside because"), { target: { value: "the hose leaked" } });
    expect(view.type).toHaveBeenCalledWith(
      "/steps/pressure_hold/runs/0/sheet/readings/r1/set_aside",
      "the hose leaked",
    );
  });

  const drawnOf = (points: number) => {
    const seconds = Array.from({ length: points }, (_, n) => n * 60);
    const curve = { id: "measured", label: "gauge", seconds, values: seconds.map(() => 40) };
    const view = jobView({}, { steps: { evacuate: { runs: [{ sheet: { readings: { r1: {}, r2: {} } } }] } } });
    const picture = { charts: [{ id: "pull", curves: [curve] }] };
    view.findings.steps = [stepResult("evacuate", "Open", { picture } as never)];
    return view;
  };

  it("a stretch of a log likewise, from when to when", () => {
    const view = drawnOf(40);
    show(view, <LogAside step="evacuate" record="readings" />);
    fireEvent.click(screen.getByRole("button", { name: "Set part of the log aside" }));
    expect(screen.getByLabelText("from")).toBeTruthy();
    expect(screen.getByLabelText("to, empty for one reading")).toBeTruthy();
    fireEvent.change(screen.getByLabelText("set aside because"), { target: { value: "oil on the sensor" } });
    expect(view.type).toHaveBeenCalledWith("/steps/evacuate/runs/0/sheet/aside/a1/set_aside", "oil on the sensor");
  });

  it("is not offered where all that is drawn was typed", () => {
    show(drawnOf(3), <LogAside step="evacuate" record="readings" />);
    expect(screen.queryByRole("button")).toBeNull();
  });
});
