import { BarChart, LineChart, ScatterChart } from 'echarts/charts';
import { GridComponent, LegendComponent, MarkLineComponent, TooltipComponent } from 'echarts/components';
import { type EChartsCoreOption, init, use as withParts } from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';
import { useEffect, useRef } from 'react';
import { colours, fonts } from './theme.ts';

withParts([
  BarChart,
  LineChart,
  ScatterChart,
  GridComponent,
  LegendComponent,
  MarkLineComponent,
  TooltipComponent,
  SVGRenderer,
]);

interface ChartProps {
  option: EChartsCoreOption;
  height: number | string;
  /** What it shows, for those who cannot see it. */
  label: string;
}

/** A chart in the shop's own type and colours; it follows the size of its place. */
export default function Chart({ option, height, label }: ChartProps) {
  const box = useRef<HTMLDivElement>(null);
  const chart = useRef<ReturnType<typeof init>>(null);
  useEffect(() => {
    const made = init(box.current, null, { renderer: 'svg' });
    chart.current = made;
    const observer = new ResizeObserver(() => made.resize());
    observer.observe(box.current!);
    return () => {
      observer.disconnect();
      made.dispose();
      chart.current = null;
    };
  }, []);
  useEffect(() => {
    chart.current?.setOption(
      {
        animation: false,
        textStyle: { fontFamily: fonts.body, fontSize: 14, color: colours.ink },
        ...option,
      },
      true,
    );
  }, [option]);
  return <div ref={box} role="img" aria-label={label} style={{ width: '100%', height }} />;
}
