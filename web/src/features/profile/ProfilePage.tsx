import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, Refused, take } from "../../api/client.ts";
import forms from "../../api/forms.gen.json";
import { profileQuery } from "../../api/queries.ts";
import type { ProfileState, System } from "../../api/types.ts";
import { Frame } from "../../app/Frame.tsx";
import { useSession } from "../../app/session.ts";
import { clock, show, unitFor } from "../../format/quantity.ts";

type Rule = { text: string; quantity: string; default: number; low: number; high: number; source: string };
type Choice = { text: string; options: Record<string, string>; default: string; reason: string };
type Line = { revision: number; at: string; by: string; reason: string };
const RULES = forms.rules as Record<string, Rule>;
const CHOICES = forms.choices as Record<string, Choice>;
const GROUPS = forms.rule_groups as { title: string; rules: string[] }[];

/** Every threshold and every choice between schools, with its source; the lead changes them with a reason. */
export default function ProfilePage() {
  const { data, error } = useQuery(profileQuery);
  return (
    <Frame crumb="Practice profile">
      <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)] max-md:overflow-y-auto md:grid-cols-[minmax(0,1fr)_300px]">
        <main className="bg-sheet px-5 py-5 md:overflow-y-auto md:px-7">
          {error && <p className="note stop">{error.message}</p>}
          {data && <Sheet key={data.data.revision} profile={data.data} />}
        </main>
        <aside className="border-rule px-5 py-5 md:overflow-y-auto md:border-l" aria-label="History">
          <h2 className="text-soft">How it came to be</h2>
          {data && <History lines={data.data.history as Line[]} />}
        </aside>
      </div>
    </Frame>
  );
}

function Sheet({ profile }: { profile: ProfileState }) {
  const { me, system } = useSession();
  const lead = me.role !== "technician";
  const [texts, setTexts] = useState<Record<string, string>>({});
  const [schools, setSchools] = useState<Record<string, string>>({});
  const changed = Object.keys(texts).length + Object.keys(schools).length;
  return (
    <>
      <h1>{profile.name}</h1>
      <p className="max-w-[640px] text-[14px] text-soft">
        What a job is judged by, each with its source. New jobs are judged by it; a job begun before keeps the profile
        it was begun with.{lead ? "" : " The lead or the owner changes it."}
      </p>
      {Object.entries(CHOICES).map(([id, choice]) => (
        <School
          key={id}
          choice={choice}
          id={id}
          value={schools[id] ?? profile.choices[id] ?? choice.default}
          disabled={!lead}
          onChange={(school) => setSchools({ ...schools, [id]: school })}
        />
      ))}
      {GROUPS.map(({ title, rules }) => (
        <section key={title} className="mt-5">
          <h2 className="border-b border-ink pb-1">{title}</h2>
          {rules.map((id) => (
            <Threshold
              key={id}
              id={id}
              rule={RULES[id] as Rule}
              own={profile.overrides[id]}
              text={texts[id]}
              system={system}
              disabled={!lead}
              onChange={(text) => setTexts({ ...texts, [id]: text })}
            />
          ))}
        </section>
      ))}
      {changed > 0 && <Revise profile={profile} texts={texts} schools={schools} changed={changed} />}
    </>
  );
}

function School(props: {
  id: string;
  choice: Choice;
  value: string;
  disabled: boolean;
  onChange: (school: string) => void;
}) {
  const { id, choice } = props;
  return (
    <fieldset className="mt-4 border-t border-rule pt-2" disabled={props.disabled}>
      <legend className="sr-only">{choice.text}</legend>
      <p className="text-[15px] font-semibold" aria-hidden="true">
        {choice.text}
      </p>
      {Object.entries(choice.options).map(([school, text]) => (
        <label key={school} className="flex min-h-[44px] cursor-pointer items-center gap-3 text-[15px]">
          <input
            type="radio"
            className="size-5 accent-[var(--copper)]"
            name={id}
            checked={props.value === school}
            onChange={() => props.onChange(school)}
          />
          {text}
          {school === choice.default && <span className="text-[13px] text-soft">as delivered</span>}
        </label>
      ))}
      <p className="text-[13px] text-soft">{choice.reason}</p>
    </fieldset>
  );
}

function Threshold(props: {
  id: string;
  rule: Rule;
  own: number | undefined;
  text: string | undefined;
  system: System;
  disabled: boolean;
  onChange: (text: string) => void;
}) {
  const { id, rule, own, system } = props;
  const shown = show(own ?? rule.default, rule.quantity, system);
  return (
    <div className="grid items-baseline gap-x-5 border-b border-rule py-1 md:grid-cols-[minmax(0,1fr)_150px_minmax(0,1fr)]">
      <label className="text-[15px]" htmlFor={`rule-${id}`}>
        {rule.text}
      </label>
      <input
        id={`rule-${id}`}
        className="control"
        style={{ fontSize: 18 }}
        autoComplete="off"
        readOnly={props.disabled}
        placeholder={shown}
        value={props.text ?? (own === undefined ? "" : shown)}
        onChange={(event) => props.onChange(event.target.value)}
        aria-describedby={`said-${id}`}
      />
      <p id={`said-${id}`} className="text-[13px] text-soft">
        {own === undefined
          ? rule.source
          : `ours; delivered as ${show(rule.default, rule.quantity, system)}, ${rule.source}`}
        . From {show(rule.low, rule.quantity, system)} to {show(rule.high, rule.quantity, system)}.
      </p>
    </div>
  );
}

