import { useEffect, useState } from "react";
import { useNavigate } from "react-router";
import { tinykeys } from "tinykeys";
import { Dialog } from "../ui/Dialog.tsx";
import { goOn } from "../ui/nextField.ts";

const KEYS: [string, string][] = [
  ["?", "this list"],
  ["Enter", "go on to the next field"],
  ["Ctrl + K", "find a job, circuit, cylinder or refrigerant"],
  ["Alt + 1 … 9", "step of the job"],
  ["Alt + T", "Today"],
  ["Alt + R", "Refrigerants"],
  ["Alt + C", "Cylinders"],
  ["Alt + S", "Systems"],
  ["Esc", "close what stands over the page"],
];

const TYPING = "input:not([type=radio]), textarea, select";
const STEPS = "nav[aria-label='Steps of this job'] ol:first-child a";

/** Keys that work everywhere. Enter goes on; `?` lists them all. */
export function Shortcuts() {
  const [open, setOpen] = useState(false);
  const navigate = useNavigate();
  useEffect(() => {
    const go = (to: string) => (event: Event) => {
      event.preventDefault();
      navigate(to);
    };
    const toStep = (n: number) => (event: Event) => {
      const step = document.querySelectorAll<HTMLAnchorElement>(STEPS)[n];
      if (step) go(new URL(step.href).pathname)(event);
    };
    const digits = Array.from({ length: 9 }, (_, n) => [`Alt+Digit${n + 1}`, toStep(n)] as const);
    const keys = {
      "[Shift]+?": (event: Event) => {
        if (!(event.target as HTMLElement).matches(TYPING)) setOpen(true);
      },
      // biome-ignore lint/complexity/useLiteralKeys: a literal would be taken for a component
      ["Enter"]: toNextField,
      "Alt+t": go("/"),
      "Alt+r": go("/refrigerants"),
      "Alt+c": go("/cylinders"),
      "Alt+s": go("/systems"),
      ...Object.fromEntries(digits),
    };
    return tinykeys(window, keys, { ignore: (event) => event.isComposing });
  }, [navigate]);
  return (
    <Dialog open={open} onOpenChange={setOpen} title="Keys">
      <dl className="grid grid-cols-[130px_1fr] gap-y-2">
        {KEYS.map(([key, what]) => (
          <div key={key} className="contents">
            <dt className="font-semibold">{key}</dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
    </Dialog>
  );
}

function toNextField(event: Event) {
  const target = event.target as HTMLElement;
  if (!target.matches("input.control, select.control, #step-name") || target.closest("form")) return;
  event.preventDefault();
  goOn(target);
}
