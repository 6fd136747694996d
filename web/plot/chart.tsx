import { useEffect, useRef, type KeyboardEvent, type PointerEvent, type RefObject } from 'react';
import { LineChart } from 'echarts/charts';
import { GridComponent, MarkLineComponent, MarkPointComponent, TooltipComponent } from 'echarts/components';
import { connect, init, use as register, type ECharts } from 'echarts/core';
import { LabelLayout } from 'echarts/features';
import { SVGRenderer } from 'echarts/renderers';
import { useTheme } from '../app/shell.tsx';
import { optionOf, type PlotSpec } from './option.ts';

register([LineChart, GridComponent, MarkLineComponent, MarkPointComponent, TooltipComponent, LabelLayout, SVGRenderer]);

/** A plot of traces over time. `onReady` hands out the chart for export. */
interface Props {
  readonly spec: PlotSpec;
  readonly label: string;
  readonly onReady?: (chart: ECharts | null) => void;
  /** The stretch of time that was dragged over, s. */
  readonly onWindow?: (from: number, to: number) => void;
  /** Plots of one name on a page have one cursor: what runs along them is the same. */
  readonly cursor?: string;
}

/** Walks the cursor along the first trace; it reads all of them at its time. */
function useCursor(chart: RefObject<ECharts | null>, spec: PlotSpec) {
  const at = useRef(0);
  return (event: KeyboardEvent) => {
    const step = { ArrowLeft: -1, ArrowRight: 1, PageUp: 20, PageDown: -20, Home: -1e9, End: 1e9 }[event.key];
    if (step === undefined) return;
    event.preventDefault();
    const { from, to } = spec.window ?? { from: 0, to: Infinity };
    const times = spec.traces[0]?.trace.t ?? new Float64Array();
    const first = times.findIndex((t) => t >= from);
    const last = times.findLastIndex((t) => t <= to);
    at.current = Math.min(Math.max(at.current + step, first), last);
    chart.current?.dispatchAction({ type: 'showTip', seriesIndex: 0, dataIndex: at.current });
  };
}

/** Dragging over a stretch of time asks for that stretch. */
function useDrag(chart: RefObject<ECharts | null>, onWindow: Props['onWindow']) {
  const from = useRef<number | null>(null);
  const timeAt = (event: PointerEvent) => {
    const box = event.currentTarget.getBoundingClientRect();
    const [time] = chart.current?.convertFromPixel({ gridIndex: 0 }, [event.clientX - box.left, event.clientY - box.top]) ?? [];
    return time ?? null;
  };
  return {
    onPointerDown: (event: PointerEvent) => (from.current = timeAt(event)),
    onPointerUp: (event: PointerEvent) => {
      const [a, b] = [from.current, timeAt(event)];
      from.current = null;
      if (a === null || b === null || !onWindow) return;
      onWindow(Math.min(a, b), Math.max(a, b));
    },
  };
}

export function Chart({ spec, label, onReady, onWindow, cursor }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const chart = useRef<ECharts | null>(null);
  const theme = useTheme();

  useEffect(() => {
    const element = box.current;
    if (!element) return;
    const made = init(element, null, { renderer: 'svg' });
    chart.current = made;
    if (cursor !== undefined) {
      made.group = cursor;
      connect(cursor);
    }
    onReady?.(made);
    const observer = new ResizeObserver(() => made.resize());
    observer.observe(element);
    return () => {
      observer.disconnect();
      onReady?.(null);
      chart.current = null;
      made.dispose();
    };
  }, [onReady, cursor]);

  useEffect(() => {
    chart.current?.setOption(optionOf(spec), { notMerge: true });
  }, [spec, theme]);

  const onKeyDown = useCursor(chart, spec);
  const drag = useDrag(chart, onWindow);
  return (
    <div
      ref={box}
      role="img"
      aria-label={label}
      tabIndex={0}
      className="h-full min-h-0 w-full touch-pan-y"
      onKeyDown={onKeyDown}
      {...drag}
    />
  );
}
