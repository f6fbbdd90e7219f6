import { useJob, useStep } from "../../../job/context.ts";
import { outOf100 } from "./share.ts";

const HEIGHT = 430;

const short = (label: string) => {
  const text = label.split(",")[0] ?? label;
  return text.length > 15 ? `${text.slice(0, 14)}…` : text;
};

/** Minutes run down, chance per minute across: area is the chance of finding it. */
export default function LeakSearchSide() {
  const { picture, figures } = useStep("leak_search");
  const { findings } = useJob();
  const todo = picture.places.filter((p) => p.rank !== null && p.minutes && p.chance);
  const closed = figures.find((f) => f.id === "closed_share");
  const all = figures.find((f) => f.id === "all_chance");
  if (!todo.length) {
    return (
      <div>
        <h2 className="text-soft">Minutes and chances</h2>
        <p className="mt-2 text-[14px] text-soft">
          {picture.places.length
            ? "Nothing is left to look at in reach."
            : "Say what is in the system; then the places stand here by chance per minute."}
        </p>
      </div>
    );
  }
  const minutes = todo.reduce((sum, p) => sum + (p.minutes ?? 0), 0);
  const widest = Math.max(...todo.map((p) => (p.chance ?? 0) / (p.minutes ?? 1)));
  let y = 8;
  return (
    <div key={findings.job_id}>
      <h2 className="text-soft">Minutes and chances</h2>
      <p className="text-[14px] text-soft">
        Down: minutes. Across: chance for each minute. Area: chance of finding it.
      </p>
      <svg
        viewBox={`0 0 280 ${HEIGHT + 20}`}
        width="100%"
        role="img"
        aria-label={todo.map((p) => `${p.rank} ${p.label}, ${Math.round(p.minutes ?? 0)} minutes`).join("; ")}
      >
        <line x1="34" x2="34" y1="8" y2={HEIGHT} stroke="var(--ink)" strokeWidth="1.4" />
        {todo.map((p) => {
          const tall = Math.max(((p.minutes ?? 0) / minutes) * (HEIGHT - 8), 4);
          const wide = Math.max(((p.chance ?? 0) / (p.minutes ?? 1) / widest) * 92, 3);
          const top = y;
          y += tall;
          const first = p.rank === 1;
          return (
            <g key={p.id}>
              <rect
                x="36"
                y={top}
                width={wide}
                height={tall}
                fill={first ? "var(--copper)" : "var(--tint2)"}
                stroke="var(--ink)"
              />
              {tall > 13 && (
                <text x={42 + wide} y={top + tall / 2 + 4} fontSize="13" fontWeight={first ? 640 : 400}>
                  {p.rank} {first ? "next" : short(p.label)}, {Math.round(p.minutes ?? 0)} min
                </text>
              )}
            </g>
          );
        })}
        <text x="30" y="18" textAnchor="end" fontSize="13.5" style={{ fill: "var(--soft)" }}>
          0
        </text>
        <text x="30" y={HEIGHT} textAnchor="end" fontSize="13.5" style={{ fill: "var(--soft)" }}>
          {Math.round(minutes)}
        </text>
      </svg>
      {all && (
        <p className="border-t border-rule pt-2 text-[14px]">
          <b>All of them: {outOf100(all.amount.value)}.</b>{" "}
          {closed && `${outOf100(closed.amount.value)} sit in places not reached; `}the rest in places already called
          clean.
        </p>
      )}
    </div>
  );
}
