import { Checkbox, FormControlLabel, Stack, Typography } from '@mui/material';
import { materialById } from '../../../../core/materials/material.ts';
import { SIDES, type Side, type Wish, wishSchema } from '../../../../core/plan/index.ts';
import type { RackBar } from '../../../../core/stock/rackBar.ts';
import { formatFine, formatLength } from '../../../../core/units/index.ts';
import { useRack } from '../../document/shopApi.ts';
import { useShop } from '../../document/useEvaluation.ts';
import { SchemaForm } from '../../editors/form/form.tsx';
import { Choice } from '../../ui/fields/Choice.tsx';

interface WishFormProps {
  wish: Wish;
  change(some: Partial<Wish>): void;
}

const ELEMENT = ['alongMm', 'acrossMm'] as const;
const STEELS = ['dark', 'bright', 'darkMm', 'brightMm'] as const;
const LIMITS = ['mostKg', 'mostRounds', 'longestMm', 'spareShare'] as const;

const ALL = Object.keys(SIDES) as Side[];

/** Everything that may be wished beside the bar itself; what is left empty is left open. */
export function WishForm({ wish, change }: WishFormProps) {
  const shop = useShop();
  const sides = wish.sides ?? ALL;
  const toggle = (side: Side) => {
    const next = sides.includes(side)
      ? sides.filter((s) => s !== side)
      : ALL.filter((s) => s === side || sides.includes(s));
    if (next.length > 0) change({ sides: next.length === ALL.length ? undefined : next });
  };
  const form = (only: readonly (keyof Wish & string)[]) => (
    <SchemaForm schema={wishSchema} values={wish} change={change} only={only} />
  );
  const box = (label: string, checked: boolean, act: () => void) => (
    <FormControlLabel
      key={label}
      control={<Checkbox size="small" checked={checked} onChange={act} />}
      label={label}
      sx={{ my: -0.75 }}
    />
  );
  return (
    <Stack spacing={1.5}>
      <Typography variant="h2">One element</Typography>
      {form(ELEMENT)}
      {box(`Lines told apart from ${formatLength(shop.viewingMm, shop.lengths)}`, wish.toldApart, () =>
        change({ toldApart: !wish.toldApart }),
      )}
      <Typography variant="h2">Steel at hand</Typography>
      {form(STEELS)}
      <FromRack wish={wish} change={change} />
      <Typography variant="h2">What the shop does</Typography>
      <Stack>
        {ALL.map((side) => box(SIDES[side], sides.includes(side), () => toggle(side)))}
        {box('A saw', wish.hasSaw, () => change({ hasSaw: !wish.hasSaw }))}
        {box('Presses pass by pass', wish.hasPress, () => change({ hasPress: !wish.hasPress }))}
        {box('Powder and cans', wish.hasPowder, () => change({ hasPowder: !wish.hasPowder }))}
      </Stack>
      <Typography variant="h2">At most</Typography>
      {form(LIMITS)}
      <Typography color="text.secondary">What is left empty is left open.</Typography>
    </Stack>
  );
}

/** The steels as they lie on the rack: a kind and how thick it is there, taken with one press. */
function FromRack({ wish, change }: WishFormProps) {
  const { lengths, materials } = useShop();
  const { data: rack } = useRack();
  const kinds = new Map(
    (rack ?? []).flatMap((bar) => {
      const steel = materialById(materials, bar.material);
      const key = JSON.stringify([bar.material, bar.thicknessMm]);
      return steel ? [[key, { bar, text: `${steel.name}, ${formatFine(bar.thicknessMm, lengths)}` }]] : [];
    }),
  );
  if (kinds.size === 0) return null;
  const options = [
    ['', 'as said above'] as const,
    ...[...kinds].map(([key, { text }]) => [key, text] as const),
  ];
  const choice = (label: string, now: readonly [string, number | undefined], take: (b: RackBar) => void) => (
    <Choice
      label={label}
      value={kinds.has(JSON.stringify(now)) ? JSON.stringify(now) : ''}
      options={options}
      onChange={(key) => {
        const kind = kinds.get(key);
        if (kind) take(kind.bar);
      }}
    />
  );
  return (
    <>
      {choice('Dark, from the rack', [wish.dark, wish.darkMm], ({ material, thicknessMm }) =>
        change({ dark: material, darkMm: thicknessMm }),
      )}
      {choice('Bright, from the rack', [wish.bright, wish.brightMm], ({ material, thicknessMm }) =>
        change({ bright: material, brightMm: thicknessMm }),
      )}
    </>
  );
}
