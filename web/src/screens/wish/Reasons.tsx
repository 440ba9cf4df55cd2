import { Box, Typography } from '@mui/material';
import { recipeOf } from '../../../../core/recipes/index.ts';
import { type Found, useWishes } from '../../document/wishes.ts';

interface ReasonsProps {
  readonly found: readonly Found[];
  /** The one that alone is looked at, if any. */
  readonly recipe: string | undefined;
}

/** Of every recipe that no plan was found of: why, in the words most often met. */
export function Reasons({ found, recipe }: ReasonsProps) {
  const refused = useWishes((state) => state.refused);
  const made = new Set(found.map((one) => one.offer.spec.recipe));
  const counts = new Map<string, Map<string, number>>();
  for (const { reason, spec } of refused) {
    if (made.has(spec.recipe) || (recipe && spec.recipe !== recipe)) continue;
    const known = counts.get(spec.recipe) ?? new Map<string, number>();
    counts.set(spec.recipe, known.set(reason, (known.get(reason) ?? 0) + 1));
  }
  const isNothing = found.length === 0;
  if (counts.size === 0 && !isNothing) return null;
  return (
    <Box>
      <Typography variant="h2">{isNothing ? 'Nothing can be made so' : 'No plan came of these'}</Typography>
      {counts.size === 0 && (
        <Typography>Nothing that this shop does suits the wish: allow another way to the side.</Typography>
      )}
      <ul>
        {[...counts].map(([id, reasons]) => (
          <li key={id}>
            <b>{recipeOf(id).name}</b>: {[...reasons].reduce((a, b) => (b[1] > a[1] ? b : a))[0]}
          </li>
        ))}
      </ul>
    </Box>
  );
}
