import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import { client, newKey, Refused, saidOf, take } from "../../api/client.ts";
import { refrigerantsQuery } from "../../api/queries.ts";
import type { Card } from "../../api/types.ts";
import { Frame } from "../../app/Frame.tsx";
import { useSettled } from "../../parts/useSettled.ts";
import { Waiting } from "../../parts/Waiting.tsx";
import { WhyNot } from "../../parts/WhyNot.tsx";
import { Toggle } from "../../ui/Toggle.tsx";
import { CardFacts, useBegin } from "./ExerciseCard.tsx";
import { Cylinders } from "./OwnCylinders.tsx";
import { Pick, Text } from "./OwnFields.tsx";
import { FAULTS, type Plain, part, text, withPart } from "./plain.ts";

const FIRST = "shipped=orifice-by-superheat";
const HOW = { nothing: "Nothing", choose: "I choose", level: "By level", surprise: "Surprise me" };
type How = keyof typeof HOW;

/** Set up a unit of one's own, or edit an exercise of the shop: what its file says, field by field, with its card beside it. */
export default function OwnPage() {
  const { id } = useParams();
  const [params] = useSearchParams();
  const from = params.get("from") ?? (id ? `own=${id}` : FIRST);
  const { data } = useQuery({
    queryKey: ["practice", "file", from],
    queryFn: async () => {
      const asked = new URLSearchParams(from);
      const own = asked.get("own");
      const query = { shipped: asked.get("shipped") ?? "", own: own ? Number(own) : null };
      return (await take(client.GET("/api/practice/file", { params: { query } }))) as unknown as Plain;
    },
    staleTime: Number.POSITIVE_INFINITY,
  });
  return (
    <Frame crumb={id ? "Edit an exercise" : "Set up my own"} practice={null}>
      {data ? <Form key={from} first={data} own={id ? Number(id) : null} /> : <Waiting rows={6} />}
    </Frame>
  );
}

