import { useEffect, useRef } from 'react';
import { LineChart } from 'echarts/charts';
import { GridComponent, MarkLineComponent, MarkPointComponent, TooltipComponent } from 'echarts/components';
import { init, use as register, type ECharts } from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
import { useTheme } from '../app/shell.tsx';
import { optionOf, type PlotSpec } from './option.ts';

register([LineChart, GridComponent, MarkLineComponent, MarkPointComponent, TooltipComponent, SVGRenderer]);

/** A plot of traces over time. `onReady` hands out the chart for export. */
export function Chart({ spec, label, onReady }: { spec: PlotSpec; label: string; onReady: (chart: ECharts | null) => void }) {
  const box = useRef<HTMLDivElement>(null);
  const chart = useRef<ECharts | null>(null);
  const theme = useTheme();

  useEffect(() => {
    const element = box.current;
    if (!element) return;
    const made = init(element, null, { renderer: 'svg' });
    chart.current = made;
    onReady(made);
    const observer = new ResizeObserver(() => made.resize());
    observer.observe(element);
    return () => {
      observer.disconnect();
      onReady(null);
      chart.current = null;
      made.dispose();
    };
  }, [onReady]);

  useEffect(() => {
    chart.current?.setOption(optionOf(spec), { notMerge: true });
  }, [spec, theme]);

  return <div ref={box} role="img" aria-label={label} className="h-full min-h-0 w-full" />;
}
