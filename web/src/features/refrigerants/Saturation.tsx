import type { SaturationState, System } from "../../api/types.ts";
import { inUnit, unitFor } from "../../format/quantity.ts";

export function Ask(props: {
  id: string;
  label: string;
  value: string;
  onChange: (value: string) => void;
  problem?: string;
  said?: string;
}) {
  return (
    <div>
      <label className="lab block" htmlFor={props.id}>
        {props.label}
      </label>
      <input
        id={props.id}
        className="control"
        style={{ fontSize: 24 }}
        inputMode="decimal"
        value={props.value}
        aria-invalid={props.problem ? true : undefined}
        aria-describedby={`${props.id}-said`}
        onChange={(e) => props.onChange(e.target.value)}
      />
      <p id={`${props.id}-said`} className="min-h-[18px] text-[14px]">
        {props.problem ? (
          <span className="font-medium text-stop">{props.problem}</span>
        ) : (
          <span className="text-soft">{props.said}</span>
        )}
      </p>
    </div>
  );
}

export function Answer({
  label,
  value,
  quantity,
  system,
  large = false,
}: {
  label: string;
  value: number | null | undefined;
  quantity: string;
  system: System;
  large?: boolean;
}) {
  const unit = unitFor(quantity, system);
  return (
    <div data-testid={`${label}-${quantity}`}>
      <p className="lab">{label}</p>
      <p className={`num ${large ? "text-[34px] leading-[42px]" : "text-[24px] leading-[34px]"}`}>
        {value == null ? "—" : inUnit(value, quantity, unit)}{" "}
        <span className="text-[15px] font-normal text-soft">{unit}</span>
      </p>
    </div>
  );
}

export function Table({ data, system }: { data: SaturationState; system: System }) {
  const pressure = unitFor("gauge_pressure", system);
  const temperature = unitFor("temperature", system);
  return (
    <table className="table mt-4 max-w-[460px]">
      <caption className="sr-only">Saturation pressures</caption>
      <thead>
        <tr>
          <th>{temperature}</th>
          <th>bubble, {pressure}</th>
          <th>dew, {pressure}</th>
        </tr>
      </thead>
      <tbody>
        {data.table.map((line) => (
          <tr key={line.temperature_k}>
            <td>{inUnit(line.temperature_k, "temperature", temperature, 0)}</td>
            <td>{inUnit(line.bubble_gauge_pa, "gauge_pressure", pressure)}</td>
            <td>{inUnit(line.dew_gauge_pa, "gauge_pressure", pressure)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
