import { cleanup, fireEvent, screen, waitFor, within } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { answer } from "../../test-device.ts";
import { signedIn } from "../../test-job.tsx";
import { AddCard } from "./AddCard.tsx";
import { OneCard } from "./CardDialog.tsx";

const field = (name: string, label: string, value: string, more = {}) => ({
  name,
  label,
  value,
  most: 120,
  needed: false,
  hint: "",
  options: [],
  ...more,
});
const CARD = {
  kind: "circuit",
  id: 3,
  title: "Dome split",
  parent_kind: "system",
  parent: { id: 9, title: "Dome" },
  fields: [field("name", "name", "Dome split"), field("factory_charge", "factory charge", "9 lb 4 oz")],
  archived: false,
  merged_into: null,
  in_use: "",
  below: [],
  events: [
    {
      id: 4,
      what: "merged",
      at: "2026-06-18T10:00:00Z",
      by: "T. Vesk",
      title: "Dome, again",
      changed: [],
      undone: false,
    },
    {
      id: 2,
      what: "edited",
      at: "2026-06-17T10:00:00Z",
      by: "M. Orrin",
      title: "",
      changed: [{ name: "factory_charge", was: "9 lb", now: "9 lb 4 oz" }],
      undone: false,
    },
  ],
};
const PREVIEW = {
  keeps: "Dome split",
  goes: "Dome 2",
  refused: "",
  moves: [
    { what: "jobs", count: 2 },
    { what: "charges put in", count: 1 },
  ],
  differs: [{ label: "number", kept: "D-1", gone: "D-2" }],
  books: "9 lb 0.0 oz and 9 lb 0.0 oz make 18 lb 0.0 oz put in, less recovered.",
  twice: true,
};
let sent: { url: string; body: Record<string, unknown> }[] = [];
let refuse: object | null = null;
let card = CARD;
let preview = PREVIEW;

beforeEach(() => {
  sent = [];
  refuse = null;
  card = CARD;
  preview = PREVIEW;
  answer.mockImplementation(async (request: Request) => {
    const { pathname } = new URL(request.url);
    if (request.method === "POST") {
      sent.push({ url: pathname, body: JSON.parse(await request.text()) });
      return refuse ? Response.json(refuse, { status: 422 }) : Response.json(card);
    }
    if (pathname.includes("/merge/")) return Response.json(preview);
    if (pathname.endsWith("/blank"))
      return Response.json({ parent_kind: "", fields: [field("name", "name", "", { needed: true })] });
    if (/cards\/[a-z]+$/.test(pathname))
      return Response.json({ rows: [{ id: 8, title: "Dome 2", below: "Dome" }], next: null });
    return Response.json(card);
  });
});
afterEach(cleanup);

const open = (role = "lead") => signedIn(<OneCard kind="circuit" id={3} />, { role });

describe("a card", () => {
  it("sends only what was changed, with what it was, and says when nothing is", async () => {
    open();
    const charge = await screen.findByLabelText("factory charge");
    expect(screen.getByText("Nothing is changed yet.")).toBeTruthy();
    fireEvent.change(charge, { target: { value: "9 lb 8 oz" } });
    fireEvent.click(screen.getByRole("button", { name: "Save" }));
    await waitFor(() => expect(sent).toHaveLength(1));
    expect(sent[0]).toMatchObject({
      url: "/api/cards/circuit/3/edit",
      body: { edits: [{ name: "factory_charge", was: "9 lb 4 oz", now: "9 lb 8 oz" }], parent: null },
    });
  });

  it("keeps what was typed beside what somebody else wrote meanwhile", async () => {
    open();
    fireEvent.change(await screen.findByLabelText("name"), { target: { value: "Dome, west" } });
    refuse = { code: "changed_meanwhile", detail: "Somebody wrote “Dome, east” here meanwhile.", path: "/name" };
    fireEvent.click(screen.getByRole("button", { name: "Save" }));
    expect((await screen.findByRole("alert")).textContent).toContain("Dome, east");
    expect(screen.getByLabelText("name")).toHaveProperty("value", "Dome, west");
  });

  it("shows what a merge would do before it is done, and counts one charge once", async () => {
    open();
    await screen.findByRole("option", { name: "Dome 2, Dome" });
    fireEvent.change(screen.getByLabelText("the other circuit"), { target: { value: "8" } });
    expect(await screen.findByText("Comes over: jobs 2, charges put in 1.")).toBeTruthy();
    expect(screen.getByText(/make 18 lb 0.0 oz/)).toBeTruthy();
    fireEvent.click(screen.getByRole("button", { name: "Merge the two" }));
    await waitFor(() => expect(sent[0]).toMatchObject({ body: { other: 8, once_only: true } }));
  });

  it("says why two cannot be merged, and offers no button", async () => {
    preview = { ...PREVIEW, refused: "One holds R-410A, the other R-22." };
    open();
    await screen.findByRole("option", { name: "Dome 2, Dome" });
    fireEvent.change(screen.getByLabelText("the other circuit"), { target: { value: "8" } });
    expect(await screen.findByText("One holds R-410A, the other R-22.")).toBeTruthy();
    expect(screen.queryByRole("button", { name: "Merge the two" })).toBeNull();
  });

  it("says beside a button that cannot be pressed why", async () => {
    card = { ...CARD, in_use: "“Top-up” is still open there." };
    open();
    const archive = await screen.findByRole("button", { name: "Archive it" });
    expect(archive).toHaveProperty("disabled", true);
    expect(screen.getByText("“Top-up” is still open there.")).toBeTruthy();
  });

  it("keeps what was done to it, and undoes a merge that still holds", async () => {
    open();
    const done = within(await screen.findByRole("region", { name: "What was done to it" }));
    expect(done.getByText("factory charge: 9 lb → 9 lb 4 oz")).toBeTruthy();
    fireEvent.click(done.getByRole("button", { name: "Undo this merge" }));
    await waitFor(() => expect(sent[0]?.url).toBe("/api/cards/merges/4/undo"));
  });

  it("offers a technician neither merge nor archive", async () => {
    open("technician");
    await screen.findByText("The lead merges and archives.");
    for (const name of ["Archive it", "Undo this merge"]) expect(screen.queryByRole("button", { name })).toBeNull();
  });
});

it("adds a card once, whatever is pressed while no answer comes", async () => {
  signedIn(<AddCard kind="customer" />, { role: "lead" });
  fireEvent.click(screen.getByRole("button", { name: "Add a customer" }));
  fireEvent.change(await screen.findByLabelText("name"), { target: { value: "Hut" } });
  answer.mockImplementationOnce(async (request: Request) => {
    sent.push({ url: "", body: JSON.parse(await request.text()) });
    return new Response(null, { status: 503 });
  });
  fireEvent.click(screen.getByRole("button", { name: "Add it" }));
  await screen.findByText(/No answer from the server/);
  fireEvent.click(screen.getByRole("button", { name: "Add it" }));
  await waitFor(() => expect(sent).toHaveLength(2));
  expect(sent[0]?.body.key).toBe(sent[1]?.body.key);
  expect(sent[1]?.body).toMatchObject({ parent: null, fields: { name: "Hut" } });
});
