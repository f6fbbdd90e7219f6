import { act, cleanup, render, screen } from "@testing-library/react";
import { afterEach, expect, it } from "vitest";
import { client } from "../api/client.ts";
import { answer } from "../test-device.ts";
import { Busy } from "./Busy.tsx";

afterEach(cleanup);

function held() {
  let reply: (value: Response | Error) => void = () => undefined;
  answer.mockImplementation(
    () =>
      new Promise((resolve, reject) => {
        reply = (value) => (value instanceof Error ? reject(value) : resolve(value));
      }),
  );
  return (value: Response | Error) => act(async () => reply(value));
}
const shown = () => screen.queryByText("Working …") !== null;
const discard = () =>
  client.POST("/api/jobs/{code}/discard", {
    params: { path: { code: "a" } },
    body: { key: "12345678", discarded: true },
  });

it("stands from the press to the answer, also where none comes", async () => {
  render(<Busy />);
  for (const end of [Response.json({}), Response.json({}, { status: 422 }), new TypeError("gone")]) {
    const reply = held();
    let asked: Promise<unknown> = Promise.resolve();
    await act(async () => {
      asked = discard().catch(() => undefined);
    });
    expect(shown()).toBe(true);
    await reply(end);
    await asked;
    expect(shown()).toBe(false);
  }
});

it("does not flicker for what is saved while typing", async () => {
  render(<Busy />);
  const reply = held();
  let asked: Promise<unknown> = Promise.resolve();
  await act(async () => {
    asked = client.POST("/api/jobs/{code}/preview", { params: { path: { code: "a" } }, body: { changes: [] } });
  });
  expect(shown()).toBe(false);
  await reply(Response.json({}));
  await asked;
});