function Form({ first, own }: { first: Plain; own: number | null }) {
  const [plain, setPlain] = useState<Plain>(() =>
    own === null ? { ...first, number: 0, group: "Mine", name: `${text(first, "name")}, mine` } : first,
  );
  const json = JSON.stringify(plain, null, 2);
  const { card, problem } = useChecked(json);
  const { busy, said, begin } = useBegin();
  const [kept, setKept] = useState("");
  const [raw, setRaw] = useState<string | null>(null);
  const navigate = useNavigate();
  const keep = () =>
    take(client.POST("/api/practice/exercises", { body: { key: newKey(), text: json, id: own } }))
      .then((row) => navigate(`/practice?exercise=${row.own}`))
      .catch((error) => setKept(saidOf(error)));
  const set = (name: string, key: string, value: unknown) => setPlain((before) => withPart(before, name, key, value));
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)] max-md:overflow-y-auto md:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
      <section aria-label="What it is made of" className="border-rule px-5 py-4 md:overflow-y-auto md:border-r">
        <h1>{own === null ? "A unit of your own" : "Edit this exercise"}</h1>
        <p className="text-[14px] text-soft">Write figures as you would say them: 6 lb, 95 °F, 25 ft.</p>
        <div className="mt-3 grid grid-cols-2 gap-x-5 gap-y-3">
          <Text
            label="name"
            value={text(plain, "name")}
            onChange={(value) => setPlain({ ...plain, name: value })}
            wide
          />
          <Text label="aim" value={text(plain, "aim")} onChange={(value) => setPlain({ ...plain, aim: value })} wide />
          <Refrigerant
            value={text(part(plain, "unit"), "refrigerant")}
            onChange={(value) => set("unit", "refrigerant", value)}
          />
          <Pick
            label="metering"
            value={text(part(plain, "unit"), "metering") || "orifice"}
            options={{ orifice: "fixed orifice", capillary: "capillary tube", txv: "expansion valve" }}
            onChange={(value) => set("unit", "metering", value)}
          />
          <Text
            label="size, tons"
            value={text(part(plain, "unit"), "tons")}
            onChange={(value) => set("unit", "tons", numberOr(value))}
          />
          <Text
            label="charge, with its lines"
            value={text(part(plain, "unit"), "charge")}
            onChange={(value) => set("unit", "charge", value)}
          />
          <Text
            label="line set, one way"
            value={text(part(plain, "unit"), "line")}
            onChange={(value) => set("unit", "line", value)}
          />
          <Text
            label="outdoors"
            value={text(part(plain, "weather"), "outdoor")}
            onChange={(value) => set("weather", "outdoor", value)}
          />
          <Text
            label="room"
            value={text(part(plain, "weather"), "indoor")}
            onChange={(value) => set("weather", "indoor", value)}
          />
          <Text
            label="room, wet bulb"
            value={text(part(plain, "weather"), "indoor_wet_bulb")}
            onChange={(value) => set("weather", "indoor_wet_bulb", value)}
          />
          <Text
            label="height of the site"
            value={text(part(plain, "weather"), "altitude")}
            placeholder="0 ft"
            onChange={(value) => set("weather", "altitude", value)}
          />
          <Pick
            label="when you come"
            value={text(plain, "start") || "running"}
            options={{ running: "it runs", off: "it stands", empty: "it is evacuated", open: "it is open to the air" }}
            onChange={(value) => setPlain({ ...plain, start: value })}
          />
        </div>
        <Hidden plain={plain} setPlain={setPlain} />
        <h2 className="mt-5">In the van</h2>
        <div className="mt-2 grid grid-cols-2 gap-x-5 gap-y-3">
          <Text
            label="scale's step"
            value={text(part(plain, "van"), "scale_step")}
            placeholder="0.5 oz"
            onChange={(value) => set("van", "scale_step", value)}
          />
          <Text
            label="time it may take"
            value={text(part(plain, "limits"), "time")}
            onChange={(value) => set("limits", "time", value)}
          />
          <Text
            label="refrigerant it may take"
            value={text(part(plain, "limits"), "refrigerant")}
            onChange={(value) => set("limits", "refrigerant", value)}
          />
          <Text
            label="gauge on the suction side is off by"
            value={text(part(part(part(plain, "van"), "instruments"), "suction"), "zero_error")}
            placeholder="0 psi"
            onChange={(value) => set("van", "instruments", value ? { suction: { zero_error: value } } : {})}
          />
        </div>
        <Cylinders plain={plain} setPlain={setPlain} />
        <details className="mt-5" onToggle={(event) => setRaw(event.currentTarget.open ? json : null)}>
          <summary className="min-h-[44px] cursor-pointer py-2 text-copper">The file itself</summary>
          <textarea
            aria-label="The exercise's file"
            className="control min-h-[260px] font-mono text-[14px]"
            value={raw ?? json}
            spellCheck={false}
            onChange={(event) => {
              setRaw(event.target.value);
              try {
                setPlain(JSON.parse(event.target.value) as Plain);
              } catch {
                // not whole yet; it stays as typed
              }
            }}
          />
        </details>
      </section>
      <main className="bg-sheet px-5 py-5 md:overflow-y-auto md:px-8">
        <div className="flex items-baseline justify-between gap-3">
          <h1>{text(plain, "name") || "No name yet"}</h1>
          <p className="text-[14px] text-soft">as it would be</p>
        </div>
        {problem ? (
          <p className="note stop mt-3" role="alert">
            {problem}
          </p>
        ) : (
          card && <CardFacts card={card} />
        )}
        <div className="mt-4 flex flex-wrap gap-3">
          <button
            type="button"
            className="btn go"
            disabled={busy || Boolean(problem)}
            onClick={() => begin({ text: json })}
          >
            Start the clock
          </button>
          <button type="button" className="btn" disabled={Boolean(problem)} onClick={() => void keep()}>
            {own === null ? "Keep it for the shop" : "Keep the change"}
          </button>
        </div>
        <WhyNot unless={!problem}>what is wrong above is put right first</WhyNot>
        {(said || kept) && <p className="mt-2 text-stop">{said || kept}</p>}
      </main>
    </div>
  );
}

