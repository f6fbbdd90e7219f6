/** Beside a button that cannot be pressed: why, and so what to do first. Nothing while it can. */
export function WhyNot({ unless, children }: { unless: boolean; children: string }) {
  return unless ? null : <span className="self-center text-[14px] text-soft">{children}</span>;
}
