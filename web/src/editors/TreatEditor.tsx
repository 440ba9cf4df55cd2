import { Box, Button, Typography } from '@mui/material';
import { Link, useParams } from 'react-router';
import { TREATMENTS, recipesFor } from '../../../core/kiln/recipes.ts';
import { programSchema } from '../../../core/kiln/program.ts';
import { materialById } from '../../../core/materials/material.ts';
import { type TreatParameters, legsFor } from '../../../core/moves/between/treat.ts';
import { handyNumbers } from '../../../core/units/handy.ts';
import { formatRate, formatTemperature } from '../../../core/units/index.ts';
import { useShop } from '../document/useEvaluation.ts';
import { Choice } from '../ui/fields/Choice.tsx';
import type { EditorProps } from './form/editor.ts';
import { MaterialChoice } from './form/MaterialChoice.tsx';

/** What the kiln is to do and for which steel; its legs come from there, and are changed on the kiln's own page. */
export function TreatEditor({ parameters: p, change, problem }: EditorProps<TreatParameters>) {
  const shop = useShop();
  const { id = '' } = useParams();
  const set = (some: Partial<Pick<TreatParameters, 'treatment' | 'material'>>) => {
    const next = { ...p, ...some };
    const legs = legsFor(next.treatment, materialById(shop.materials, next.material));
    change({
      ...some,
      ...(legs && { segments: handyNumbers(programSchema.shape.segments, [...legs], shop) }),
    });
  };
  const steel = materialById(shop.materials, p.material);
  const known = steel ? recipesFor(steel).map((r) => r.treatment) : [];
  const options = Object.entries(TREATMENTS).filter(
    ([value]) => known.includes(value as TreatParameters['treatment']) || value === p.treatment,
  ) as [TreatParameters['treatment'], string][];
  return (
    <>
      <Choice
        label="Treatment"
        value={p.treatment}
        options={options}
        onChange={(treatment) => set({ treatment })}
      />
      <MaterialChoice
        label="For which steel"
        value={p.material}
        onChange={(material) => set({ material })}
        problem={problem('material')}
      />
      <Box component="ol" sx={{ m: 0, pl: 2.5 }} aria-label="Legs of the program">
        {p.segments.map((s, i) => (
          <li key={i}>
            {s.rateKPerH === null ? 'As fast as it goes' : `At ${formatRate(s.rateKPerH, shop.temperatures)}`}{' '}
            to <b>{formatTemperature(s.targetC, shop.temperatures)}</b>
            {s.holdMin > 0 && `, held ${s.holdMin} min`}
            {s.then && `; ${s.then}`}
          </li>
        ))}
      </Box>
      {problem('segments') && (
        <Typography variant="body2" color="error">
          {problem('segments')}
        </Typography>
      )}
      <Button component={Link} to={`/pieces/${id}/kiln`} size="small" variant="outlined">
        Change it on the kiln’s page
      </Button>
    </>
  );
}
