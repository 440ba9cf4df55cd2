import { Alert, Box, Button, Typography } from '@mui/material';
import { useMemo } from 'react';
import { materialById } from '../../../../core/materials/material.ts';
import {
  type CutRow,
  type Evaluation,
  type SectionCuts,
  cutFromSections,
  cutList,
} from '../../../../core/plan/index.ts';
import { massKg } from '../../../../core/materials/volumes.ts';
import type { Shop } from '../../../../core/shop/shop.ts';
import { boughtVolume, isSawn } from '../../../../core/moves/index.ts';
import { formatFine, formatStockSizes, formatLength, formatMass } from '../../../../core/units/index.ts';
import { barsFigure } from '../../../../core/judgement/index.ts';
import { colours, fonts } from '../../ui/theme.ts';
import { Asked } from '../../ui/Asked.tsx';
import { cutListCsv } from '../files/cutListCsv.ts';
import { download, fileName } from '../../ui/download.ts';
import { Section } from '../../ui/Section.tsx';
import { useRack } from '../../document/shopApi.ts';

const sectionText = (w: number, t: number, { lengths }: Shop) => formatStockSizes([w, t], lengths);

/** Every strip, sheet and block to cut, which bars they come out of, and what has to be bought. */
export function CutAndBuy({ evaluation }: { evaluation: Evaluation }) {
  const { shop, plan } = evaluation;
  const { data: rack } = useRack();
  const rows = useMemo(() => cutList(evaluation), [evaluation]);
  const sections = useMemo(() => cutFromSections(rows, rack ?? [], shop), [rows, rack, shop]);
  const buys = sections.flatMap((s) => s.buy);
  const total = buys.every((b) => b.price !== null)
    ? buys.reduce((sum, b) => sum + b.count * b.price!, 0)
    : null;
  const csv = () =>
    download(
      fileName(plan.name, '-cut-list.csv'),
      new Blob([cutListCsv(evaluation)], { type: 'text/csv;charset=utf-8' }),
    );
  return (
    <Section title="Cut and buy">
      {rows.length === 0 && <Typography>Nothing has to be cut for this plan as it stands.</Typography>}
      {sections.map((s) => (
        <OneSection key={`${s.material} ${s.widthMm} ${s.thicknessMm}`} section={s} shop={shop} />
      ))}
      <CountAndWeigh rows={rows.filter((r) => !isSawn(r))} shop={shop} />
      {rows.length > 0 && (
        <Box
          sx={{
            display: 'flex',
            gap: 2,
            alignItems: 'center',
            flexWrap: 'wrap',
            borderTop: `1px solid ${colours.line}`,
            pt: 1,
          }}
        >
          <Typography sx={{ flex: 1 }}>
            {buys.length === 0 ? (
              <b>All of it lies on the rack: nothing to buy.</b>
            ) : (
              <>
                To buy: <b>{buys.reduce((n, b) => n + b.count, 0)} bars</b>
                {total !== null && total > 0 && (
                  <>
                    , {total.toFixed(2)} {shop.currency}
                  </>
                )}
              </>
            )}
          </Typography>
          <Button size="small" variant="outlined" onClick={csv}>
            Cut list as CSV
          </Button>
        </Box>
      )}
    </Section>
  );
}

/** Balls to count and powder to weigh out, for cans. */
function CountAndWeigh({ rows, shop }: { rows: readonly CutRow[]; shop: Shop }) {
  if (rows.length === 0) return null;
  const name = (id: string) => materialById(shop.materials, id)?.name ?? id;
  const kg = (r: CutRow) =>
    formatMass(massKg({ [r.material]: boughtVolume(r) * r.count }, shop.materials), shop.masses);
  return (
    <Box component="article" aria-label="To count and weigh">
      <Typography variant="h3">To count and weigh</Typography>
      {rows.map((r) => (
        <Typography key={`${r.what} ${r.material} ${r.widthMm}`}>
          <b>{name(r.material)}</b>{' '}
          {r.what === 'powder' ? 'powder' : `balls ${formatFine(r.widthMm, shop.lengths)}`}:{' '}
          <b style={{ fontFamily: fonts.numbers }}>{r.what === 'powder' ? kg(r) : `${r.count}, ${kg(r)}`}</b>{' '}
          <span style={{ color: colours.faded }}>
            for {r.lanes.join(', ')}; take some more for what is spilt
          </span>
        </Typography>
      ))}
    </Box>
  );
}

