import type { ReactNode } from "react";

type Props = {
  label: string;
  className?: string;
  children: ReactNode;
  [data: `data-${string}`]: string | boolean | undefined;
};

/** A region that scrolls by itself, reachable by keyboard so that its keys scroll it. */
export function Scrollable({ label, className = "", children, ...data }: Props) {
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: without a place in the tab order no key would scroll it
    <section className={`overflow-x-auto ${className}`} aria-label={label} tabIndex={0} {...data}>
      {children}
    </section>
  );
}
