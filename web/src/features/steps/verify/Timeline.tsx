import { scaleLinear } from "d3-scale";
import { useNow } from "../../../device/useNow.ts";
import { clock } from "../../../format/quantity.ts";
import { at, pathOf, useJob, useStep } from "../../../job/context.ts";
import { useWidth } from "../../../ui/useWidth.ts";

const STEP = "verify" as const;
const HEIGHT = 58;
const PAD = 4;
const LEAST_MIN = 30;

/** The running unit on the clock: run-in, each step and its settling, each reading, and now. */
export function Timeline() {
  const { answer } = useJob();
  const { picture, waiting } = useStep(STEP);
  const now = useNow(5000);
  const [ref, width] = useWidth(640);
  const started = at(answer.job, pathOf(answer.job, STEP, ["started_at"])) as string | null;
  const changes = picture.trims.flatMap((row) => (row.changed_at ? [Date.parse(row.changed_at)] : []));
  const reads = picture.trims.flatMap((row, n) => (row.at ? [{ time: Date.parse(row.at), number: n + 1 }] : []));
  const times = [...(started ? [Date.parse(started)] : []), ...changes, ...reads.map((read) => read.time)];
  if (!started || !times.length) return null;
  const from = Math.min(...times);
  const running = now - Math.max(...times) < 2 * 3600_000;
  const to = Math.max(...times, running ? now : 0, waiting ? Date.parse(waiting.until) : 0, from + LEAST_MIN * 60_000);
  const x = scaleLinear([from, to], [PAD, width - PAD]);
  const settled = (since: number) => reads.find((read) => read.time >= since)?.time ?? Math.min(running ? now : to, to);
  const spans = [
    { from: Date.parse(started), to: settled(Date.parse(started)), text: "run-in" },
    ...changes.map((change) => ({ from: change, to: settled(change), text: "settles" })),
  ];
  return (
    <div ref={ref} className="mb-3 min-w-0">
      <svg
        viewBox={`0 0 ${width} ${HEIGHT}`}
        width="100%"
        height={HEIGHT}
        role="img"
        data-testid="timeline"
        aria-label={`Started ${clock(started)}, ${changes.length} steps, ${reads.length} readings`}
      >
        <line x1={PAD} x2={width - PAD} y1="32" y2="32" stroke="var(--edge)" />
        {spans.map((span) => (
          <g key={span.from}>
            <rect
              x={x(span.from)}
              y="8"
              width={Math.max(x(span.to) - x(span.from), 2)}
              height="24"
              fill="var(--tint4)"
              stroke="var(--edge)"
            />
            {x(span.to) - x(span.from) > 56 && (
              <text x={(x(span.from) + x(span.to)) / 2} y="25" fontSize="13" textAnchor="middle">
                {span.text}
              </text>
            )}
          </g>
        ))}
        {changes.map((time) => (
          <rect key={time} x={x(time) - 4} y="4" width="8" height="32" fill="var(--copper)" />
        ))}
        {reads.map((read) => (
          <g key={read.number}>
            <circle cx={x(read.time)} cy="20" r="9" fill="var(--sheet)" stroke="var(--ink)" />
            <text x={x(read.time)} y="24.5" fontSize="13" textAnchor="middle">
              {read.number}
            </text>
          </g>
        ))}
        {waiting && (
          <rect
            x={x(Math.min(now, Date.parse(waiting.until)))}
            y="8"
            width={Math.max(x(Date.parse(waiting.until)) - x(now), 0)}
            height="24"
            fill="none"
            stroke="var(--wait)"
            strokeDasharray="4 3"
          />
        )}
        {running && <line x1={x(now)} x2={x(now)} y1="2" y2="38" stroke="var(--ink)" strokeWidth="2.4" />}
        <text x={PAD} y="52" fontSize="13" style={{ fill: "var(--soft)" }}>
          {clock(from)}
        </text>
        <text x={width - PAD} y="52" fontSize="13" textAnchor="end" style={{ fill: "var(--soft)" }}>
          {clock(to)}
        </text>
        {running && x(now) > 60 && x(now) < width - 60 && (
          <text x={x(now)} y="52" fontSize="13" textAnchor="middle" fontWeight="640">
            now {clock(now)}
          </text>
        )}
      </svg>
    </div>
  );
}
