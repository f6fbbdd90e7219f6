/** Holds what is under the thumb where it is: what folds away or grows above it while it is tapped or typed in scrolls along instead. */

const SLACK_PX = 0.5;
const TOUCHED = "input, textarea, select, button, a[href], summary";

type Held = { part: HTMLElement; scroller: Element; place: number; pressed: boolean };

/** Holds inside this part of the page from here on. */
export function holdSteady(root: HTMLElement): void {
  let held: Held | null = null;
  let padded = 0;

  const pad = (px: number) => {
    const sheet = root.querySelector("main");
    if (!sheet) return;
    const own = Number.parseFloat(getComputedStyle(sheet).paddingTop) - padded;
    padded = px;
    sheet.style.paddingTop = px > 0 ? `${own + px}px` : "";
  };
  const hold = (next: Held | null) => {
    held?.scroller.classList.remove("held-steady");
    held = next;
    held?.scroller.classList.add("held-steady");
    if (!next && padded) pad(0);
  };

  /** Before anything is left or entered: leaving a field folds its keys away before the next one has the focus. */
  const press = (event: Event) => {
    const part = event.target instanceof Element ? event.target.closest<HTMLElement>(TOUCHED) : null;
    const next = part && root.contains(part) ? grasp(part, true) : null;
    if (next || !held) hold(next);
  };
  const enter = (event: FocusEvent) => {
    if (!(event.target instanceof HTMLElement)) return;
    if (held?.part === event.target) held.pressed = false;
    else hold(event.target.matches(TOUCHED) ? grasp(event.target, false) : null);
    keep();
  };
  const leave = () => {
    if (held && !held.pressed) hold(null);
  };
  const release = () => {
    if (held?.pressed && document.activeElement !== held.part) hold(null);
  };
  const keep = () => {
    if (!held) return;
    if (!held.part.isConnected || !(held.pressed || document.activeElement === held.part)) {
      hold(null);
      return;
    }
    const { scroller } = held;
    const moved = placeOf(held.part, scroller) - held.place;
    if (Math.abs(moved) <= SLACK_PX) return;
    const before = scroller.scrollTop;
    scroller.scrollTop = before + moved;
    const rest = moved - (scroller.scrollTop - before);
    if (rest < -SLACK_PX) pad(padded - rest); // at the top of the page there is nothing left to scroll: the room stays until this is left
    held.place = placeOf(held.part, scroller);
  };

  new MutationObserver(keep).observe(root, { attributes: true, characterData: true, childList: true, subtree: true });
  root.addEventListener("pointerdown", press, true);
  root.addEventListener("focusin", enter, true);
  root.addEventListener("focusout", leave);
  root.addEventListener("click", release);
  root.addEventListener("pointercancel", release);
}

function placeOf(part: HTMLElement, scroller: Element): number {
  return part.getBoundingClientRect().top + scroller.scrollTop;
}

/** What scrolls with the page; what is in a dialog, or stays on the screen while the page scrolls, moves with nothing above it. */
function grasp(part: HTMLElement, pressed: boolean): Held | null {
  let scroller: Element | null = null;
  for (let at: HTMLElement | null = part; at; at = at.parentElement) {
    const { position, overflowY } = getComputedStyle(at);
    if (position === "fixed" || position === "sticky") return null;
    if (!scroller && at !== part && /auto|scroll/.test(overflowY) && at.scrollHeight > at.clientHeight) scroller = at;
  }
  scroller ??= document.scrollingElement ?? document.documentElement;
  return { part, scroller, place: placeOf(part, scroller), pressed };
}
