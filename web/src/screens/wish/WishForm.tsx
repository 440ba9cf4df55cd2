import { Checkbox, FormControlLabel, Stack, Typography } from '@mui/material';
import { SIDES, type Side, type Wish, wishSchema } from '../../../../core/plan/index.ts';
import { formatLength } from '../../../../core/units/index.ts';
import { useShop } from '../../document/useEvaluation.ts';
import { SchemaForm } from '../../editors/form/form.tsx';

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
      <Typography variant="h2">What the shop does</Typography>
      <Stack>
        {ALL.map((side) => box(SIDES[side], sides.includes(side), () => toggle(side)))}
        {box('Presses pass by pass', wish.hasPress, () => change({ hasPress: !wish.hasPress }))}
        {box('Powder and cans', wish.hasPowder, () => change({ hasPowder: !wish.hasPowder }))}
      </Stack>
      <Typography variant="h2">At most</Typography>
      {form(LIMITS)}
      <Typography color="text.secondary">What is left empty is left open.</Typography>
    </Stack>
  );
}
