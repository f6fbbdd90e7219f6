import { cleanup, render, waitFor } from "@testing-library/react";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { useAwake } from "./useAwake.ts";

const release = vi.fn(async () => undefined);
const request = vi.fn(async () => ({ release }));

function Held({ on }: { on: boolean }) {
  useAwake(on);
  return null;
}

beforeEach(() => {
  request.mockClear();
  release.mockClear();
  vi.stubGlobal("navigator", Object.assign(Object.create(navigator), { wakeLock: { request } }));
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

it("keeps the screen on while something is on show, again when the page is back in front, and lets it go", async () => {
  const { rerender } = render(<Held on={false} />);
  expect(request).not.toHaveBeenCalled();
  rerender(<Held on />);
  await waitFor(() => expect(request).toHaveBeenCalledTimes(1));
  document.dispatchEvent(new Event("visibilitychange"));
  await waitFor(() => expect(request).toHaveBeenCalledTimes(2));
  rerender(<Held on={false} />);
  await waitFor(() => expect(release).toHaveBeenCalled());
  document.dispatchEvent(new Event("visibilitychange"));
  expect(request).toHaveBeenCalledTimes(2);
});

it("does without where a browser has no such lock, or refuses it", async () => {
  request.mockRejectedValueOnce(new Error("low battery"));
  render(<Held on />);
  await waitFor(() => expect(request).toHaveBeenCalled());
  cleanup();
  vi.stubGlobal("navigator", {});
  render(<Held on />);
});
