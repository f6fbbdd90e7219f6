import { act, cleanup, fireEvent, renderHook, screen } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { draft, jobView, show } from "../../test-job.tsx";
import { Saved } from "./Saved.tsx";
import { asTyped, useUndo } from "./useUndo.ts";

afterEach(() => {
  cleanup();
  vi.useRealTimers();
});

const entry = {
  value: 4.2,
  text: "9 lb 4 oz",
  unit: "lb oz",
  source: "plate",
  limit: null,
  by: "M. Orrin",
  at: "2026-11-30T09:00:00Z",
};

describe("the last change", () => {
  it("is taken back as it was typed, a whole row with its fields", () => {
    expect(asTyped(entry)).toEqual({ text: "9 lb 4 oz", unit: "lb", source: "plate" });
    expect(asTyped({ label: "drier", charge: entry, removes: null })).toEqual({
      label: "drier",
      charge: { text: "9 lb 4 oz", unit: "lb", source: "plate" },
    });
    expect(asTyped(null)).toBeNull();
    expect(asTyped("txv")).toBe("txv");
  });

  it("is all that one press changed, and no more than that", () => {
    vi.useFakeTimers();
    const { result: undo } = renderHook(() => useUndo());
    act(() => undo.current.note("/a", "old", false));
    vi.advanceTimersByTime(5_000);
    act(() => {
      undo.current.note("/b", null, false);
      undo.current.note("/c", true, false);
    });
    vi.advanceTimersByTime(2_000);
    act(() => undo.current.note("/c", "later keystroke of the same", true));
    let taken: [string, unknown][] = [];
    act(() => {
      taken = undo.current.take();
    });
    expect(taken).toEqual([
      ["/c", true],
      ["/b", null],
    ]);
    expect(undo.current.last).toBeNull();
  });

  it("stands beside when it was saved", () => {
    const undo = vi.fn();
    show({ ...jobView(), undo }, <Saved />);
    expect(screen.getByTestId("saved").textContent).toMatch(/^saved \d\d:\d\d/);
    fireEvent.click(screen.getByRole("button", { name: "Undo" }));
    expect(undo).toHaveBeenCalledOnce();
    cleanup();
    show({ ...jobView(), drafts: { "/x": draft("/x", {}) }, link: "offline" }, <Saved />);
    expect(screen.getByTestId("saved").textContent).toBe("1 kept on this device");
  });
});
