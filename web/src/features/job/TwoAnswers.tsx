import { useQuery } from "@tanstack/react-query";
import { client, take } from "../../api/client.ts";
import type { Findings } from "../../api/types.ts";
import { clock } from "../../format/clock.ts";
import { chosenOf, labelOf, saidOfStored } from "../../format/entries.ts";
import { showAmount } from "../../format/quantity.ts";
import { at, useJob } from "../../job/context.ts";
import { Shape } from "../../parts/shapes.tsx";

type Stored = { by?: string; at?: string | null } | string | boolean | null;
type Second = { path: string; value: Stored; by: string; at: string };

/** One field, two answers, from two devices: side by side, with what each makes of the charge. What closes waits until one is kept. */
export function TwoAnswers() {
  const { answer, held } = useJob();
  const all = (at(answer.job, "/disputes") as Second[] | null) ?? [];
  return held
    .map((path) => ({ path, seconds: all.filter((one) => one.path === path) }))
    .filter(({ seconds }) => seconds.length)
    .map(({ path, seconds }) => <One key={path} path={path} seconds={seconds} />);
}

function One({ path, seconds }: { path: string; seconds: Second[] }) {
  const { answer } = useJob();
  const standing = at(answer.job, path) as Stored;
  const first = typeof standing === "object" && standing ? standing : null;
  const answers = [{ path, value: standing, by: first?.by ?? "", at: first?.at ?? "" }, ...seconds];
  return (
    <section aria-label={`Two answers for ${labelOf(path)}`} className="mt-3 border-t border-ink pt-3">
      <h2 className="flex items-center justify-between gap-3">
        Two answers for one thing
        <span className="flex items-center gap-2 text-wait">
          <Shape word="Wait" />
          Choose
        </span>
      </h2>
      <p className="text-soft">{labelOf(path)}</p>
      <div className="mt-2 grid grid-cols-2 gap-3">
        {answers.map((one) => (
          <Answer key={`${one.by}${one.at}`} {...one} />
        ))}
      </div>
      <p className="mt-2 text-[14px] text-soft">Both are kept. What you asked to close waits until you choose.</p>
    </section>
  );
}

function Answer({ path, value, by, at: when }: Second) {
  const { answer, type, system } = useJob();
  const { data } = useQuery({
    queryKey: ["answer", answer.code, answer.seq, path, saidOfStored(value)],
    queryFn: () => {
      const changes = [{ path, seen: null, value: chosenOf(value), force: true }];
      return take(
        client.POST("/api/jobs/{code}/preview", { params: { path: { code: answer.code } }, body: { changes } }),
      );
    },
    retry: false,
  });
  const total = data && totalOf(data.findings);
  return (
    <div>
      <div className="rounded-[4px] border border-ink p-3">
        <p className="num text-[26px] leading-[32px]">{saidOfStored(value)}</p>
        <p className="text-[14px] text-soft">
          {by} {when && clock(when)}
        </p>
        {total && <p className="mt-2 border-t border-rule pt-2 font-semibold">{showAmount(total, system)}</p>}
      </div>
      <button
        type="button"
        className="btn mt-2 w-full"
        onClick={() => type(path, chosenOf(value), { ready: true, force: true })}
      >
        Keep {saidOfStored(value)}
      </button>
    </div>
  );
}

const totalOf = (findings: Findings) =>
  findings.steps.find((step) => step.step === "identify")?.figures.find((figure) => figure.id === "total")?.amount ??
  null;
