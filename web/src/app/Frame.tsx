import { DropdownMenu } from "radix-ui";
import type { ReactNode } from "react";
import { Link } from "react-router";
import { ClockNote } from "../parts/ClockNote.tsx";
import { OPEN } from "./Palette.tsx";
import { useSession } from "./session.ts";
import { THEMES, type Theme, useTheme } from "./theme.ts";
import { Words } from "./Words.tsx";

const PLACES = [
  ["/systems", "Systems"],
  ["/cylinders", "Cylinders"],
  ["/refrigerants", "Refrigerants"],
] as const;

/** Past the bar, for who goes by keyboard. */
function toMain(): void {
  const main = document.querySelector<HTMLElement>("main");
  main?.setAttribute("tabindex", "-1");
  main?.focus();
}

/** The top bar and the page below it. */
export function Frame({
  crumb,
  place,
  home,
  practice,
  children,
}: {
  crumb: string;
  place?: string;
  home?: boolean;
  /** A page of practice: it says so on every screen, and what stands at the bar's right is its own. */
  practice?: ReactNode;
  children: ReactNode;
}) {
  const { system, setSystem, me, signOut } = useSession();
  const [theme, setTheme] = useTheme();
  return (
    <div className="flex h-dvh flex-col">
      <header
        className={`flex min-h-[56px] items-center gap-4 border-rule px-4 md:px-5 ${practice === undefined ? "border-b" : "max-md:gap-2"}`}
      >
        <button type="button" className="skip btn go" onClick={toMain}>
          Skip to the page
        </button>
        <Link to="/" className={`name flex min-h-[44px] items-center ${practice ? "max-md:hidden" : ""}`}>
          Yoshi
        </Link>
        {practice !== undefined && (
          <Link to="/practice" className="practice-chip">
            <span>Practice</span>
          </Link>
        )}
        <p className="min-w-0 truncate text-[15px] text-soft">
          {practice !== undefined ? null : home ? (
            <b className="text-ink max-md:hidden">Today / </b>
          ) : (
            <Link to="/" className="inline-flex min-h-[44px] items-center max-md:hidden">
              Today /&nbsp;
            </Link>
          )}
          {place && <span className="max-lg:hidden">{place} / </span>}
          <span className={home ? "" : "font-semibold text-ink"}>{crumb}</span>
        </p>
        <nav aria-label="Yoshi" className="ml-auto flex items-center gap-2">
          {practice}
          {practice === undefined &&
            PLACES.map(([to, text]) => (
              <Link key={to} to={to} className="chip max-lg:hidden">
                {text}
              </Link>
            ))}
          {!home && practice === undefined && (
            <button type="button" className="chip max-md:hidden" onClick={() => window.dispatchEvent(new Event(OPEN))}>
              Find <b className="ml-2">Ctrl K</b>
            </button>
          )}
          <button
            type="button"
            className={`chip ${practice === undefined ? "" : "max-xl:hidden"}`}
            onClick={() => setSystem(system === "us" ? "si" : "us")}
          >
            <span className="sr-only">Units: </span>
            <span className={system === "us" ? "font-bold text-ink" : ""}>lb oz</span>
            <span className={`ml-2 ${system === "si" ? "font-bold text-ink" : ""}`}>kg</span>
          </button>
          {practice === undefined && <Words />}
          <DropdownMenu.Root>
            <DropdownMenu.Trigger className={`chip ${practice ? "max-md:hidden" : ""}`} aria-label={`${me.name}, menu`}>
              <span className={practice === undefined ? "max-md:hidden" : "hidden"}>{me.name}</span>
              <span className={practice === undefined ? "md:hidden" : ""}>☰</span>
            </DropdownMenu.Trigger>
            <DropdownMenu.Portal>
              <DropdownMenu.Content
                align="end"
                className="z-40 min-w-[210px] border border-ink bg-sheet py-1 text-[15px]"
              >
                <p className="lab px-4 py-2">
                  {me.name}, {me.shop}
                </p>
                {[
                  ["/jobs", "Jobs"],
                  ...PLACES,
                  ["/customers", "Customers"],
                  ["/instruments", "Instruments"],
                  ["/practice", "Practice bench"],
                  ["/shop", "Shop"],
                  ["/profile", "Practice profile"],
                  ["/account", "Your account"],
                ].map(([to, text]) => (
                  <DropdownMenu.Item
                    key={to}
                    className="flex min-h-[44px] items-center px-4 data-highlighted:bg-tint"
                    asChild
                  >
                    <Link to={to ?? "/"}>{text}</Link>
                  </DropdownMenu.Item>
                ))}
                <DropdownMenu.Item
                  className="flex min-h-[44px] cursor-pointer items-center px-4 data-highlighted:bg-tint md:hidden"
                  onSelect={() => window.dispatchEvent(new Event(OPEN))}
                >
                  Find
                </DropdownMenu.Item>
                <DropdownMenu.RadioGroup value={theme} onValueChange={(next) => setTheme(next as Theme)}>
                  {Object.entries(THEMES).map(([key, text]) => (
                    <DropdownMenu.RadioItem
                      key={key}
                      value={key}
                      className="flex min-h-[44px] cursor-pointer items-center gap-2 px-4 data-highlighted:bg-tint data-[state=checked]:font-semibold"
                    >
                      {text}
                      <DropdownMenu.ItemIndicator>✓</DropdownMenu.ItemIndicator>
                    </DropdownMenu.RadioItem>
                  ))}
                </DropdownMenu.RadioGroup>
                <DropdownMenu.Item
                  className="flex min-h-[44px] cursor-pointer items-center px-4 data-highlighted:bg-tint"
                  onSelect={signOut}
                >
                  Sign out
                </DropdownMenu.Item>
              </DropdownMenu.Content>
            </DropdownMenu.Portal>
          </DropdownMenu.Root>
        </nav>
      </header>
      {practice !== undefined && <div className="practice-edge" aria-hidden="true" />}
      <ClockNote />
      {children}
    </div>
  );
}
