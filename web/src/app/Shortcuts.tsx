import { useEffect, useState } from "react";
import { useNavigate } from "react-router";
import { Dialog } from "../ui/Dialog.tsx";

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

/** Keys that work everywhere. Enter goes on; `?` lists them all. */
export function Shortcuts() {
  const [open, setOpen] = useState(false);
  const navigate = useNavigate();
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      const typing = target.matches("input:not([type=radio]), textarea, select");
      if (event.key === "?" && !typing) setOpen(true);
      if (event.key === "Enter" && target.matches("input.control, select.control") && !target.closest("form")) {
        event.preventDefault();
        nextField(target)?.focus();
      }
      if (!event.altKey) return;
      const job = window.location.pathname.match(/^\/job\/([^/]+)/)?.[1];
      const steps = document.querySelectorAll<HTMLAnchorElement>(
        "nav[aria-label='Steps of this job'] ol:first-child a",
      );
      const step = steps[Number(event.key) - 1];
      if (job && step) navigate(new URL(step.href).pathname);
      else if (event.key === "t") navigate("/");
      else if (event.key === "r") navigate("/refrigerants");
      else if (event.key === "c") navigate("/cylinders");
      else if (event.key === "s") navigate("/systems");
      else return;
      event.preventDefault();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
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

function nextField(from: HTMLElement): HTMLElement | undefined {
  const scope = from.closest("main") ?? document.body;
  const all = [...scope.querySelectorAll<HTMLElement>(".control, input[type=radio], .btn.go")].filter(
    (item) => !item.hasAttribute("disabled") && item.offsetParent !== null,
  );
  return all[all.indexOf(from) + 1];
}
