import TrackChangesIcon from '@mui/icons-material/TrackChanges';
import { Box, Button, LinearProgress, Typography } from '@mui/material';
import * as Comlink from 'comlink';
import { useEffect, useRef, useState } from 'react';
import type { Billet } from '../../../core/billet/billet.ts';
import { type Found, type Free, TARGET, type WantedPattern } from '../../../core/moves/forge/press/search.ts';
import { type PressParameters, press, specOf } from '../../../core/moves/forge/press/press.ts';
import { formatFine, quantitiesOf, quantityOf } from '../../../core/units/index.ts';
import { Choice } from '../ui/fields/Choice.tsx';
import { QuantityField } from '../ui/fields/QuantityField.tsx';
import { useShop } from '../document/useEvaluation.ts';
import { askApart } from '../document/workers/host.ts';
import { Popup } from '../ui/Popup.tsx';

const LINES = [
  ['flat', 'the layer through the middle'],
  ['upright', 'the line across the layers'],
  ['diagonal', 'the line from corner to corner'],
] as const;
const MEASURES = [
  ['into the corners', 'runs into two corners'],
  ['off the corners', 'ends beside the corners by'],
  ['bow', 'bows as deep as'],
] as const;

const of = quantitiesOf(press.parameters);

/** How far the turn and the stop are looked through at first. */
const TURN_RANGE_DEG = 15;
const STOP_RANGE = 0.15;

interface SearchPressProps {
  bar: Billet;
  parameters: PressParameters;
  onTake(passes: PressParameters['passes']): void;
}

/** “How must I press to get this?”: turn and stop height are looked for by trying them on the flow. */
export function SearchPress({ bar, parameters, onTake }: SearchPressProps) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button
        size="small"
        startIcon={<TrackChangesIcon />}
        sx={{ justifySelf: 'start' }}
        onClick={() => setOpen(true)}
      >
        How must I press to get this?
      </Button>
      {open && <Search {...{ bar, parameters, onTake }} onClose={() => setOpen(false)} />}
    </>
  );
}

