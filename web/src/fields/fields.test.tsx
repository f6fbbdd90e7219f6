import { act, cleanup, fireEvent, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, describe, expect, it } from "vitest";
import { draft, jobView, matchesMedia, said, show, stepResult, withSheet } from "../test-job.tsx";
import { ChoiceField, EntryField, TextField, YesNoField } from "./index.ts";
import { withKey } from "./KeyRow.tsx";

afterEach(cleanup);

const PATH = "/steps/identify/runs/0/sheet/factory_charge";
const CHARGE = <EntryField step="identify" keys={["factory_charge"]} />;
const entry = { value: 4.195729, text: "9 lb 4 oz", unit: "lb oz", source: "plate", by: "M. Orrin", at: null };

describe("a figure with its unit", () => {
  it("keeps every keystroke with the unit a bare number is read in", () => {
    const view = jobView({}, withSheet({}));
    show(view, CHARGE);
    fireEvent.change(screen.getByLabelText("factory charge"), { target: { value: "9" } });
    expect(view.type).toHaveBeenLastCalledWith(PATH, { text: "9", unit: "lb" }, { ready: false });
  });

  it("is committed on leaving it, and cleared by emptying it", () => {
    const view = jobView({}, withSheet({ factory_charge: entry }));
    show(view, CHARGE);
    const box = screen.getByLabelText("factory charge");
    fireEvent.change(box, { target: { value: " " } });
    fireEvent.blur(box);
    expect(view.type).toHaveBeenLastCalledWith(PATH, null, { ready: false });
    expect(view.commit).toHaveBeenCalledWith(PATH);
  });

  it("shows the stored text with its other faces", () => {
    show(jobView({}, withSheet({ factory_charge: entry })), CHARGE);
    expect(screen.getByLabelText("factory charge")).toHaveProperty("value", "9 lb 4 oz");
    expect(screen.getByText("= 9.25 lb = 148.0 oz = 4.196 kg")).toBeTruthy();
  });

  it("shows what the circuit's record says until something is typed", () => {
    show(jobView({}, withSheet({}, { circuit: { plate: { factory_charge: entry } } })), CHARGE);
    expect(screen.getByPlaceholderText("9 lb 4 oz")).toBeTruthy();
    expect(screen.getByText("on record")).toBeTruthy();
  });

  it("shows a draft over the stored value, and its echo", () => {
    const typed = draft(PATH, { seen: entry, value: { text: "7 lb 11 oz", unit: "lb" } });
    const echoes = { [PATH]: { also: ["7.69 lb", "123.0 oz"], is_not: "not 7.11 lb" } };
    show(jobView({ drafts: { [PATH]: typed }, echoes }, withSheet({ factory_charge: entry })), CHARGE);
    expect(screen.getByLabelText("factory charge")).toHaveProperty("value", "7 lb 11 oz");
    expect(screen.getByText("read as 7.69 lb, 123.0 oz")).toBeTruthy();
    expect(screen.getByText("not 7.11 lb")).toBeTruthy();
  });

  it("changes the unit of a bare number at a tap", () => {
    const typed = draft(PATH, { value: { text: "148", unit: "lb" } });
    const view = jobView({ drafts: { [PATH]: typed } }, withSheet({}));
    show(view, CHARGE);
    fireEvent.click(screen.getByRole("button", { name: "factory charge in lb, change the unit" }));
    expect(view.type).toHaveBeenLastCalledWith(PATH, { text: "148", unit: "oz" }, { ready: false });
  });

  it("offers no unit for a text that names its own", () => {
    show(jobView({}, withSheet({ factory_charge: entry })), CHARGE);
    expect(screen.queryByRole("button", { name: /change the unit/ })).toBeNull();
  });

  it("says what is wrong when it is left, and offers the way back", () => {
    const problem = { path: PATH, code: "unit", message: said("16 oz are 1 lb.") };
    const typed = draft(PATH, { seen: entry, value: { text: "9 lb 17 oz" }, ready: true, problem });
    const view = jobView(
      { drafts: { [PATH]: typed }, problems: { [PATH]: problem } },
      withSheet({ factory_charge: entry }),
    );
    show(view, CHARGE);
    expect(screen.getByRole("alert").textContent).toContain("16 oz are 1 lb.");
    expect(screen.getByLabelText("factory charge").getAttribute("aria-invalid")).toBe("true");
    fireEvent.click(screen.getByRole("button", { name: "Back to 9 lb 4 oz" }));
    expect(view.drop).toHaveBeenCalledWith(PATH);
  });

  it("does not scold somebody who is still typing", async () => {
    const problem = { path: PATH, code: "unit", message: said("not a weight") };
    show(jobView({ problems: { [PATH]: problem } }, withSheet({})), CHARGE);
    await userEvent.click(screen.getByLabelText("factory charge"));
    expect(screen.queryByRole("alert")).toBeNull();
  });

  it("asks about an unlikely entry and takes either answer", () => {
    const question = {
      id: `usual:${PATH}:1`,
      path: PATH,
      message: said("{value} is unusual.", { value: { value: 90, quantity: "mass", u: null } }),
      suggestion: "9 lb",
    };
    const view = jobView({}, withSheet({ factory_charge: entry }), [
      stepResult("identify", "Wait", { questions: [question] }),
    ]);
    show(view, CHARGE);
    expect(screen.getByRole("alert").textContent).toContain("198 lb 6.7 oz is unusual.");
    fireEvent.click(screen.getByRole("button", { name: "It is right, keep it" }));
    const answered = `/steps/identify/runs/0/answers/usual:${PATH.replaceAll("/", "~1")}:1`;
    expect(view.type).toHaveBeenLastCalledWith(answered, "kept", { ready: true });
    fireEvent.click(screen.getByRole("button", { name: "Use 9 lb" }));
    expect(view.type).toHaveBeenLastCalledWith(PATH, { text: "9 lb" }, { ready: true });
  });

  it("takes nothing while its step is closed", () => {
    const closed = stepResult("identify", "Holds", { state: "closed" });
    show(jobView({}, withSheet({ factory_charge: entry }), [closed]), CHARGE);
    expect(screen.getByLabelText("factory charge")).toHaveProperty("disabled", true);
  });

  it("shows both values that stand for one field and forces the chosen one", () => {
    const dispute = {
      path: PATH,
      value: { ...entry, text: "9 lb 8 oz", by: "J. Pell" },
      by: "J. Pell",
      at: "2026-06-18T15:04:00Z",
    };
    const view = jobView({}, withSheet({ factory_charge: entry }, { disputes: [dispute] }));
    show(view, CHARGE);
    expect(screen.getByText("Two values, both kept")).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: /Use 9 lb 8 oz/ }));
    expect(view.type).toHaveBeenLastCalledWith(PATH, { text: "9 lb 8 oz", unit: "lb" }, { ready: true, force: true });
  });

  it("shows every value of a word typed differently, and says nothing of weighing", () => {
    const grade = "/steps/repair/runs/0/sheet/oil_grade";
    const others = ["PAG 46", "PVE 68"].map((value) => ({ path: grade, value, by: "J. Pell", at: null }));
    const job = { steps: { repair: { runs: [{ sheet: { oil_grade: "POE 68" } }] } }, disputes: others };
    const view = jobView({}, job);
    view.findings.steps = [stepResult("repair", "Wait")];
    show(view, <TextField step="repair" keys={["oil_grade"]} />);
    expect(screen.getByText("3 values, all kept")).toBeTruthy();
    expect(screen.queryByText(/weighing in/)).toBeNull();
    fireEvent.click(screen.getByRole("button", { name: /Use PAG 46/ }));
    expect(view.type).toHaveBeenLastCalledWith(grade, "PAG 46", { ready: true, force: true });
  });

  it("has unit keys for a thumb", async () => {
    const typed = draft(PATH, { value: { text: "9", unit: "lb" } });
    const view = jobView({ drafts: { [PATH]: typed } }, withSheet({}));
    show(view, CHARGE);
    await userEvent.click(screen.getByLabelText("factory charge"));
    fireEvent.click(screen.getByRole("button", { name: "lb" }));
    expect(view.type).toHaveBeenLastCalledWith(PATH, { text: "9 lb ", unit: "lb" }, { ready: false });
    fireEvent.click(screen.getByRole("button", { name: "kg" }));
    expect(view.type).toHaveBeenLastCalledWith(PATH, { text: "9 kg ", unit: "lb" }, { ready: false });
  });
});

