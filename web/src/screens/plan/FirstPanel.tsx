import { quantitiesOf } from '../../../../core/units/index.ts';
import { MOVES, firstNumbers } from '../../../../core/moves/index.ts';
import { handy } from '../../../../core/units/handy.ts';
import { Box, Typography } from '@mui/material';
import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { ArchButton } from '../../ui/layout.tsx';
import { sizeOf } from '../../../../core/billet/billet.ts';
import { QuantityField } from '../../ui/fields/QuantityField.tsx';
import { freshStepId, makeStepOf } from '../../../../core/plan/index.ts';
import { insertStep } from '../../document/planStore.ts';
import { useEvaluation, useShop } from '../../document/useEvaluation.ts';
import { PICTURES } from './firstPictures.tsx';

const of = quantitiesOf(MOVES.stack.parameters);

/** Layers of two steels in turn, as thick as the maker has them. mm. */
interface TwoSteels {
  readonly dark: number;
  readonly bright: number;
}

/** What an empty plan offers: a wish, a stack, a can, a bought bar or one that is there. */
export function FirstPanel({ laneId }: { laneId: string }) {
  const shop = useShop();
  const { plan, lanes } = useEvaluation();
  const navigate = useNavigate();
  const { id } = useParams();
  const stack = firstNumbers('stack', [], shop);
  const [steels, setSteels] = useState<TwoSteels>({
    dark: stack.pattern[0].thicknessMm,
    bright: stack.pattern[1].thicknessMm,
  });
  const begin = (parameters: unknown) =>
    insertStep(laneId, 0, makeStepOf(freshStepId(plan), 'stack', parameters));
  const others = lanes.filter((l) => l.lane.id !== laneId && l.pieces.length > 0);
  // A bought bar is most often wanted to lie beside the pieces that are there.
  const side = handy(25, of('widthMm'), shop);
  const mate = others[0] ? sizeOf(others[0].pieces[0]) : { widthMm: side, heightMm: side };
  const arrange = () =>
    insertStep(
      laneId,
      0,
      makeStepOf(
        freshStepId(plan),
        'assemble',
        firstNumbers(
          'assemble',
          [],
          shop,
          others.map((l) => ({ id: l.lane.id, pieces: l.pieces })),
        ),
      ),
    );
  const offers = [
    ...(plan.lanes.length > 1
      ? []
      : [
          {
            picture: PICTURES.wish,
            title: 'A wish',
            text: 'Say how big one element is to be, and choose among plans by how the blade would look.',
            act: () => void navigate(`/pieces/${id}/wish`),
          },
        ]),
    ...(others.length > 0
      ? [
          {
            picture: PICTURES.pieces,
            title: 'Pieces of other bars',
            text: `${others.map((l) => l.lane.name).join(' and ')}: laid together in any grid.`,
            act: arrange,
          },
        ]
      : []),
    {
      picture: PICTURES.stack,
      title: 'A stack',
      text: 'Strips of two or more steels laid in turn, to be welded and drawn.',
      act: () =>
        begin({
          ...stack,
          pattern: [
            { ...stack.pattern[0], thicknessMm: steels.dark },
            { ...stack.pattern[1], thicknessMm: steels.bright },
          ],
        }),
    },
    {
      picture: PICTURES.canister,
      title: 'A canister',
      text: 'A welded box of powder, with balls, rods, bars or strips in it, pressed solid.',
      act: () => insertStep(laneId, 0, makeStepOf(freshStepId(plan), 'can', firstNumbers('can', [], shop))),
    },
    {
      picture: PICTURES.bar,
      title: 'A bought bar',
      text: 'One steel, as it comes from the dealer.',
      act: () =>
        begin({
          ...stack,
          layers: 1,
          pattern: [{ material: '1084', thicknessMm: mate.heightMm }],
          widthMm: mate.widthMm,
        }),
    },
    {
      picture: PICTURES.found,
      title: 'A bar that is there',
      text: 'Bought patterned, found or left over: its end comes from a photograph.',
      act: () =>
        insertStep(laneId, 0, makeStepOf(freshStepId(plan), 'found', firstNumbers('found', [], shop))),
    },
  ];
  return (
    <Box sx={{ px: 3, py: 4 }}>
      <Typography variant="h1" sx={{ mb: 0.5 }}>
        What does the bar begin as?
      </Typography>
      <Typography color="text.secondary" sx={{ mb: 3 }}>
        Every move that follows gets a panel of its own, showing the end grain that will be there.
      </Typography>
      <Box sx={{ display: 'flex', gap: 1.5, mb: 3, alignItems: 'center', flexWrap: 'wrap' }}>
        <Typography>Steel at hand:</Typography>
        <QuantityField
          of={of('pattern.thicknessMm')}
          label="Dark steel is thick"
          width={150}
          value={steels.dark}
          onChange={(dark) => setSteels({ ...steels, dark })}
        />
        <QuantityField
          of={of('pattern.thicknessMm')}
          label="Bright steel is thick"
          width={150}
          value={steels.bright}
          onChange={(bright) => setSteels({ ...steels, bright })}
        />
      </Box>
      <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap' }}>
        {offers.map((offer) => (
          <ArchButton
            key={offer.title}
            act={offer.act}
            sx={{ width: 230, minHeight: 190, p: '32px 18px 20px', textAlign: 'left' }}
          >
            {offer.picture}
            <Typography variant="h2" component="span" sx={{ display: 'block', mb: 1, textAlign: 'center' }}>
              {offer.title}
            </Typography>
            {offer.text}
          </ArchButton>
        ))}
      </Box>
    </Box>
  );
}
