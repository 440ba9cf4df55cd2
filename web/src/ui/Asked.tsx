import { Box, Popover, Typography } from '@mui/material';
import { type ReactNode, useMemo, useState } from 'react';
import type { Curve, Figure } from '../../../core/units/index.ts';
import { colours, fonts } from './theme.ts';
import { LazyChart } from './lazyChart.tsx';

interface AskedProps {
  figure: Figure;
  /** Shown instead of the figure itself. */
  children?: ReactNode;
}

/** A figure that tells, when pressed, how it was reckoned: the formula, what was put in, and the source. */
export function Asked({ figure, children }: AskedProps) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  return (
    <>
      <Box
        component="button"
        onClick={(press) => setAnchor(press.currentTarget)}
        aria-label={`${figure.what} ${figure.value}: how it is worked out`}
        aria-haspopup="dialog"
        sx={{
          font: 'inherit',
          fontFamily: children === undefined ? fonts.numbers : 'inherit',
          fontWeight: 700,
          color: colours.ink,
          background: 'none',
          border: 0,
          p: 0,
          cursor: 'help',
          textAlign: 'inherit',
          whiteSpace: children === undefined ? 'nowrap' : undefined,
          textDecoration: `underline dotted ${colours.gilding} 2px`,
          textUnderlineOffset: '3px',
        }}
      >
        {children ?? figure.value}
      </Box>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => setAnchor(null)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
        slotProps={{ paper: { role: 'dialog', 'aria-label': figure.what, sx: { maxWidth: 460 } } }}
      >
        <Answer figure={figure} />
      </Popover>
    </>
  );
}

function Answer({ figure: { what, value, formula, inputs, source, curve } }: { figure: Figure }) {
  return (
    <Box sx={{ p: 2.25, width: 'min(460px, 92vw)' }} tabIndex={-1}>
      <Typography variant="h3" component="h2">
        {what} <span style={{ fontFamily: fonts.numbers, fontWeight: 700 }}>{value}</span>
      </Typography>
      <Typography sx={{ my: 1, p: 1, background: colours.gesso, borderRadius: 1 }}>{formula}</Typography>
      <Box
        component="table"
        sx={{ width: '100%', borderCollapse: 'collapse', '& td': { pb: 0.25, verticalAlign: 'top' } }}
      >
        <tbody>
          {inputs.map(([name, given]) => (
            <tr key={name}>
              <td>{name}</td>
              <td style={{ textAlign: 'right', fontFamily: fonts.numbers }}>{given}</td>
            </tr>
          ))}
        </tbody>
      </Box>
      {curve && <CurveChart curve={curve} label={`${what} over time`} />}
      <Typography variant="body2" color="text.secondary" sx={{ mt: 1 }}>
        Source: {source}
      </Typography>
    </Box>
  );
}

const STYLES = [
  { color: colours.oxide, type: 'solid' },
  { color: colours.ink, type: 'dashed' },
] as const;

function CurveChart({ curve, label }: { curve: () => Curve; label: string }) {
  const option = useMemo(() => {
    const { across, up, lines } = curve();
    return {
      grid: { left: 52, right: 16, top: 30, bottom: 40 },
      legend: { top: 0, data: lines.map((l) => l.name) },
      xAxis: { type: 'value', name: across, nameLocation: 'middle', nameGap: 24 },
      yAxis: { type: 'value', name: up, nameGap: 8 },
      series: lines.map((line, i) => ({
        type: 'line',
        name: line.name,
        showSymbol: false,
        data: line.points,
        lineStyle: { ...STYLES[i % STYLES.length], width: 2 },
        itemStyle: { color: STYLES[i % STYLES.length].color },
      })),
    };
  }, [curve]);
  return <LazyChart option={option} height={210} label={label} />;
}