function Search({ bar, parameters: p, onTake, onClose }: SearchPressProps & { onClose(): void }) {
  const shop = useShop();
  const tips = Math.max(
    0,
    p.passes.findIndex((q) => q.turnDeg % 90 !== 0),
  );
  const [wanted, setWanted] = useState<WantedPattern>({
    line: 'flat',
    measure: 'into the corners',
    targetMm: 2,
  });
  const [free, setFree] = useState<Free>({
    turnOf: tips,
    turnDeg: [p.passes[tips].turnDeg - TURN_RANGE_DEG, p.passes[tips].turnDeg + TURN_RANGE_DEG],
    heightOf: tips,
    toMm: [p.passes[tips].toMm * (1 - STOP_RANGE), p.passes[tips].toMm * (1 + STOP_RANGE)],
  });
  const [running, setRunning] = useState<number | null>(null);
  const [best, setBest] = useState<Found | null | 'none'>(null);
  const [failed, setFailed] = useState<string | null>(null);
  const under = useRef<{ end(): void } | null>(null);
  const stop = () => {
    under.current?.end();
    under.current = null;
    setRunning(null);
  };
  useEffect(() => () => under.current?.end(), []);
  const start = () => {
    stop();
    setBest(null);
    setFailed(null);
    setRunning(0);
    const { answer, end } = askApart('search', (api) =>
      api.searchPress(
        specOf(bar, p, shop),
        wanted,
        free,
        Comlink.proxy((share, found) => {
          if (under.current !== mine) return;
          setRunning(share);
          setBest(found);
        }),
      ),
    );
    const mine = { end };
    under.current = mine;
    answer.then(
      (found) => {
        if (under.current !== mine) return;
        stop();
        setBest(found ?? 'none');
      },
      (error: Error) => {
        if (under.current !== mine) return;
        stop();
        setFailed(error.message);
      },
    );
  };
  const other = (some: Partial<WantedPattern>) => {
    stop();
    setBest(null);
    setWanted({ ...wanted, ...some });
  };
  const range = (some: Partial<Free>) => {
    stop();
    setBest(null);
    setFree({ ...free, ...some });
  };
  const take = (found: Found) => {
    onTake(
      p.passes.map((q, i) => {
        const other = { ...q };
        if (i === free.turnOf) other.turnDeg = found.turnDeg;
        if (i === free.heightOf) {
          other.toMm = found.toMm;
          delete other.takePercent;
        }
        return other;
      }),
    );
    onClose();
  };
  const passes = p.passes.map((_, i) => [String(i), `pass ${i + 1}`] as const);
  const fields = { display: 'grid', gridTemplateColumns: '1fr 1fr 1fr', gap: 1.25, mt: 1.5 };
  return (
    <Popup
      title="How must I press to get this?"
      onClose={onClose}
      width="sm"
      actions={
        <>
          <Button onClick={onClose}>Close</Button>
          {running !== null ? (
            <Button onClick={stop}>Stop</Button>
          ) : (
            <Button onClick={start} variant={best ? 'text' : 'contained'}>
              {best ? 'Search again' : 'Search'}
            </Button>
          )}
          {best && best !== 'none' && running === null && (
            <Button variant="contained" onClick={() => take(best)}>
              Take it
            </Button>
          )}
        </>
      }
    >
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.25, pt: 1 }}>
        <Choice
          label="Wanted: that"
          value={wanted.line}
          options={LINES}
          onChange={(line) => other({ line })}
        />
        <Choice
          label="in the end"
          value={wanted.measure}
          options={MEASURES}
          onChange={(measure) => other({ measure })}
        />
        {wanted.measure !== 'into the corners' && (
          <QuantityField
            of={quantityOf(TARGET)}
            value={wanted.targetMm}
            onChange={(targetMm) => other({ targetMm })}
          />
        )}
      </Box>
      <Box sx={fields}>
        <Choice
          label="Turn of"
          value={String(free.turnOf)}
          options={passes}
          onChange={(i) => range({ turnOf: Number(i) })}
        />
        <QuantityField
          of={of('passes.turnDeg')}
          label="from"
          value={free.turnDeg[0]}
          onChange={(low) => range({ turnDeg: [low, Math.max(low, free.turnDeg[1])] })}
        />
        <QuantityField
          of={of('passes.turnDeg')}
          label="to"
          value={free.turnDeg[1]}
          onChange={(high) => range({ turnDeg: [Math.min(high, free.turnDeg[0]), high] })}
        />
        <Choice
          label="Stop of"
          value={String(free.heightOf)}
          options={passes}
          onChange={(i) => {
            const { toMm } = p.passes[Number(i)];
            range({ heightOf: Number(i), toMm: [toMm * (1 - STOP_RANGE), toMm * (1 + STOP_RANGE)] });
          }}
        />
        <QuantityField
          of={of('passes.toMm')}
          label="at least"
          value={free.toMm[0]}
          onChange={(low) => range({ toMm: [low, Math.max(low, free.toMm[1])] })}
        />
        <QuantityField
          of={of('passes.toMm')}
          label="at most"
          value={free.toMm[1]}
          onChange={(high) => range({ toMm: [Math.min(high, free.toMm[0]), high] })}
        />
      </Box>
      <Typography variant="body2" color="text.secondary" sx={{ mt: 1.5 }}>
        Up to 40 ways of pressing are tried on a rough grid, the best of them once more on the fine one.
      </Typography>
      {running !== null && (
        <LinearProgress variant="determinate" aria-label="Search" value={100 * running} sx={{ mt: 1 }} />
      )}
      <Typography sx={{ mt: 1, minHeight: 48 }} aria-live="polite">
        {failed
          ? `The search broke off: ${failed}.`
          : best === 'none'
            ? 'None of the ways tried could be pressed: widen the ranges.'
            : best &&
              `${running === null ? 'Best found' : 'Best so far'}: turn ${best.turnDeg.toFixed(2).replace(/\.?0+$/, '')}°, stop ${formatFine(best.toMm, shop.lengths)}. ${
                wanted.measure === 'bow' ? 'It bows' : 'Its ends lie beside the corners by'
              } ${formatFine(best.measuredMm, shop.lengths)}, ${formatFine(best.offMm, shop.lengths)} off what is wanted, after ${best.tries} tries.`}
      </Typography>
    </Popup>
  );
}
