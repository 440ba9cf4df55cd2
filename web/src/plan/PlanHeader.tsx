import HelpOutlineIcon from '@mui/icons-material/HelpOutlined';
import RedoIcon from '@mui/icons-material/Redo';
import UndoIcon from '@mui/icons-material/Undo';
import { Box, IconButton, InputBase, Stack, ToggleButton, ToggleButtonGroup, Tooltip } from '@mui/material';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { useStore } from 'zustand';
import type { ShopSettings } from '../../../core/shop/shop.ts';
import type { LengthDisplay } from '../../../core/units/index.ts';
import { colours, fonts } from '../app/theme.ts';
import { Choice } from '../fields/Choice.tsx';
import { SteelInOut } from './GoalStrip.tsx';
import { SaveLight } from './SaveLight.tsx';
import { editPlan, redo, undo, usePlanStore } from './planStore.ts';
import { useEvaluation } from './useEvaluation.ts';

const DIVISIONS = {
  in: [
    ['64', '1/64"'],
    ['32', '1/32"'],
    ['16', '1/16"'],
  ],
  mm: [
    ['0.1', '0.1 mm'],
    ['0.5', '0.5 mm'],
    ['1', '1 mm'],
  ],
} as const;

/** Inches bring pounds and °F with them, millimetres kilograms and °C. Nothing stored changes: only how it is written. */
const inUnit = (unit: 'in' | 'mm'): Partial<ShopSettings> =>
  unit === 'in'
    ? { lengths: { unit, division: 32 }, masses: 'lb', temperatures: 'F' }
    : { lengths: { unit, division: 0.5 }, masses: 'kg', temperatures: 'C' };

const setShop = (some: Partial<ShopSettings>): void =>
  editPlan((plan) => ({ ...plan, shop: { ...plan.shop, ...some } }), 'units');

export function PlanHeader({ onHelp }: { onHelp(): void }) {
  const { plan } = useEvaluation();
  const { pastStates, futureStates } = useStore(usePlanStore.temporal);
  const { lengths } = plan.shop;
  const { id, view } = useParams();
  return (
    <Stack
      component="header"
      direction="row"
      useFlexGap
      spacing={2}
      sx={{
        alignItems: 'center',
        px: 2.5,
        py: 0.75,
        background: colours.paper,
        borderBottom: `1px solid ${colours.line}`,
        flexWrap: 'wrap',
      }}
    >
      <Box
        component={Link}
        to="/"
        sx={{ fontFamily: fonts.title, fontSize: '1.6rem', color: colours.oxide, textDecoration: 'none' }}
        aria-label="Retablo: back to the shelf"
      >
        Retablo
      </Box>
      <PieceName key={plan.name} name={plan.name} />
      <Stack component="nav" aria-label="Screens of this piece" direction="row" spacing={0.5}>
        <Tab to={`/pieces/${id}`} text="Plan" here={view === undefined} />
        <Tab to={`/pieces/${id}/blade`} text="Blade" here={view === 'blade'} />
      </Stack>
      <Stack
        direction="row"
        useFlexGap
        spacing={1}
        sx={{ ml: 'auto', alignItems: 'center', flexWrap: 'wrap', justifyContent: 'flex-end' }}
      >
        <Box sx={{ display: { xs: 'none', md: 'block' } }}>
          <SteelInOut />
        </Box>
        <SaveLight />
        <IconAct title="Undo (Z)" disabled={pastStates.length === 0} act={undo} icon={<UndoIcon />} />
        <IconAct title="Redo (Shift Z)" disabled={futureStates.length === 0} act={redo} icon={<RedoIcon />} />
        <ToggleButtonGroup
          size="small"
          exclusive
          value={lengths.unit}
          onChange={(_, unit: 'in' | 'mm' | null) => unit && setShop(inUnit(unit))}
          aria-label="Units"
        >
          <ToggleButton value="in" sx={{ textTransform: 'none', py: 0.4, color: colours.ink }}>
            in
          </ToggleButton>
          <ToggleButton value="mm" sx={{ textTransform: 'none', py: 0.4, color: colours.ink }}>
            mm
          </ToggleButton>
        </ToggleButtonGroup>
        <Choice
          label="Finest"
          width={104}
          value={String(lengths.division)}
          options={DIVISIONS[lengths.unit]}
          onChange={(division) =>
            setShop({ lengths: { unit: lengths.unit, division: Number(division) } as LengthDisplay })
          }
        />
        <IconAct title="Keys (?)" act={onHelp} icon={<HelpOutlineIcon />} />
      </Stack>
    </Stack>
  );
}

function Tab({ to, text, here }: { to: string; text: string; here: boolean }) {
  return (
    <Box
      component={Link}
      to={to}
      aria-current={here ? 'page' : undefined}
      sx={{
        px: 1.25,
        py: 0.5,
        borderRadius: '5px',
        textDecoration: 'none',
        fontWeight: 600,
        color: here ? colours.paper : colours.ink,
        background: here ? colours.ink : 'none',
      }}
    >
      {text}
    </Box>
  );
}

function IconAct({
  title,
  disabled,
  act,
  icon,
}: {
  title: string;
  disabled?: boolean;
  act(): void;
  icon: React.ReactNode;
}) {
  return (
    <Tooltip title={title}>
      <span>
        <IconButton aria-label={title} disabled={disabled} onClick={act} size="small">
          {icon}
        </IconButton>
      </span>
    </Tooltip>
  );
}

/** The piece's name, edited in place; an empty one is put back. */
function PieceName({ name }: { name: string }) {
  const [text, setText] = useState(name);
  const commit = () => {
    const trimmed = text.trim();
    if (trimmed === '') setText(name);
    else if (trimmed !== name) editPlan((plan) => ({ ...plan, name: trimmed }), 'name');
  };
  return (
    <InputBase
      value={text}
      onChange={(change) => setText(change.target.value)}
      onBlur={commit}
      onKeyDown={(key) => key.key === 'Enter' && (key.target as HTMLElement).blur()}
      inputProps={{ 'aria-label': 'Name of the piece', maxLength: 120 }}
      sx={{ fontFamily: fonts.title, fontSize: '1.25rem', flex: '1 1 140px', minWidth: 120, maxWidth: 420 }}
    />
  );
}
