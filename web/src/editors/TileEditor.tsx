import { MOVES } from '../../../core/moves/index.ts';
import { Box, Stack, Typography } from '@mui/material';
import { TILE_LAYS, type TileLay } from '../../../core/billet/fields/tiled.ts';
import { type TileParameters, sizesOf, tileLays } from '../../../core/moves/saw/tile.ts';
import { formatLength, quantitiesOf } from '../../../core/units/index.ts';
import { Choice } from '../ui/fields/Choice.tsx';
import { QuantityField } from '../ui/fields/QuantityField.tsx';
import { useShop } from '../document/useEvaluation.ts';
import type { EditorProps } from './form/editor.ts';

const of = quantitiesOf(MOVES.tile.parameters);

const LAYS = [
  ['every other rolled', 'Every other rolled over'],
  ['as they lie', 'All as they lie'],
  ['own', 'Each its own way'],
] as const;

const LAY_OPTIONS = TILE_LAYS.map((lay) => [lay, lay] as const);

export function TileEditor({ parameters: p, change, before, problem }: EditorProps<TileParameters>) {
  const shop = useShop();
  const sizes = before[0] ? sizesOf(before[0], p, shop) : null;
  const lays = sizes ? tileLays(p, sizes.count) : [];
  const setLay = (lay: (typeof LAYS)[number][0]) => change({ lay: lay === 'own' ? lays : lay });
  const setOne = (i: number, lay: TileLay) => change({ lay: lays.map((l, k) => (k === i ? lay : l)) });
  const own = typeof p.lay !== 'string';
  return (
    <>
      <Stack direction="row" spacing={1}>
        <QuantityField of={of('angleDeg')} value={p.angleDeg} onChange={(angleDeg) => change({ angleDeg })} />
        <QuantityField
          of={of('thicknessMm')}
          value={p.thicknessMm}
          onChange={(thicknessMm) => change({ thicknessMm })}
          problem={problem('thicknessMm')}
        />
      </Stack>
      <Stack direction="row" spacing={1}>
        <QuantityField
          of={of('count')}
          value={sizes?.count ?? p.count ?? 1}
          onChange={(count) => change({ count })}
          problem={problem('count')}
        />
        <QuantityField
          of={of('kerfMm')}
          value={p.kerfMm ?? shop.kerfMm}
          onChange={(kerfMm) => change({ kerfMm })}
        />
      </Stack>
      {sizes && (
        <Typography variant="body2" color="text.secondary">
          Each shows {formatLength(sizes.faceMm, shop.lengths)} of cut face; a cut every{' '}
          {formatLength(sizes.pitchMm, shop.lengths)} along the bar.
        </Typography>
      )}
      <Choice
        label="Lay them"
        value={own ? 'own' : (p.lay as 'as they lie')}
        options={LAYS}
        onChange={setLay}
        problem={own ? undefined : problem('lay')}
      />
      {own && (
        <Box sx={{ display: 'grid', gap: 1, maxHeight: 220, overflowY: 'auto', pt: 0.75 }}>
          {lays.map((lay, i) => (
            <Choice
              key={i}
              label={`Tile ${i + 1}`}
              value={lay}
              options={LAY_OPTIONS}
              onChange={(l) => setOne(i, l)}
            />
          ))}
        </Box>
      )}
      {own && problem('lay') && (
        <Typography variant="body2" color="error">
          {problem('lay')}
        </Typography>
      )}
    </>
  );
}
