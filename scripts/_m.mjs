import { LineChart } from 'echarts/charts';
import { GridComponent, MarkLineComponent } from 'echarts/components';
import { init, use } from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
use([LineChart, GridComponent, MarkLineComponent, SVGRenderer]);
const go = (data) => { const c = init(null, null, { renderer: 'svg', ssr: true, width: 400, height: 200 });
c.setOption({ animation: false, xAxis: { type: 'value', min: 0, max: 10 }, yAxis: [{ type: 'value', min: -5, max: 5 }], series: [{ type: 'line', data: [[0,0],[10,3]], markLine: { silent: true, symbol: 'none', animation: false, data } }] });
return c.renderToSVGString().match(/<path d="M[^"]*"[^>]*stroke-dasharray[^>]*>/g)?.length; };
console.log(go([{ yAxis: 2 }]), go([{ xAxis: 4 }, { yAxis: 2 }]), go([{ xAxis: 4, lineStyle: { type: 'dotted', color: '#f00', width: 1 } , label: {show:false}}]), go([{ xAxis: 0.0004, lineStyle: { type: 'dotted' }}]), go([{ xAxis: 4 , label: {position:'insideEndTop', rotate: 90}}]));
