import { useEffect, useState } from "react";
import { useNavigate } from "react-router";
import { Dialog } from "../ui/Dialog.tsx";

const KEYS: [string, string][] = [
  ["?", "this list"],
  ["Enter", "go on to the next field"],
  ["Alt + 1 … 4", "step of the job"],
  ["Alt + T", "Today"],
  ["Alt + R", "Refrigerants"],
  ["Esc", "close what stands over the page"],
];
const ORDER = ["identify", "weigh_in", "verify", "close_out"];

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
      const step = ORDER[Number(event.key) - 1];
      if (job && step) navigate(`/job/${job}/${step}`);
      else if (event.key === "t") navigate("/");
      else if (event.key === "r") navigate("/refrigerants");
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