/** A new revision: what was changed, why, and the server's answer. */
function Revise(props: {
  profile: ProfileState;
  texts: Record<string, string>;
  schools: Record<string, string>;
  changed: number;
}) {
  const { profile, texts, schools, changed } = props;
  const { system } = useSession();
  const cache = useQueryClient();
  const [reason, setReason] = useState("");
  const [refused, setRefused] = useState("");
  const [effect, setEffect] = useState<{ code: string; title: string; changes: string[] }[] | null>(null);
  const typed = Object.fromEntries(
    Object.entries(texts).map(([id, text]) => [id, withUnit(text, RULES[id]?.quantity ?? "", system)]),
  );
  const look = async () => {
    setRefused("");
    try {
      setEffect(await take(client.POST("/api/profile/effect", { body: { overrides: typed, choices: schools } })));
    } catch (error) {
      setRefused(error instanceof Refused ? error.message : "No answer from the server. Nothing was changed.");
    }
  };
  const go = async () => {
    setRefused("");
    const latest = (profile.history as Line[])[0]?.revision ?? 0;
    try {
      await take(
        client.PUT("/api/profile", {
          body: {
            seen_revision: latest,
            name: profile.name,
            overrides: typed,
            choices: schools,
            reason,
          },
        }),
      );
      await cache.invalidateQueries({ queryKey: ["profile"] });
    } catch (error) {
      setRefused(error instanceof Refused ? error.message : "No answer from the server. Nothing was changed.");
    }
  };
  return (
    <div className="sticky -bottom-5 mt-5 border-t-2 border-copper bg-sheet pt-4 pb-6">
      <label className="lab block" htmlFor="why-profile">
        why {changed === 1 ? "this is" : `these ${changed} are`} changed; records show it
      </label>
      <input
        id="why-profile"
        className="control"
        maxLength={300}
        value={reason}
        onChange={(event) => setReason(event.target.value)}
      />
      {refused && (
        <p className="note stop mt-3" role="alert">
          {refused}
        </p>
      )}
      {effect && <Effect rows={effect} />}
      <p className="mt-3 flex flex-wrap gap-3">
        <button type="button" className="btn" onClick={() => void look()}>
          What it would change in open jobs
        </button>
        <button type="button" className="btn go" disabled={!reason.trim()} onClick={() => void go()}>
          Make it our practice
        </button>
      </p>
    </div>
  );
}

/** What open jobs would say differently; they keep the profile they were begun with until somebody switches them. */
function Effect({ rows }: { rows: { code: string; title: string; changes: string[] }[] }) {
  return (
    <div
      className="mt-3 max-h-[40vh] overflow-y-auto border-l-4 border-[var(--edge)] pl-3 text-[14px]"
      aria-live="polite"
    >
      {rows.length === 0 ? (
        <p>No open job would say anything else.</p>
      ) : (
        <>
          <p>
            <b>{rows.length === 1 ? "One open job" : `${rows.length} open jobs`} would say something else</b>, if
            switched to it; until then each keeps the profile it was begun with.
          </p>
          <ul>
            {rows.map((row) => (
              <li key={row.code} className="mt-1">
                <b>{row.title}</b>
                {row.changes.map((text) => (
                  <span key={text} className="block">
                    {text}
                  </span>
                ))}
              </li>
            ))}
          </ul>
        </>
      )}
    </div>
  );
}

/** A bare number is in the unit on the page. */
function withUnit(text: string, quantity: string, system: System): string {
  return /^\s*[-+−]?[\d.]+\s*$/.test(text) ? `${text.trim()} ${unitFor(quantity, system)}`.trim() : text;
}

function History({ lines }: { lines: Line[] }) {
  if (!lines.length) return <p className="mt-2 text-[14px] text-soft">As delivered; nothing was changed yet.</p>;
  return (
    <ol className="mt-2 grid gap-2 text-[14px]">
      {lines.map((line) => (
        <li key={line.revision} className="border-t border-rule pt-1">
          <span className="text-soft">
            {new Date(line.at).toLocaleDateString("en-GB", { day: "numeric", month: "short" })} {clock(line.at)}{" "}
            {line.by}
          </span>
          <br />
          Revision {line.revision}: {line.reason}
        </li>
      ))}
    </ol>
  );
}
