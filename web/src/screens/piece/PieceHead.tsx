import { MOST_NAME } from '../../../../core/plan/index.ts';
import { moveOf } from '../../../../core/moves/index.ts';
import HistoryIcon from '@mui/icons-material/History';
import HelpOutlineIcon from '@mui/icons-material/HelpOutlined';
import RedoIcon from '@mui/icons-material/Redo';
import UndoIcon from '@mui/icons-material/Undo';
import {
  Button,
  IconButton,
  InputBase,
  Popover,
  Stack,
  ToggleButton,
  ToggleButtonGroup,
  Tooltip,
} from '@mui/material';
import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { useStore } from 'zustand';
import type { ShopSettings } from '../../../../core/shop/shop.ts';
import { NavTab, PageHead } from '../../ui/layout.tsx';
import { colours, fonts } from '../../ui/theme.ts';
import { FilesMenu } from '../files/FilesMenu.tsx';
import { UNITS } from '../../../../core/shop/units.ts';
import { UnitChoices } from '../../editors/form/UnitChoices.tsx';
import { SteelTaken } from './GoalStrip.tsx';
import { SaveLight } from './SaveLight.tsx';
import { editPlan, redo, undo, usePlanStore } from '../../document/planStore.ts';
import { useEvaluation } from '../../document/useEvaluation.ts';

const VIEWS = [
  ['', 'Plan'],
  ['can', 'Canister'],
  ['blade', 'Blade'],
  ['stock', 'Stock'],
  ['kiln', 'Kiln'],
  ['shop', 'Shop'],
  ['print', 'Print'],
  ['bench', 'Bench'],
  ['log', 'Log'],
] as const;

const setShop = (some: Partial<ShopSettings>): void =>
  editPlan((plan) => ({ ...plan, shop: { ...plan.shop, ...some } }), 'units');

export function PlanHeader({ onHelp }: { onHelp(): void }) {
  const { plan } = useEvaluation();
  const { pastStates, futureStates } = useStore(usePlanStore.temporal);
  const { id, view } = useParams();
  const navigate = useNavigate();
  const hasCan = plan.lanes.some((l) => l.steps.some((s) => moveOf(s.kind).fills));
  return (
    <PageHead>
      <PieceName key={plan.name} name={plan.name} />
      <Stack component="nav" aria-label="Screens of this piece" direction="row" spacing={0.25}>
        {VIEWS.filter(([path]) => path !== 'can' || hasCan).map(([path, text]) => (
          <NavTab
            key={text}
            to={`/pieces/${id}${path && `/${path}`}`}
            text={text}
            here={(view ?? '') === path}
          />
        ))}
      </Stack>
      <Stack
        direction="row"
        useFlexGap
        spacing={0.5}
        sx={{ ml: 'auto', alignItems: 'center', flexWrap: 'wrap', justifyContent: 'flex-end' }}
      >
        <SteelTaken />
        <SaveLight />
        <IconAct title="History" act={() => void navigate(`/pieces/${id}/history`)} icon={<HistoryIcon />} />
        <IconAct title="Undo (Z)" disabled={pastStates.length === 0} act={undo} icon={<UndoIcon />} />
        <IconAct title="Redo (Shift Z)" disabled={futureStates.length === 0} act={redo} icon={<RedoIcon />} />
        <UnitsMenu />
        <FilesMenu />
        <IconAct title="Keys (?)" act={onHelp} icon={<HelpOutlineIcon />} />
      </Stack>
    </PageHead>
  );
}

/** How numbers are written, one press away; each kind can be set by itself. */
function UnitsMenu() {
  const { plan } = useEvaluation();
  const { lengths, masses, temperatures } = plan.shop;
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const finest = lengths.unit === 'in' ? `1/${lengths.division}"` : `${lengths.division} mm`;
  return (
    <>
      <Button
        size="small"
        aria-label="Units"
        aria-haspopup="dialog"
        onClick={(e) => setAnchor(e.currentTarget)}
        sx={{ color: colours.ink, whiteSpace: 'nowrap' }}
      >
        {finest} · {masses} · °{temperatures}
      </Button>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => setAnchor(null)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'right' }}
        transformOrigin={{ vertical: 'top', horizontal: 'right' }}
        slotProps={{ paper: { role: 'dialog', 'aria-label': 'Units' } }}
      >
        <Stack sx={{ p: 2, gap: 1.5, width: 250 }}>
          <ToggleButtonGroup
            size="small"
            exclusive
            fullWidth
            value={lengths.unit}
            onChange={(_, unit: 'in' | 'mm' | null) => unit && setShop(UNITS[unit])}
            aria-label="All at once"
          >
            <ToggleButton value="in" sx={{ textTransform: 'none', color: colours.ink }}>
              inches, lb, °F
            </ToggleButton>
            <ToggleButton value="mm" sx={{ textTransform: 'none', color: colours.ink }}>
              mm, kg, °C
            </ToggleButton>
          </ToggleButtonGroup>
          <UnitChoices shop={plan.shop} change={setShop} />
        </Stack>
      </Popover>
    </>
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
      inputProps={{ 'aria-label': 'Name of the piece', maxLength: MOST_NAME }}
      sx={{ fontFamily: fonts.title, fontSize: '1.25rem', flex: '1 1 140px', minWidth: 120, maxWidth: 420 }}
    />
  );
}
