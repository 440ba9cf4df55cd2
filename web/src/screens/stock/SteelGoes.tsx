import { useMemo } from 'react';
import { type Evaluation, waterfall } from '../../../../core/plan/index.ts';
import { type MassUnit, formatMass, roughMass } from '../../../../core/units/index.ts';
import { colours, fonts } from '../../ui/theme.ts';
import { LazyChart } from '../../ui/lazyChart.tsx';
import { Section } from '../../ui/Section.tsx';

/** Where the steel goes, from what comes in to the finished bar. */
export function SteelGoes({ evaluation }: { evaluation: Evaluation }) {
  const { masses } = evaluation.shop;
  const { words, ...chart } = useMemo(() => chartOf(evaluation, masses), [evaluation, masses]);
  return (
    <Section title="Where the steel goes">
      <LazyChart option={chart} height={250} label={`Where the steel goes: ${words}`} />
    </Section>
  );
}

function chartOf(evaluation: Evaluation, masses: MassUnit) {
  const { parts, finishedKg } = waterfall(evaluation);
  let level = 0;
  const steps = parts.map(({ what, kg }) => {
    const from = level;
    level += kg;
    return { what, low: Math.min(from, level), kg };
  });
  const all = [...steps, { what: 'Finished bar', low: 0, kg: finishedKg }];
  const colourOf = (what: string, kg: number) =>
    what === 'Finished bar' ? colours.verdigris : kg >= 0 ? '#6d6a63' : colours.oxide;
  return {
    grid: { left: 12, right: 12, top: 40, bottom: 4, containLabel: true },
    xAxis: {
      type: 'category',
      data: all.map((s) => s.what),
      axisLabel: { interval: 0, width: 88, overflow: 'break', color: colours.ink, fontSize: 13 },
      axisTick: { show: false },
    },
    yAxis: {
      type: 'value',
      axisLabel: {
        formatter: (kg: number) => roughMass(kg, masses),
        color: colours.faded,
      },
    },
    series: [
      {
        type: 'bar',
        stack: 'steel',
        silent: true,
        itemStyle: { color: 'transparent' },
        data: all.map((s) => s.low),
      },
      {
        type: 'bar',
        stack: 'steel',
        barMaxWidth: 64,
        data: all.map((s) => ({ value: Math.abs(s.kg), itemStyle: { color: colourOf(s.what, s.kg) } })),
        label: {
          show: true,
          position: 'top',
          color: colours.ink,
          fontFamily: fonts.numbers,
          fontSize: 13,
          formatter: ({ dataIndex }: { dataIndex: number }) =>
            `${all[dataIndex].kg < 0 ? '−' : ''}${onTwoLines(formatMass(Math.abs(all[dataIndex].kg), masses))}`,
        },
      },
    ],
    words: all.map((s) => `${s.what} ${formatMass(s.kg, masses)}`).join(', '),
  };
}

/** Pounds over ounces, so that figures do not run into their neighbours. */
const onTwoLines = (mass: string): string => mass.replace(' lb ', ' lb\n');
