/** The ways something is entered beside the steps: which side, what is done, and what is asked about it. */
export type Kind = "in" | "out" | "lost" | "tracer" | "found" | "let_back" | "shut" | "at_zero" | "passes" | "freed";
export type Way = {
  id: string;
  kind: Kind;
  label: string;
  hint: string;
  fields: ("scale" | "mass" | "circuit" | "cylinder" | "part" | "medium" | "port")[];
};
export type Side = "in" | "out" | "found" | "shut";

export const SIDES: [Side, string][] = [
  ["in", "Goes in"],
  ["out", "Comes out"],
  ["found", "Was in it"],
  ["shut", "Shut off"],
];
export const WAYS: Record<Side, Way[]> = {
  in: [
    {
      id: "scale",
      kind: "in",
      label: "Cylinder or can on the scale",
      hint: "weighed before and after",
      fields: ["cylinder", "scale"],
    },
    {
      id: "circuit",
      kind: "in",
      label: "From another circuit",
      hint: "the same refrigerant and owner only",
      fields: ["circuit", "mass"],
    },
    {
      id: "some",
      kind: "in",
      label: "Not weighed",
      hint: "“some”; weigh the cylinder later and fill it in here",
      fields: ["cylinder", "scale"],
    },
    {
      id: "tracer",
      kind: "tracer",
      label: "Tracer",
      hint: "a little, with nitrogen, to search by",
      fields: ["cylinder", "scale"],
    },
    {
      id: "let_back",
      kind: "let_back",
      label: "Its own charge let back",
      hint: "valves opened: liquid first, then suction",
      fields: [],
    },
  ],
  out: [
    {
      id: "scale",
      kind: "out",
      label: "Into a cylinder on the scale",
      hint: "weighed before and after",
      fields: ["cylinder", "scale"],
    },
    {
      id: "told",
      kind: "out",
      label: "Taken out by others",
      hint: "as told: it plans, it never proves",
      fields: ["mass"],
    },
    {
      id: "circuit",
      kind: "out",
      label: "For another circuit",
      hint: "with a day: set aside until then, and seen coming there",
      fields: ["circuit", "mass"],
    },
    {
      id: "lost",
      kind: "lost",
      label: "Went off into the air",
      hint: "a leak, a burst, a tracer let off",
      fields: ["mass"],
    },
  ],
  shut: [
    {
      id: "shut",
      kind: "shut",
      label: "Valves shut on a part",
      hint: "hold and pull are then of the rest alone",
      fields: ["part", "medium"],
    },
    {
      id: "opened",
      kind: "let_back",
      label: "That part opened again",
      hint: "never into nitrogen, open lines or a running pump",
      fields: ["part"],
    },
    {
      id: "at_zero",
      kind: "at_zero",
      label: "A part let to zero",
      hint: "before it is cut or heated",
      fields: ["part"],
    },
    {
      id: "passes",
      kind: "passes",
      label: "A shut valve lets through",
      hint: "then both sides are not known",
      fields: ["part"],
    },
    {
      id: "freed",
      kind: "freed",
      label: "A blocked port opened",
      hint: "what was read through it before does not count",
      fields: ["port"],
    },
  ],
  found: [
    {
      id: "found",
      kind: "found",
      label: "Inside when we came",
      hint: "as found or told; nought where it was empty",
      fields: ["mass"],
    },
  ],
};

/** The way an act was entered by, from what is stored of it. */
export function entered(stored: Record<string, unknown> | null): Chosen {
  const kind = stored?.kind as Kind | undefined;
  const side = sideOf(kind, Boolean(stored?.section));
  const id = stored?.circuit
    ? "circuit"
    : side === "shut" && kind === "let_back"
      ? "opened"
      : kind === "out" && stored?.mass
        ? "told"
        : kind === "in" || kind === "out"
          ? "scale"
          : kind;
  return { side, way: WAYS[side].find((way) => way.id === id) ?? null };
}

function sideOf(kind: Kind | undefined, ofPart: boolean): Side {
  if (kind === "found") return "found";
  if (kind === "out" || kind === "lost") return "out";
  if (ofPart || kind === "shut" || kind === "at_zero" || kind === "passes" || kind === "freed") return "shut";
  return "in";
}

export type Chosen = { side: Side; way: Way | null };