describe("choices, words and yes or no", () => {
  it("a choice is sent at once: on a phone by a button each, which takes it back when pressed again", () => {
    const view = jobView({}, withSheet({}));
    show(view, <ChoiceField step="identify" keys={["metering"]} />);
    fireEvent.click(screen.getByRole("radio", { name: "fixed orifice" }));
    expect(view.type).toHaveBeenLastCalledWith("/steps/identify/runs/0/sheet/metering", "orifice", { ready: true });
    cleanup();
    const chosen = jobView({}, withSheet({ metering: "orifice" }));
    show(chosen, <ChoiceField step="identify" keys={["metering"]} />);
    fireEvent.click(screen.getByRole("radio", { name: "fixed orifice" }));
    expect(chosen.type).toHaveBeenLastCalledWith("/steps/identify/runs/0/sheet/metering", null, { ready: true });
  });

  it("a choice is sent at once from the list of a desk", () => {
    const back = matchesMedia();
    const view = jobView({}, withSheet({}));
    show(view, <ChoiceField step="identify" keys={["metering"]} />);
    back();
    fireEvent.change(screen.getByLabelText("metering device"), { target: { value: "orifice" } });
    expect(view.type).toHaveBeenLastCalledWith("/steps/identify/runs/0/sheet/metering", "orifice", { ready: true });
    fireEvent.change(screen.getByLabelText("metering device"), { target: { value: "" } });
    expect(view.type).toHaveBeenLastCalledWith("/steps/identify/runs/0/sheet/metering", null, { ready: true });
  });

  it("a choice is a button each under a thumb, also on a wide tablet", () => {
    const back = matchesMedia(true);
    show(jobView({}, withSheet({})), <ChoiceField step="identify" keys={["metering"]} />);
    back();
    expect(screen.getByRole("radio", { name: "fixed orifice" })).toBeTruthy();
    expect(screen.queryByRole("combobox")).toBeNull();
  });

  it("words keep their length and offer completions", () => {
    const view = jobView({}, withSheet({ refrigerant: "R-32" }));
    const { container } = show(view, <TextField step="identify" keys={["refrigerant"]} list={["R-32", "R-410A"]} />);
    const box = screen.getByLabelText("refrigerant");
    expect(box).toHaveProperty("value", "R-32");
    expect(box.getAttribute("maxlength")).toBe("40");
    expect(container.querySelectorAll("datalist option")).toHaveLength(2);
    fireEvent.change(box, { target: { value: "R-410A" } });
    fireEvent.blur(box);
    expect(view.type).toHaveBeenLastCalledWith("/steps/identify/runs/0/sheet/refrigerant", "R-410A");
    expect(view.commit).toHaveBeenCalled();
  });

  it("yes and no weigh the same and neither is preset", () => {
    const view = jobView({}, withSheet({}));
    show(view, <YesNoField step="identify" keys={["pairing_proven"]} />);
    const [yes, no] = screen.getAllByRole("radio");
    expect([yes, no].map((box) => (box as HTMLInputElement).checked)).toEqual([false, false]);
    fireEvent.click(screen.getByLabelText("No"));
    expect(view.type).toHaveBeenLastCalledWith("/steps/identify/runs/0/sheet/pairing_proven", false, { ready: true });
  });
});

