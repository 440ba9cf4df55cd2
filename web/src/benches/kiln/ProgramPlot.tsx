import { Box, Button, Stack, Typography } from '@mui/material';
import Papa from 'papaparse';
import { useMemo } from 'react';
import { Link, useParams } from 'react-router';
import { type KilnProgram, clockTime, legsOf, setpointAt } from '../../../../core/kiln/program.ts';
import { formatTemperature } from '../../../../core/units/index.ts';
import { colours, fonts } from '../../ui/theme.ts';
import { LazyChart } from '../../ui/lazyChart.tsx';
import { Choice } from '../../ui/fields/Choice.tsx';
import { download, fileName } from '../../ui/download.ts';
import { useEvaluation } from '../../document/useEvaluation.ts';
import { programCsv } from './programCsv.ts';
import type { KilnRun } from './useKilnRun.ts';

const POINTS = 400;
const SPEEDS = ['60', '600', '3600'] as const;

/** The program against the clock, and what the simulated kiln makes of it. */
export function ProgramPlot({ program, run }: { program: KilnProgram; run: KilnRun }) {
  const { shop } = useEvaluation();
  const { kiln, temperatures } = shop;
  const option = useMemo(() => {
    const inUnit = (c: number) => (temperatures === 'C' ? c : (c * 9) / 5 + 32);
    const legs = legsOf(program, kiln);
    const endS = Math.max(legs[legs.length - 1].endS, run.readings.at(-1)?.seconds ?? 0);
    const planned = Array.from({ length: POINTS + 1 }, (_, i) => {
      const s = (legs[legs.length - 1].endS * i) / POINTS;
      return [s / 60, inUnit(setpointAt(legs, kiln, s))];
    });
    const line = (name: string, color: string, type: string, width: number, data: number[][]) => ({
      type: 'line',
      name,
      showSymbol: false,
      data,
      lineStyle: { color, type, width },
      itemStyle: { color },
    });
    return {
      grid: { left: 64, right: 24, top: 40, bottom: 46 },
      legend: { top: 4, textStyle: { color: colours.ink, fontSize: 14 } },
      xAxis: {
        type: 'value',
        max: Math.ceil(endS / 60),
        axisLabel: {
          showMaxLabel: false,
          formatter: (min: number) => clockTime(program.startMin, min * 60).slice(0, 5),
          color: colours.ink,
          fontSize: 13,
        },
        splitLine: { lineStyle: { color: '#e6dfd0' } },
      },
      yAxis: {
        type: 'value',
        name: `°${temperatures}`,
        axisLabel: { color: colours.ink, fontSize: 13 },
        splitLine: { lineStyle: { color: '#e6dfd0' } },
      },
      series: [
        { ...line('Program', colours.ink, 'dashed', 2.5, planned), z: 5 },
        ...(run.readings.length > 0
          ? [
              line(
                'Thermocouple',
                colours.oxide,
                'solid',
                2.5,
                run.readings.map((r) => [r.seconds / 60, inUnit(r.coupleC)]),
              ),
              line(
                'Chamber',
                colours.gilding,
                'solid',
                1.5,
                run.readings.map((r) => [r.seconds / 60, inUnit(r.chamberC)]),
              ),
            ]
          : []),
      ],
    };
  }, [program, kiln, run.readings, temperatures]);
  return (
    <>
      <Box sx={{ flex: 1, minHeight: 260 }}>
        <LazyChart option={option} height="100%" label={`${program.name}: temperature against the clock`} />
      </Box>
      <Controls program={program} run={run} />
    </>
  );
}

function Controls({ program, run }: { program: KilnProgram; run: KilnRun }) {
  const { plan, shop } = useEvaluation();
  const { id } = useParams();
  const csv = (name: string, text: string) =>
    download(
      fileName(`${plan.name} ${program.name}`, name),
      new Blob([text], { type: 'text/csv;charset=utf-8' }),
    );
  const runCsv = () =>
    Papa.unparse(
      run.readings.map((r) => ({
        clock: clockTime(program.startMin, r.seconds),
        seconds: Math.round(r.seconds),
        'set °C': r.setC.toFixed(1),
        'thermocouple °C': r.coupleC.toFixed(1),
        'chamber °C': r.chamberC.toFixed(1),
        'power %': (100 * r.power).toFixed(0),
      })),
    );
  const last = run.readings.at(-1);
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      <Stack direction="row" useFlexGap spacing={1} sx={{ flexWrap: 'wrap', alignItems: 'center' }}>
        {run.state === 'running' ? (
          <Button variant="contained" onClick={run.pause}>
            Pause
          </Button>
        ) : (
          <Button variant="contained" onClick={run.start}>
            {run.state === 'paused'
              ? 'Go on'
              : run.state === 'done'
                ? 'Run it again'
                : 'Run on the simulated kiln'}
          </Button>
        )}
        {run.state !== 'ready' && <Button onClick={run.reset}>Clear</Button>}
        <Choice
          label="Its clock"
          width={190}
          value={String(run.speed) as (typeof SPEEDS)[number]}
          options={SPEEDS.map(
            (s) =>
              [
                s,
                s === '60' ? 'a minute a second' : s === '600' ? '10 min a second' : 'an hour a second',
              ] as const,
          )}
          onChange={(s) => run.setSpeed(Number(s))}
        />
        <Box sx={{ ml: 'auto', display: 'flex', gap: 1, flexWrap: 'wrap' }}>
          <Button onClick={() => csv('.csv', programCsv(program, shop))}>Program, CSV</Button>
          {run.state === 'done' && <Button onClick={() => csv('-run.csv', runCsv())}>Run, CSV</Button>}
          <Button component={Link} to={`/pieces/${id}/print?what=kiln`}>
            Card to print
          </Button>
        </Box>
      </Stack>
      <Typography role="status" aria-label="Simulated kiln" sx={{ minHeight: 24 }}>
        {last ? (
          <>
            <b style={{ fontFamily: fonts.numbers }}>{clockTime(program.startMin, last.seconds)}</b> · leg{' '}
            {last.leg + 1} · set {formatTemperature(last.setC, shop.temperatures)}, thermocouple{' '}
            <b style={{ fontFamily: fonts.numbers }}>{formatTemperature(last.coupleC, shop.temperatures)}</b>,
            power {Math.round(100 * last.power)} %{last.done && ' · done'}
          </>
        ) : (
          <span style={{ color: colours.faded }}>
            A stand-in for a real controller: a heater of first order, a thermocouple that lags, a faster
            clock.
          </span>
        )}
      </Typography>
    </Box>
  );
}
