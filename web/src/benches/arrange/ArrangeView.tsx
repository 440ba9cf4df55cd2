import { Button, Typography } from '@mui/material';
import { useMemo } from 'react';
import {
  type SeamFigures,
  bestMatch,
  readingOrder,
  seamFigures,
  turnedBefore,
} from '../../../../core/assembly/index.ts';
import { isRectangle } from '../../../../core/geometry/outline.ts';
import { type Placed } from '../../../../core/moves/index.ts';
import { type AssembleParameters, laidPieces } from '../../../../core/moves/lay/assemble/laid.ts';
import { areWedges } from '../../../../core/moves/lay/assemble/wedges.ts';
import { type StepResult, withSome } from '../../../../core/plan/index.ts';
import { formatLength } from '../../../../core/units/index.ts';
import { setParameters } from '../../document/planStore.ts';
import { useEvaluation } from '../../document/useEvaluation.ts';
import { Arranger } from './Arranger.tsx';
import { SeamWords } from './SeamMark.tsx';
import { free } from './arranging.ts';

const useSeams = (result: StepResult, judged: boolean): SeamFigures[] =>
  useMemo(
    () =>
      result.after && judged
        ? seamFigures(result.before, result.step.parameters as AssembleParameters, result.after[0])
        : [],
    [result, judged],
  );

/** The pieces as they lie in the stack: every seam shows how far it matches. */
export function ArrangeView({ result }: { result: StepResult }) {
  const evaluation = useEvaluation();
  const { lengths } = evaluation.shop;
  const p = result.step.parameters as AssembleParameters;
  const laid = laidPieces(result.before, p);
  const places = laid.map((l) => l.place);
  const complete = laid.length === p.columns * p.rows;
  const turns = !areWedges(laid.map((l) => l.billet));
  const change = (some: Partial<AssembleParameters>, what: string) =>
    setParameters(result.step.id, withSome(p, some), what);
  const put = (moved: Placed[], what: string) => change(free(moved), what);
  const unjudged =
    p.layout === 'brick'
      ? 'The seams of bricks are not judged.'
      : turns
        ? null
        : 'The seams of wedges are not judged.';
  const rectangles = laid.every((l) => isRectangle(l.billet.outline));
  const judged = complete && p.layout !== 'brick' && rectangles;
  const figures = useSeams(result, judged);
  if (!complete)
    return (
      <Typography color="text.secondary" sx={{ p: 2 }}>
        Not all pieces of this layout are there yet: see what is said at the right.
      </Typography>
    );
  const match = bestMatch(laid, p.columns, p.rows);
  const better = match.beforeMm - match.afterMm > 0.5;
  return (
    <Arranger
      evaluation={evaluation}
      result={result}
      p={p}
      laid={laid}
      turns={turns}
      figures={figures}
      onPut={put}
      more={
        <>
          <Button
            size="small"
            variant="outlined"
            disabled={!turns}
            onClick={() => put(turnedBefore(places), 'turn all')}
          >
            Next corner to the middle
          </Button>
          <Button
            size="small"
            variant="outlined"
            disabled={!better}
            onClick={() => put(readingOrder(places, match.order), 'best match')}
          >
            Best match
          </Button>
        </>
      }
      alsoSaid={
        better
          ? ` · neighbours can lie ${formatLength(match.beforeMm - match.afterMm, lengths)} nearer in the bar${match.exact ? '' : `, no layout better than ${formatLength(match.boundMm, lengths)}`}`
          : ''
      }
      below={
        <SeamWords
          figures={figures}
          unjudged={unjudged}
          onClash={(seams, clash) => {
            const others = (p.clash ?? []).filter(
              ([a, b]) => !seams.some((s) => s.first === a && s.second === b),
            );
            const added = clash ? seams.map((s): [number, number] => [s.first, s.second]) : [];
            change({ clash: [...others, ...added] }, 'clash');
          }}
        />
      }
    />
  );
}
