import { useEffect, useRef } from 'react';
import { SankeyChart } from 'echarts/charts';
import { TooltipComponent } from 'echarts/components';
import { init, use as register, type EChartsCoreOption } from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
import { printQuantity } from '@vast-surge/core/quantity';
import type { LaunchStudy } from '@vast-surge/core/study';
import { useTheme } from '../../app/shell.tsx';
import { inks, type Ink } from '../../plot/option.ts';
import { branchesOf } from './energy-branches.ts';

register([SankeyChart, TooltipComponent, SVGRenderer]);

/** What is stored, and what becomes of it, as bands as thick as their energy. */
function flowOf(study: LaunchStudy): EChartsCoreOption {
  const ink = inks();
  const { left, out } = branchesOf(study);
  // What is next to nothing has no thickness to be drawn.
  const least = study.energy.stored * 1e-3;
  const seen = [...out, left].filter(({ joules }) => joules > least);
  const joules = (value: number) => printQuantity(value, 'J');
  const node = (name: string, value: number, of: Ink) => ({
    name,
    itemStyle: { color: ink[of] },
    label: { formatter: `${name} ${joules(value)}` },
  });
  const links = seen.map(({ name, joules: value }) => ({ source: 'stored', target: name, value }));
  return {
    animation: false,
    series: [
      {
        type: 'sankey',
        left: 4,
        right: 216,
        top: 6,
        bottom: 6,
        nodeWidth: 10,
        nodeGap: 9,
        draggable: false,
        layoutIterations: 0,
        label: { color: ink.ink, fontSize: 13, fontFamily: "'Atkinson Hyperlegible Next Variable', sans-serif" },
        lineStyle: { color: 'target', opacity: 0.35, curveness: 0.5 },
        data: [node('stored', study.energy.stored, 'ink'), ...seen.map((branch) => node(branch.name, branch.joules, branch.ink))],
        links,
      },
    ],
  };
}

/** The energy of a launch as a flow, each branch as thick as its joules; its table has the same numbers. */
export function EnergyFlow({ study }: { study: LaunchStudy }) {
  const box = useRef<HTMLDivElement>(null);
  const theme = useTheme();
  useEffect(() => {
    const element = box.current;
    if (!element) return;
    const chart = init(element, null, { renderer: 'svg' });
    chart.setOption(flowOf(study));
    const observer = new ResizeObserver(() => chart.resize());
    observer.observe(element);
    return () => {
      observer.disconnect();
      chart.dispose();
    };
  }, [study, theme]);
  return (
    <div
      ref={box}
      role="img"
      aria-label={`Energy flow of ${printQuantity(study.energy.stored, 'J')} stored; the table below has the numbers`}
      className="h-[190px] w-full"
    />
  );
}
