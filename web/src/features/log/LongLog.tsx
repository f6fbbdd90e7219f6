import { type RefObject, useEffect, useRef } from "react";
import uPlot from "uplot";
import "uplot/dist/uPlot.min.css";
import { useTheme } from "../../app/theme.ts";
import { clock } from "../../format/clock.ts";
import { type Drawn, moved, type Range } from "./series.ts";

const HEIGHT = 420;
const INKS = ["--copper", "--ink", "--holds", "--wait"];
const DASHES = [[], [7, 4], [2, 4], [10, 4, 2, 4]];

const timeOf = (second: number, exact: boolean) => clock(second * 1000, exact);
const token = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(name).trim();

function rangeOf(plot: uPlot): Range {
  return { min: plot.scales.x?.min ?? 0, max: plot.scales.x?.max ?? 1 };
}

function wholeOf(plot: uPlot): Range {
  const moments = plot.data[0];
  return { min: moments[0] ?? 0, max: moments[moments.length - 1] ?? 1 };
}

/** Moves what is seen: to earlier or later, closer, wider, or all of it. */
export function turn(plot: uPlot | null, way: "earlier" | "later" | "closer" | "wider" | "whole"): void {
  if (!plot) return;
  const [range, whole] = [rangeOf(plot), wholeOf(plot)];
  const next = {
    earlier: () => moved(range, whole, -0.25),
    later: () => moved(range, whole, 0.25),
    closer: () => moved(range, whole, 0, 0.5),
    wider: () => moved(range, whole, 0, 2),
    whole: () => whole,
  }[way]();
  plot.setScale("x", next);
}

/** Drag to pan, wheel to zoom; at most one redraw a frame. */
function panning(): uPlot.Plugin {
  return {
    hooks: {
      ready: [
        (plot: uPlot) => {
          let from: { x: number; range: Range } | null = null;
          let wanted: Range | null = null;
          const draw = () => {
            if (wanted) plot.setScale("x", wanted);
            wanted = null;
          };
          const want = (range: Range) => {
            if (!wanted) requestAnimationFrame(draw);
            wanted = range;
          };
          plot.over.style.touchAction = "pan-y";
          plot.over.style.cursor = "grab";
          plot.over.addEventListener("pointerdown", (event) => {
            from = { x: event.clientX, range: rangeOf(plot) };
            plot.over.setPointerCapture(event.pointerId);
          });
          plot.over.addEventListener("pointermove", (event) => {
            if (from) want(moved(from.range, wholeOf(plot), (from.x - event.clientX) / plot.over.clientWidth));
          });
          for (const end of ["pointerup", "pointercancel"] as const) {
            plot.over.addEventListener(end, () => {
              from = null;
            });
          }
          plot.over.addEventListener(
            "wheel",
            (event) => {
              if (!event.ctrlKey && !event.shiftKey) return;
              event.preventDefault();
              want(moved(rangeOf(plot), wholeOf(plot), 0, event.deltaY > 0 ? 1.25 : 0.8));
            },
            { passive: false },
          );
        },
      ],
    },
  };
}

type Props = { drawn: Drawn; logarithmic: boolean; label: string; plot: RefObject<uPlot | null> };

/** A log of any length, drawn on a canvas in the theme's inks. */
export function LongLog({ drawn, logarithmic, label, plot }: Props) {
  const place = useRef<HTMLDivElement>(null);
  const [theme] = useTheme();
  // biome-ignore lint/correctness/useExhaustiveDependencies: the plot takes its colours from the page, so a new theme draws it anew
  useEffect(() => {
    const target = place.current;
    if (!target) return;
    const axis: uPlot.Axis = {
      stroke: token("--soft"),
      font: `13px ${getComputedStyle(target).fontFamily}`,
      grid: { stroke: token("--rule"), width: 1 },
      ticks: { stroke: token("--rule"), width: 1 },
    };
    const made = new uPlot(
      {
        width: target.clientWidth,
        height: HEIGHT,
        plugins: [panning()],
        cursor: { drag: { x: false, y: false } },
        scales: { y: logarithmic ? { distr: 3 } : {} },
        axes: [
          { ...axis, values: (_, moments, __, ___, apart) => moments.map((second) => timeOf(second, apart < 60)) },
          { ...axis, size: 84 },
        ],
        series: [
          { value: (_, second) => (second == null ? "" : timeOf(second, true)) },
          ...drawn.labels.map((name, n) => ({
            label: name,
            stroke: token(INKS[n % INKS.length] ?? "--ink"),
            dash: DASHES[n % DASHES.length],
            width: 1.5,
            spanGaps: true,
            points: { show: false },
            value: (_: uPlot, value: number | null) => (value == null ? "" : `${value.toPrecision(5)} ${drawn.unit}`),
          })),
        ],
      },
      drawn.data,
      target,
    );
    plot.current = made;
    const size = new ResizeObserver(() => made.setSize({ width: target.clientWidth, height: HEIGHT }));
    size.observe(target);
    return () => {
      size.disconnect();
      made.destroy();
      plot.current = null;
    };
  }, [drawn, logarithmic, theme, plot]);
  return <div ref={place} role="img" aria-label={label} className="long-log min-h-[460px] w-full overflow-hidden" />;
}