describe("keys that a number pad lacks", () => {
  it("puts units behind what was typed, and a minus before it or away again", () => {
    expect(withKey("9", "lb")).toBe("9 lb ");
    expect(withKey("9 lb 4", "oz")).toBe("9 lb 4 oz ");
    expect(withKey("148", "oz")).toBe("148 oz");
    expect(withKey("12", "−")).toBe("-12");
    expect(withKey("-12", "−")).toBe("12");
  });

  it("goes on to the next field that waits: not into a choice that was made", () => {
    const view = jobView({}, withSheet({ metering: "txv" }));
    show(
      view,
      <main>
        <EntryField step="identify" keys={["altitude"]} />
        <ChoiceField step="identify" keys={["metering"]} />
        <ChoiceField step="identify" keys={["gauge_reference"]} />
        <EntryField step="identify" keys={["tolerance"]} />
      </main>,
    );
    for (const place of document.querySelectorAll("input"))
      Object.defineProperty(place, "offsetParent", { value: document.body });
    const [first] = screen.getAllByRole("textbox") as [HTMLElement, ...HTMLElement[]];
    act(() => first.focus());
    fireEvent.click(screen.getByRole("button", { name: "next field" }));
    expect(document.activeElement).toBe(screen.getByRole("radio", { name: "vented" }));
  });
});