function OneSection({ section: s, shop }: { section: SectionCuts; shop: Shop }) {
  const name = materialById(shop.materials, s.material)?.name ?? s.material;
  const pieces = s.rows.map((r) => `${r.count} × ${formatLength(r.lengthMm, shop.lengths)}`).join(', ');
  const missing = s.cutting.missing
    .map((m) => `${m.count} × ${formatLength(m.lengthMm, shop.lengths)}`)
    .join(', ');
  const kinds = new Map<string, { bar: SectionCuts['cutting']['bars'][number]; count: number }>();
  for (const bar of s.cutting.bars) {
    const key = `${bar.stock.name === 'buy' ? 'buy' : 'rack'} ${bar.stock.lengthMm} ${bar.piecesMm.join()}`;
    const known = kinds.get(key);
    if (known) known.count++;
    else kinds.set(key, { bar, count: 1 });
  }
  return (
    <Box component="article" aria-label={`${name} ${sectionText(s.widthMm, s.thicknessMm, shop)}`}>
      <Box sx={{ display: 'flex', justifyContent: 'space-between', gap: 2, flexWrap: 'wrap' }}>
        <Typography>
          <b>{name}</b>{' '}
          <span style={{ fontFamily: fonts.numbers }}>{sectionText(s.widthMm, s.thicknessMm, shop)}</span>:
          cut <b style={{ fontFamily: fonts.numbers }}>{pieces}</b>
        </Typography>
        <Typography color="text.secondary">
          <Asked figure={barsFigure(s, shop)}>
            {s.cutting.bars.length === 1 ? '1 bar' : `${s.cutting.bars.length} bars`}
          </Asked>{' '}
          · {formatMass(s.massKg, shop.masses)} · for{' '}
          {[...new Set(s.rows.flatMap((r) => r.lanes))].join(', ')}
        </Typography>
      </Box>
      {missing && (
        <Alert severity="warning" sx={{ my: 0.5 }}>
          No bar is long enough for {missing}: buy longer, or make the start shorter.
        </Alert>
      )}
      <Box sx={{ display: 'grid', gap: 0.5, my: 0.5 }}>
        {[...kinds.values()].map(({ bar, count }, i) => (
          <BarCuts key={i} bar={bar} count={count} shop={shop} />
        ))}
      </Box>
    </Box>
  );
}

interface BarCutsProps {
  bar: SectionCuts['cutting']['bars'][number];
  count: number;
  shop: Shop;
}

/** One bar as it is sawn up: pieces in order, the rest pale. */
function BarCuts({ bar, count, shop }: BarCutsProps) {
  const whole = bar.stock.lengthMm;
  const bought = bar.stock.name === 'buy';
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: '168px minmax(0, 1fr) 132px',
        gap: 1,
        alignItems: 'center',
        fontSize: '0.93rem',
      }}
    >
      <span>
        {count} {count === 1 ? 'bar' : 'bars'} {bought ? 'to buy' : 'from the rack'}
      </span>
      <svg
        viewBox="0 0 1000 22"
        preserveAspectRatio="none"
        style={{ width: '100%', height: 22, display: 'block' }}
        role="img"
        aria-label={`${bar.piecesMm.length} pieces from ${formatLength(whole, shop.lengths)}`}
      >
        <rect
          x={0}
          y={1}
          width={1000}
          height={20}
          fill={colours.gesso}
          stroke={colours.line}
          vectorEffect="non-scaling-stroke"
        />
        {pieceStarts(bar.piecesMm, shop.kerfMm).map((at, i) => (
          <rect
            key={i}
            x={(1000 * at) / whole}
            y={1}
            width={(1000 * bar.piecesMm[i]) / whole}
            height={20}
            fill="#b9b4a8"
            stroke={colours.paper}
            vectorEffect="non-scaling-stroke"
          />
        ))}
      </svg>
      <span style={{ fontFamily: fonts.numbers, textAlign: 'right' }}>
        of {formatLength(whole, shop.lengths)}
        <br />
        <span style={{ color: colours.faded }}>rest {formatLength(bar.restMm, shop.lengths)}</span>
      </span>
    </Box>
  );
}

/** Where each piece begins along its bar, mm. */
const pieceStarts = (piecesMm: readonly number[], kerfMm: number): number[] =>
  piecesMm.map((_, i) => piecesMm.slice(0, i).reduce((sum, mm) => sum + mm + kerfMm, 0));
