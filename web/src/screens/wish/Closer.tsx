import { Button, Stack, Typography } from '@mui/material';
import { useMemo } from 'react';
import {
  type Band,
  type Forecast,
  inHundred,
  inHundredSaid,
  unforetold,
} from '../../../../core/forecast/index.ts';
import { PLANE_GROUPS } from '../../../../core/likeness/symmetry.ts';
import { moveOf } from '../../../../core/moves/index.ts';
import {
  type Evaluation,
  type Element as FaceElement,
  type Lane,
  SIDES,
  elementOn,
  sideMark,
} from '../../../../core/plan/index.ts';
import { AROUND, recipeOf } from '../../../../core/recipes/index.ts';
import { type LengthDisplay, formatFine, formatLength, formatMass } from '../../../../core/units/index.ts';
import { useForecast } from '../../document/learning.ts';
import { useEvaluated, useShop } from '../../document/useEvaluation.ts';
import { useAsked } from '../../document/useAsked.ts';
import type { Found } from '../../document/wishes.ts';
import { ask } from '../../document/workers/host.ts';
import type { LikePicture } from '../../document/workers/wishing.ts';
import { PaintedView } from '../../benches/steel/PaintedView.tsx';
import { FiguresTable } from '../../ui/FiguresTable.tsx';
import { Popup } from '../../ui/Popup.tsx';
import { useSize } from '../../ui/useSize.ts';

interface CloserProps {
  one: Found;
  isKept: boolean;
  close(): void;
  keep(): void;
  begin(): void;
  vary(): void;
  moreOfAKind(): void;
}

/** Times in a hundred. */
const SURE_ENOUGH = 80;

/** Between which sizes an element may come: as what it is a part of does. */
function elementMay(
  { alongMm, acrossMm }: FaceElement,
  evaluation: Evaluation,
  forecast: Forecast | null,
  lengths: LengthDisplay,
): string {
  const mark = sideMark(evaluation);
  const whole = mark && elementOn(evaluation, mark);
  if (!whole || !forecast?.face) return '';
  const band = (mm: number, { low, high }: Band, of: number): string => {
    const [from, to] = [formatFine((mm * low) / of, lengths), formatFine((mm * high) / of, lengths)];
    return from === to ? from : `${from} to ${to}`;
  };
  const along = band(alongMm, forecast.face.alongMm, whole.alongMm);
  const across = band(acrossMm, forecast.face.acrossMm, whole.acrossMm);
  return `; eight times in ten ${along} by ${across}`;
}

const movesOf = ({ name, steps }: Lane): string =>
  `${name}: ${steps.map((s) => moveOf(s.kind).short ?? moveOf(s.kind).title).join(', ')}`;

/** One plan that was found, large, with all that is known of it and all that can be done with it. */
export function Closer({ one, isKept, close, keep, begin, vary, moreOfAKind }: CloserProps) {
  const { lengths, masses } = useShop();
  const { offer, group, picture } = one;
  const recipe = recipeOf(offer.spec.recipe);
  const [ref, { width }] = useSize();
  const question = useMemo(() => () => ask('moves', (api) => api.seenLarge(offer.plan)), [offer]);
  const { value: large } = useAsked(question);
  const { shop, lanes } = offer.plan;
  const evaluation = useEvaluated(offer.plan);
  const { forecast } = useForecast(evaluation);
  const rows: [string, string][] = [
    [
      'How sure',
      forecast
        ? `reaches the length, width and thickness ${inHundredSaid(forecast)}${inHundred(forecast) < SURE_ENOUGH ? '; with more “Steel to spare” in the wish it is surer' : ''}`
        : (unforetold(evaluation) ?? 'running it forward …'),
    ],
    ...(offer.element
      ? [
          [
            'One element',
            `${formatFine(offer.element.alongMm, lengths)} along, ${formatFine(offer.element.acrossMm, lengths)} across${elementMay(offer.element, evaluation, forecast, lengths)}`,
          ] as [string, string],
        ]
      : []),
    ...(group ? [['The face', PLANE_GROUPS[group]] as [string, string]] : []),
    ['Steel in', formatMass(offer.steelKg, masses)],
    ['Work', `${offer.heats} heats, about ${offer.hours.toFixed(1)} h`],
    ['Laid together', offer.fourWays === 1 ? 'once' : `${offer.fourWays} times`],
    ['Longest bar', formatLength(offer.longestMm, lengths)],
    [
      'Thinnest band',
      `${formatFine(offer.bandMm, lengths)}, ${offer.isToldApart ? 'told apart' : 'reads as grey'} from ${formatLength(shop.viewingMm, lengths)}`,
    ],
    ['To the side', SIDES[offer.spec.side]],
    ...(offer.spec.around === 'plain' ? [] : [['Married', AROUND[offer.spec.around]] as [string, string]]),
    ['Bites', formatLength(shop.biteMm, lengths)],
  ];
  return (
    <Popup
      title={recipe.name}
      width="md"
      onClose={close}
      actions={
        <>
          <Button onClick={keep}>{isKept ? 'Let it go' : 'Keep it'}</Button>
          <Button onClick={moreOfAKind}>More of a kind</Button>
          <Button onClick={vary}>Vary this one</Button>
          <Button variant="contained" onClick={begin}>
            Begin with it
          </Button>
        </>
      }
    >
      <div ref={ref}>
        {width > 0 && (
          <PaintedView picture={large ?? picture} label={`${recipe.name}, large`} width={width} />
        )}
      </div>
      {one.likePicture && <LikeIt like={one.likePicture} />}
      <Typography>{recipe.text}</Typography>
      <FiguresTable heads={['(What)', '(Figure)']}>
        {rows.map(([what, is]) => (
          <tr key={what}>
            <td>{what}</td>
            <td>{is}</td>
          </tr>
        ))}
      </FiguresTable>
      <Stack spacing={0.5}>
        {lanes.map((lane) => (
          <Typography key={lane.id}>{movesOf(lane)}.</Typography>
        ))}
      </Stack>
      <Typography variant="h3">What is hard about it</Typography>
      {offer.remaining.length === 0 ? (
        <Typography>Nothing that this shop would be warned of.</Typography>
      ) : (
        <ul style={{ margin: 0, paddingLeft: 20 }}>
          {offer.remaining.map((f, i) => (
            <li key={i}>{f.text}</li>
          ))}
        </ul>
      )}
    </Popup>
  );
}

/** px. */
const LIKE_PX = 230;

/** A picture that was looked for beside what this plan shows of it. */
function LikeIt({ like }: { like: LikePicture }) {
  return (
    <Stack direction="row" useFlexGap spacing={2} sx={{ flexWrap: 'wrap', alignItems: 'center' }}>
      <PaintedView picture={like.wanted} label="The picture" width={LIKE_PX} />
      <PaintedView picture={like.apart} label="As this plan shows it" width={LIKE_PX} />
      <Typography sx={{ flex: '1 1 200px' }}>
        Left the picture, right{' '}
        {like.shown === 'one'
          ? 'one element of this plan in the end grain, before it is brought to the side'
          : 'what the finished face of this plan shows of it'}
        : red where the two differ. Greys agree to {like.correlation.toFixed(2)}, the run of the lines to{' '}
        {like.directions.toFixed(2)}; 1 would be the same picture. Fine layers may be shifted against each
        other and look the same to the eye.
      </Typography>
    </Stack>
  );
}
