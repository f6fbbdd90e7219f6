import { useEffect, useRef, useState } from "react";

/** The width of an element in pixels, so that a drawing keeps its letters at their size. */
export function useWidth(otherwise: number) {
  const ref = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(otherwise);
  useEffect(() => {
    const element = ref.current;
    if (!element) return;
    const measure = () => setWidth(element.clientWidth || otherwise);
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    return () => observer.disconnect();
  }, [otherwise]);
  return [ref, width] as const;
}
