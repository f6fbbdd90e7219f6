/** The fields an exercise is edited by. */

export function Text({
  label,
  value,
  onChange,
  placeholder,
  wide,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  placeholder?: string;
  wide?: boolean;
}) {
  return (
    <label className={wide ? "col-span-2" : ""}>
      <span className="lab">{label}</span>
      <input
        className="control"
        value={value}
        placeholder={placeholder}
        onChange={(event) => onChange(event.target.value)}
      />
    </label>
  );
}

export function Pick({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: string;
  options: Record<string, string>;
  onChange: (value: string) => void;
}) {
  return (
    <label>
      <span className="lab">{label}</span>
      <select className="control" value={value} onChange={(event) => onChange(event.target.value)}>
        {Object.entries(options).map(([id, said]) => (
          <option key={id} value={id}>
            {said}
          </option>
        ))}
      </select>
    </label>
  );
}
