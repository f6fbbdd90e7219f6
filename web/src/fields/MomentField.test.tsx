import { cleanup, fireEvent, screen } from "@testing-library/react";
import { afterEach, describe, expect, it } from "vitest";
import type { JobView } from "../job/context.ts";
import { jobView, show } from "../test-job.tsx";
import { MomentField } from "./MomentField.tsx";

afterEach(() => {
  cleanup();
  sessionStorage.clear();
});

const field = (part: Partial<JobView> = {}) => show(jobView(part), <MomentField step="verify" keys={["started_at"]} />);
const box = () => screen.getByRole("textbox") as HTMLInputElement;

describe("a time somebody is writing", () => {
  it("is there again after a reload, and says how to write it once it is left", () => {
    field();
    fireEvent.change(box(), { target: { value: "half past" } });
    cleanup();
    field();
    expect(box().value).toBe("half past");
    expect(screen.getByRole("alert").textContent).toContain("Write it as 15:04");
  });

  it("is kept nowhere else once it could be read", () => {
    const said: unknown[] = [];
    field({ type: (path, value) => void said.push([path, value]) });
    fireEvent.change(box(), { target: { value: "15:04" } });
    fireEvent.blur(box());
    expect(said).toHaveLength(1);
    expect(sessionStorage.length).toBe(0);
  });
});
