import { Text } from "./OwnFields.tsx";
import { type Plain, part, text } from "./plain.ts";

const NEW: Plain = { gross: "29 lb", tare: "9 lb", water_capacity: "26 lb", temperature: "80 °F" };
const RECOVERY: Plain = { gross: "28 lb", tare: "26 lb", water_capacity: "47.7 lb", temperature: "80 °F" };

/** The cylinders of the van; one whose number begins with R is for recovery. */
export function Cylinders({ plain, setPlain }: { plain: Plain; setPlain: (plain: Plain) => void }) {
  const van = part(plain, "van");
  const all = part(van, "cylinders");
  const put = (cylinders: Plain) => setPlain({ ...plain, van: { ...van, cylinders } });
  const add = (recovery: boolean) => {
    const number = Array.from({ length: 99 }, (_, n) => `${recovery ? "R" : ""}${n + (recovery ? 3 : 14)}`).find(
      (code) => !(code in all),
    );
    if (number) put({ ...all, [number]: recovery ? RECOVERY : NEW });
  };
  return (
    <div className="mt-3">
      {Object.keys(all).map((code) => {
        const one = part(all, code);
        const set = (key: string, value: string) => put({ ...all, [code]: { ...one, [key]: value } });
        const { [code]: _, ...others } = all;
        return (
          <div
            key={code}
            className="mt-2 grid grid-cols-[44px_minmax(0,1fr)_minmax(0,1fr)_minmax(0,1fr)_auto] items-end gap-x-2"
          >
            <b className="pb-3">{code}</b>
            <Text label="scale reads" value={text(one, "gross")} onChange={(value) => set("gross", value)} />
            <Text label="tare" value={text(one, "tare")} onChange={(value) => set("tare", value)} />
            <Text
              label="water"
              value={text(one, "water_capacity")}
              onChange={(value) => set("water_capacity", value)}
            />
            <button
              type="button"
              className="btn quiet min-w-[44px]"
              aria-label={`Take cylinder ${code} out of the van`}
              onClick={() => put(others)}
            >
              out
            </button>
          </div>
        );
      })}
      <p className="mt-2 flex gap-3">
        <button type="button" className="btn quiet" onClick={() => add(false)}>
          One more to charge from
        </button>
        <button type="button" className="btn quiet" onClick={() => add(true)}>
          One more for recovery
        </button>
      </p>
    </div>
  );
}
