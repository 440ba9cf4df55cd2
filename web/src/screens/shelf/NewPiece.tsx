import { useServerChange } from '../../document/useServerChange.ts';
import { Alert, Box, Button, Stack, TextField, Typography } from '@mui/material';
import { useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import { PROFILES, ROUND_BLADE_MM, bladeWished } from '../../../../core/blade/index.ts';
import { type Goal, MOST_NAME, emptyPlan } from '../../../../core/plan/index.ts';
import { type ShopSettings, shopSchema } from '../../../../core/shop/shop.ts';
import { formatFine, formatSizes, parseLength } from '../../../../core/units/index.ts';
import { api } from '../../document/api.ts';
import { readyToLook } from '../../document/wishes.ts';
import { Choice } from '../../ui/fields/Choice.tsx';
import { Toggles } from '../../ui/fields/Toggles.tsx';
import { inUnit } from '../../../../core/shop/units.ts';
import { useOwnMaterials, useSetups } from '../../document/shopApi.ts';
import { Popup } from '../../ui/Popup.tsx';

type Unit = 'in' | 'mm';
type Aim = 'blade' | 'bar';

/** What is asked for each, with sizes to begin from in either unit. */
const ASKED = {
  blade: [
    ['length', 'Blade length', { in: '10"', mm: '250 mm' }],
    ['widest', 'Widest', { in: '1 1/2"', mm: '40 mm' }],
    ['spine', 'Spine at the heel', { in: '3/16"', mm: '4 mm' }],
    ['tang', 'Tang', { in: '4 1/4"', mm: '110 mm' }],
  ],
  bar: [
    ['length', 'Finished length', { in: '12"', mm: '300 mm' }],
    ['width', 'Finished width', { in: '1 1/2"', mm: '38 mm' }],
    ['thickness', 'Finished thickness', { in: '1/4"', mm: '5 mm' }],
  ],
} as const;

const first = (aim: Aim, unit: Unit): Record<string, string> =>
  Object.fromEntries(ASKED[aim].map(([key, , sizes]) => [key, sizes[unit]]));

const NO_SETUP = '';
/** mm. Some bar, on which those who will look for plans get going while the rest is typed. */
const A_GOAL: Goal = { lengthMm: 250, widthMm: 40, thicknessMm: 4 };
const A_SHOP = shopSchema.parse({});

/** Asks what is to be made and in which shop, and begins an empty plan for it. */
export function NewPiece({ open, onClose }: { open: boolean; onClose(): void }) {
  const [name, setName] = useState('');
  const [aim, setAim] = useState<Aim>('blade');
  const [unit, setUnit] = useState<Unit>('mm');
  const [sizes, setSizes] = useState(first('blade', 'mm'));
  const [profile, setProfile] = useState(PROFILES[0].name);
  const [setupId, setSetupId] = useState<string | null>(null);
  const { data: setups = [] } = useSetups();
  const { data: materials = [] } = useOwnMaterials();
  const setup = setupId === NO_SETUP ? undefined : (setups.find((s) => s.id === setupId) ?? setups[0]);
  const navigate = useNavigate();
  const create = useServerChange(['projects']);
  const read = ASKED[aim].map(([key, label]) => {
    const parsed = parseLength(sizes[key], unit);
    if (!parsed.ok) return parsed;
    const least = key === 'tang' ? 0 : 1e-9;
    return parsed.value < least ? { ok: false as const, message: `${label} must be more than 0` } : parsed;
  });
  const ready = name.trim() !== '' && read.every((r) => r.ok);
  const start = (to: { aim?: Aim; unit?: Unit }) => {
    setAim(to.aim ?? aim);
    setUnit(to.unit ?? unit);
    setSizes(first(to.aim ?? aim, to.unit ?? unit));
  };
  const [a, b, c, d] = read.map((r) => (r.ok ? r.value : 0));
  const wished =
    aim === 'blade'
      ? bladeWished(
          PROFILES.find((p) => p.name === profile)!,
          { lengthMm: a, widestMm: b, spineMm: c, tangLengthMm: d },
        )
      : null;
  const goal: Goal = wished?.bar ?? { lengthMm: a, widthMm: b, thicknessMm: c };
  const settings: ShopSettings = shopSchema.parse(setup?.settings ?? {});
  // The set-up's own way of writing stays, unless the other unit was chosen here.
  const shop = settings.lengths.unit === unit ? settings : inUnit(settings, unit);
  useEffect(() => {
    if (open && ready) readyToLook({ name: '', goal: A_GOAL, shop: A_SHOP, materials: [] });
  }, [open, ready]);
  const begin = (to: 'wish' | 'plan') =>
    create.mutate(async () => {
      const { id } = await api.create(
        emptyPlan({ name: name.trim(), goal, shop, materials, blade: wished?.blade }),
      );
      await navigate(to === 'wish' ? `/pieces/${id}/wish` : `/pieces/${id}`);
    });
  return (
    <Popup
      open={open}
      title="Begin a new piece"
      onClose={onClose}
      width="sm"
      onSubmit={() => ready && begin('wish')}
      actions={
        <>
          <Button onClick={onClose}>Not now</Button>
          <Button disabled={!ready || create.isPending} onClick={() => begin('plan')}>
            Begin empty
          </Button>
          <Button type="submit" variant="contained" disabled={!ready || create.isPending}>
            See what it could be
          </Button>
        </>
      }
    >
      <TextField
        label="Name"
        value={name}
        onChange={(e) => setName(e.target.value)}
        autoFocus
        slotProps={{ htmlInput: { maxLength: MOST_NAME } }}
      />
      <Stack direction="row" useFlexGap spacing={2} sx={{ alignItems: 'center', flexWrap: 'wrap' }}>
        <Toggles
          label="What is made"
          value={aim}
          options={[
            ['blade', 'A blade'],
            ['bar', 'A bar'],
          ]}
          onChange={(to) => start({ aim: to })}
        />
        <Toggles
          label="Units"
          value={unit}
          options={[
            ['in', 'inches'],
            ['mm', 'mm'],
          ]}
          onChange={(to) => start({ unit: to })}
        />
        {setups.length > 0 && (
          <Choice
            label="Set-up of the shop"
            width={220}
            value={setup?.id ?? NO_SETUP}
            options={[...setups.map((s) => [s.id, s.name] as const), [NO_SETUP, 'none of these']]}
            onChange={setSetupId}
          />
        )}
      </Stack>
      {wished && (
        <Choice
          label="Outline"
          value={profile}
          options={PROFILES.map((p) => [p.name, p.name] as const)}
          onChange={setProfile}
        />
      )}
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: `repeat(${aim === 'blade' ? 4 : 3}, 1fr)`,
          gap: 1.5,
          alignItems: 'start',
        }}
      >
        {ASKED[aim].map(([key, label], i) => {
          const parsed = read[i];
          return (
            <TextField
              key={key}
              label={label}
              value={sizes[key]}
              onChange={(e) => setSizes({ ...sizes, [key]: e.target.value })}
              error={!parsed.ok}
              helperText={parsed.ok ? undefined : parsed.message}
            />
          );
        })}
      </Box>
      <Typography color="text.secondary">
        Fractions, sums and either unit are understood: 1 7/16, 36.5 mm, 2 7/16 / 2.
        {wished && ready && (
          <>
            {' '}
            The finished bar is then{' '}
            <b>{formatSizes([goal.lengthMm, goal.widthMm, goal.thicknessMm], shop.lengths)}</b>:{' '}
            {formatFine(ROUND_BLADE_MM.ends, shop.lengths)} past each end,{' '}
            {formatFine(ROUND_BLADE_MM.widths, shop.lengths)} past edge and spine,{' '}
            {formatFine(ROUND_BLADE_MM.sides, shop.lengths)} a side to grind. All of it can be changed later.
          </>
        )}
        {!wished && ' This is the bar before a blade is forged or ground from it.'}
      </Typography>
      {create.error && <Alert severity="error">{create.error.message}</Alert>}
    </Popup>
  );
}
