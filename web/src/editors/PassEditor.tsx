import { quantitiesOf } from '../../../core/units/index.ts';
import { MOVES } from '../../../core/moves/index.ts';
import CloseIcon from '@mui/icons-material/Close';
import TuneIcon from '@mui/icons-material/Tune';
import { Box, Collapse, IconButton, Tooltip } from '@mui/material';
import { useState } from 'react';
import { DIES_SHAPED, type PressDies, type PressPass } from '../../../core/moves/forge/press/press.ts';
import { Choice } from '../ui/fields/Choice.tsx';
import { OptionalField, QuantityField } from '../ui/fields/QuantityField.tsx';

const of = quantitiesOf(MOVES.press.parameters);
const ofDies = (shape: PressDies['shape'], key: string) => quantitiesOf(DIES_SHAPED[shape])(key);

const DIES = [
  ['flat', 'flat dies'],
  ['V both', 'V dies, both'],
  ['V below', 'a V below, flat above'],
  ['round both', 'round fullers, both'],
  ['round above', 'a fuller above, flat below'],
  ['wedge both', 'wedges, both'],
  ['wedge above', 'a wedge above, flat below'],
] as const;
type Choosable = (typeof DIES)[number][0];

function diesFor(choice: Choosable): PressDies | undefined {
  const [shape, on] = choice.split(' ') as [PressDies['shape'] | 'flat', PressDies['on']];
  if (shape === 'V') return { shape, on, angleDeg: 90 };
  if (shape === 'round') return { shape, on, radiusMm: 15 };
  return shape === 'wedge' ? { shape, on, angleDeg: 60, tipMm: 3 } : undefined;
}

interface PassEditorProps {
  number: number;
  pass: PressPass;
  onChange(pass: PressPass): void;
  /** Not given where it is the only one. */
  onRemove?: (() => void) | undefined;
  problem: string | undefined;
  bites: { friction: number; biteMm: number };
}

/** One pass: turn and stop, and, opened, its dies, side stops, friction, bite, and a reduction instead of a stop. */
export function PassEditor({ number, pass, onChange, onRemove, problem, bites }: PassEditorProps) {
  const own =
    pass.dies !== undefined ||
    pass.stopsMm !== undefined ||
    pass.friction !== undefined ||
    pass.biteMm !== undefined ||
    pass.afterS !== undefined ||
    pass.takePercent !== undefined;
  const [open, setOpen] = useState(false);
  const put = (some: Partial<PressPass>) => onChange({ ...pass, ...some });
  /** Without one of its own numbers: the step's holds again. */
  const without = (key: 'dies' | 'stopsMm' | 'friction' | 'biteMm' | 'takePercent' | 'afterS') => {
    onChange(Object.fromEntries(Object.entries(pass).filter(([k]) => k !== key)) as PressPass);
  };
  const orNone = (key: 'stopsMm' | 'biteMm' | 'takePercent' | 'afterS') => (value: number | undefined) =>
    value === undefined ? without(key) : put({ [key]: value });
  const { dies } = pass;
  return (
    <Box>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr auto auto', gap: 0.5, alignItems: 'start' }}>
        <QuantityField
          of={of('passes.turnDeg')}
          label={`Pass ${number}, turn`}
          value={pass.turnDeg}
          onChange={(turnDeg) => put({ turnDeg })}
        />
        {pass.takePercent === undefined ? (
          <QuantityField
            of={of('passes.toMm')}
            label={`Pass ${number}, to`}
            value={pass.toMm}
            onChange={(toMm) => put({ toMm })}
            problem={problem}
          />
        ) : (
          <QuantityField
            of={of('passes.takePercent')}
            label={`Pass ${number}, by`}
            value={pass.takePercent}
            onChange={(takePercent) => put({ takePercent })}
            problem={problem}
          />
        )}
        <Tooltip title="Dies, friction, bite">
          <IconButton
            aria-label={`More of pass ${number}`}
            aria-expanded={open}
            color={own ? 'primary' : 'default'}
            onClick={() => setOpen(!open)}
          >
            <TuneIcon />
          </IconButton>
        </Tooltip>
        <IconButton aria-label={`Take pass ${number} out`} disabled={!onRemove} onClick={onRemove}>
          <CloseIcon />
        </IconButton>
      </Box>
      <Collapse in={open} unmountOnExit>
        <Box
          sx={{
            display: 'grid',
            gridTemplateColumns: '1fr 1fr',
            gap: 1,
            py: 1,
            pl: 1.5,
            borderLeft: 3,
            borderColor: 'divider',
          }}
        >
          <Box sx={{ gridColumn: '1 / -1' }}>
            <Choice<Choosable>
              label={`Dies of pass ${number}`}
              value={dies ? (`${dies.shape} ${dies.on}` as Choosable) : 'flat'}
              options={DIES}
              onChange={(choice) => {
                const chosen = diesFor(choice);
                if (chosen) put({ dies: chosen });
                else without('dies');
              }}
            />
          </Box>
          {dies && dies.shape !== 'round' && (
            <QuantityField
              of={ofDies(dies.shape, 'angleDeg')}
              value={dies.angleDeg}
              onChange={(angleDeg) => put({ dies: { ...dies, angleDeg } })}
            />
          )}
          {dies?.shape === 'round' && (
            <QuantityField
              of={ofDies('round', 'radiusMm')}
              value={dies.radiusMm}
              onChange={(radiusMm) => put({ dies: { ...dies, radiusMm } })}
            />
          )}
          {dies?.shape === 'wedge' && (
            <QuantityField
              of={ofDies('wedge', 'tipMm')}
              value={dies.tipMm}
              onChange={(tipMm) => put({ dies: { ...dies, tipMm } })}
            />
          )}
          <OptionalField
            of={of('passes.stopsMm')}
            none="none"
            value={pass.stopsMm}
            onChange={orNone('stopsMm')}
          />
          <OptionalField
            of={of('passes.takePercent')}
            none="to the stop"
            value={pass.takePercent}
            onChange={orNone('takePercent')}
          />
          <QuantityField
            of={of('passes.friction')}
            label="Friction here"
            value={pass.friction ?? bites.friction}
            onChange={(friction) => (friction === bites.friction ? without('friction') : put({ friction }))}
          />
          <QuantityField
            of={of('passes.biteMm')}
            value={pass.biteMm ?? bites.biteMm}
            onChange={(biteMm) => (biteMm === bites.biteMm ? without('biteMm') : put({ biteMm }))}
          />
          <OptionalField
            of={of('passes.afterS')}
            none="at once"
            value={pass.afterS}
            onChange={orNone('afterS')}
          />
        </Box>
      </Collapse>
    </Box>
  );
}
