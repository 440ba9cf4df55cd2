import { moveOf } from '../../../../core/moves/index.ts';
import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { type KilnProgram, legsOf } from '../../../../core/kiln/program.ts';
import { programSchema } from '../../../../core/kiln/program.ts';
import { handyNumbers } from '../../../../core/units/handy.ts';
import { recipesFor } from '../../../../core/kiln/recipes.ts';
import { materialById } from '../../../../core/materials/material.ts';
import { addVolumes } from '../../../../core/materials/volumes.ts';
import type { Evaluation } from '../../../../core/plan/index.ts';
import { formatTemperature, formatTime } from '../../../../core/units/index.ts';
import { ArchButton } from '../../ui/layout.tsx';
import { MaterialChoice } from '../../editors/form/MaterialChoice.tsx';
import { useEvaluation } from '../../document/useEvaluation.ts';

const EIGHT = 8 * 60;

/** The steel that makes the edge: that of a core or edge strip, else what is in the piece with the most carbon. */
function edgeSteel({ plan, lanes, shop }: Evaluation): string {
  const core = plan.lanes.flatMap((l) => l.steps).findLast((s) => moveOf(s.kind).core);
  const coreOf = core && moveOf(core.kind).core!(core.parameters);
  if (coreOf) return coreOf;
  const used = Object.keys(addVolumes(...lanes.flatMap((l) => l.steps.map((s) => s.added))));
  const carbon = (id: string) => materialById(shop.materials, id)?.composition.C ?? 0;
  const hardens = used.filter((id) => materialById(shop.materials, id)?.hardening);
  return [...(hardens.length > 0 ? hardens : used)].sort((a, b) => carbon(b) - carbon(a))[0] ?? '1084';
}

interface NewProgramProps {
  add(program: KilnProgram): void;
  back: (() => void) | undefined;
}

/** What a steel may want of the kiln, each with where it comes from; taken as a program of one's own. */
export function NewProgram({ add, back }: NewProgramProps) {
  const evaluation = useEvaluation();
  const { plan, shop } = evaluation;
  const [material, setMaterial] = useState(edgeSteel(evaluation));
  const steel = materialById(shop.materials, material);
  const recipes = steel
    ? recipesFor(steel).map((r) => ({
        ...r,
        segments: handyNumbers(programSchema.shape.segments, [...r.segments], shop),
      }))
    : [];
  const take = (recipe: (typeof recipes)[number]) => {
    if (!steel) return;
    const taken = new Set(plan.kiln?.map((p) => p.id));
    let n = 1;
    while (taken.has(`k${n}`)) n++;
    add({
      id: `k${n}`,
      name: `${recipe.name}, ${steel.name}`,
      material,
      segments: [...recipe.segments],
      startMin: EIGHT,
    });
  };
  const lengthOf = (recipe: (typeof recipes)[number]) => {
    const legs = legsOf(recipe, shop.kiln);
    return formatTime(legs[legs.length - 1].endS);
  };
  return (
    <>
      <Typography variant="h1" sx={{ mb: 0.5 }}>
        What is the kiln to do?
      </Typography>
      <Typography color="text.secondary" sx={{ mb: 2 }}>
        Starting points: the data sheet of whoever made the steel takes precedence.
      </Typography>
      <Box sx={{ display: 'flex', gap: 2, mb: 3, alignItems: 'center' }}>
        <MaterialChoice label="For which steel" value={material} onChange={setMaterial} width={280} />
        {back && <Button onClick={back}>Back to the programs</Button>}
      </Box>
      {steel && !steel.hardening && (
        <Typography sx={{ mb: 2 }}>
          No hardening is known for {steel.name} here: its data sheet says, and it can be put into the table
          of materials.
        </Typography>
      )}
      <Box sx={{ display: 'flex', gap: 3, flexWrap: 'wrap' }}>
        {recipes.map((recipe) => (
          <ArchButton
            key={recipe.name}
            act={() => take(recipe)}
            sx={{ minHeight: 190, p: '44px 18px 16px', textAlign: 'left' }}
          >
            <Typography variant="h2" component="span" sx={{ display: 'block', mb: 1, textAlign: 'center' }}>
              {recipe.name}
            </Typography>
            {recipe.why}
            <br />
            <b>
              {recipe.segments
                .map((s) => formatTemperature(s.targetC, shop.temperatures))
                .filter((t, i, all) => t !== all[i - 1])
                .join(', ')}
            </b>
            , {lengthOf(recipe)} in all
            <Typography
              variant="body2"
              component="span"
              color="text.secondary"
              sx={{ display: 'block', mt: 1 }}
            >
              Source: {recipe.source}
            </Typography>
          </ArchButton>
        ))}
      </Box>
    </>
  );
}