/** What the server says of the text: its card, or what is wrong and where. */
function useChecked(json: string): { card: Card | null; problem: string } {
  const settled = useSettled(json, 400);
  const [found, setFound] = useState<{ card: Card | null; problem: string }>({ card: null, problem: "" });
  useEffect(() => {
    let late = false;
    take(client.POST("/api/practice/exercises/check", { body: { text: settled } }))
      .then((card) => !late && setFound({ card, problem: "" }))
      .catch((error) => {
        const where =
          error instanceof Refused && error.problem.path
            ? ` (${error.problem.path.slice(1).replaceAll("/", ", ").replaceAll("_", " ")})`
            : "";
        if (!late) setFound((before) => ({ card: before.card, problem: `${saidOf(error)}${where}` }));
      });
    return () => {
      late = true;
    };
  }, [settled]);
  return found;
}

function Hidden({ plain, setPlain }: { plain: Plain; setPlain: (plain: Plain) => void }) {
  const hidden = part(plain, "hidden");
  const level = Number(plain.level ?? 0);
  const [how, setHow] = useState<How>(level ? "level" : Object.keys(hidden).length ? "choose" : "nothing");
  const choose = (next: How) => {
    setHow(next);
    const drawn = next === "level" ? level || 1 : next === "surprise" ? 1 + Math.floor(Math.random() * 3) : 0;
    setPlain({ ...plain, level: drawn, hidden: next === "choose" ? hidden : {} });
  };
  const known = FAULTS.filter(([id]) => id in hidden);
  return (
    <section className="mt-5" aria-label="What is wrong">
      <h2>What is wrong</h2>
      <div className="mt-2 flex flex-wrap gap-2">
        {Object.entries(HOW).map(([id, said]) => (
          <label key={id} className="pick">
            <input
              type="radio"
              className="sr-only"
              name="what-is-wrong"
              checked={how === id}
              onChange={() => choose(id as How)}
            />
            {said}
          </label>
        ))}
      </div>
      {how === "level" && (
        <div className="mt-3 flex items-center gap-3">
          <Toggle
            label="Level"
            value={String(level || 1)}
            options={{ "1": "1", "2": "2", "3": "3" }}
            onChange={(next) => setPlain({ ...plain, level: Number(next), hidden: {} })}
          />
          <span className="text-[14px] text-soft">
            {
              ["", "charge 10 to 25 % off", "charge 5 to 12 % off", "charge off, and something else beside it"][
                level || 1
              ]
            }
            . Not told until you look back.
          </span>
        </div>
      )}
      {how === "surprise" && (
        <p className="mt-2 text-[14px] text-soft">
          One of the three levels, drawn by chance. Not told until you look back.
        </p>
      )}
      {how === "choose" && (
        <div className="mt-3 grid gap-x-5 gap-y-3 sm:grid-cols-2">
          {FAULTS.map(([id, label, hint]) => (
            <Text
              key={id}
              label={label}
              placeholder={hint}
              value={text(hidden, id)}
              onChange={(value) => {
                const { [id]: _, ...rest } = hidden;
                setPlain({ ...plain, level: 0, hidden: value ? { ...rest, [id]: numberOr(value) } : rest });
              }}
            />
          ))}
          <p className="col-span-full text-[14px] text-soft">{known.length ? "" : "Leave empty what is right."}</p>
        </div>
      )}
    </section>
  );
}

/** A number where it is one; as typed otherwise, for the server to say what is wrong with it. */
const numberOr = (value: string): string | number =>
  value.trim() !== "" && Number.isFinite(Number(value)) ? Number(value) : value;

function Refrigerant({ value, onChange }: { value: string; onChange: (value: string) => void }) {
  const { data } = useQuery(refrigerantsQuery);
  const names = data?.data.map((row) => row.name) ?? [];
  const options = Object.fromEntries([value || "R-410A", ...names].map((name) => [name, name]));
  return <Pick label="refrigerant" value={value || "R-410A"} options={options} onChange={onChange} />;
}
