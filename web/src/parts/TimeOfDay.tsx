import { useId, useState } from "react";
import { clock, timeFrom } from "../format/clock.ts";

/** A time of day as people write it, kept as 17:00. */
export function TimeOfDay({
  label,
  value,
  onChange,
  beside,
}: {
  label: string;
  value: string;
  onChange: (time: string) => void;
  beside?: boolean;
}) {
  const id = useId();
  const [typed, setTyped] = useState<string | null>(null);
  const unread = typed?.trim() ? timeFrom(typed) === null : false;
  const leave = () => {
    if (typed === null || unread) return;
    onChange(typed.trim() ? (timeFrom(typed) ?? "").slice(0, 5) : "");
    setTyped(null);
  };
  const shown = value ? clock(`2000-01-01T${value}:00`) : "";
  return (
    <div className={beside ? "flex items-center gap-2" : ""}>
      <label className="lab block" htmlFor={id}>
        {label}
      </label>
      <input
        id={id}
        className="control"
        style={{ width: 104 }}
        autoComplete="off"
        value={typed ?? shown}
        aria-invalid={unread || undefined}
        aria-describedby={unread ? `${id}-said` : undefined}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={leave}
        onKeyDown={(event) => event.key === "Enter" && leave()}
      />
      {unread && (
        <span id={`${id}-said`} role="alert" className="block text-[14px] font-medium text-stop">
          Write it as 17:00 or 5 pm.
        </span>
      )}
    </div>
  );
}
