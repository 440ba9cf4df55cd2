import { Button, Stack, Typography } from '@mui/material';
import { useState } from 'react';
import { writtenOn } from '../../../../core/billet/billet.ts';
import type { Plan, StepResult } from '../../../../core/plan/index.ts';
import type { BenchRecord, PieceCame } from '../../../../core/records/record.ts';
import { isFourSided } from '../../../../core/render/foreseen.ts';
import { turnedSaid } from '../../../../core/sighting/said.ts';
import { ReadPhotograph } from '../../benches/sight/ReadPhotograph.tsx';
import { fire } from '../../ui/fireTheme.ts';
import type { Doing } from '../../document/useDoing.ts';

const ENDS = { 'End A': 'A', 'End B': 'B' } as const;

interface LayOverProps {
  projectId: string;
  picture: NonNullable<BenchRecord['pictures']>[number];
  result: StepResult;
  plan: Plan;
  doing: Doing;
  /** Says what the photograph shows, where that was not said. */
  name(shows: string): void;
}

/** A photograph of an end, to be laid over what was foreseen of a piece; nothing where it shows something else. */
export function LayOver({ projectId, picture, result, plan, doing, name }: LayOverProps) {
  const made = (result.reckoned ?? result).after ?? [];
  const [chosen, setChosen] = useState(0);
  const end = ENDS[picture.shows as keyof typeof ENDS] ?? null;
  const bar = made[Math.min(chosen, made.length - 1)];
  // Only an end that has four sides can be laid out square; what is done is opened again first.
  if (doing.done || !bar || !isFourSided(bar) || (picture.shows !== '' && end === null)) return null;
  const piece = writtenOn(bar, made.indexOf(bar));
  const take = (some: Partial<PieceCame>) => {
    if (picture.shows === '') name(some.endA?.sighting?.photograph === picture.id ? 'End A' : 'End B');
    doing.changePiece(piece, some);
  };
  return (
    <Stack sx={{ gap: 1, alignItems: 'flex-start' }}>
      {made.length > 1 && (
        <Stack
          direction="row"
          useFlexGap
          role="group"
          aria-label="Of which piece"
          sx={{ flexWrap: 'wrap', gap: 1 }}
        >
          {made.map((b, i) => (
            <Button
              key={writtenOn(b, i)}
              variant="outlined"
              aria-pressed={b === bar}
              onClick={() => setChosen(i)}
            >
              {writtenOn(b, i)}
            </Button>
          ))}
        </Stack>
      )}
      <ReadPhotograph
        plan={plan}
        projectId={projectId}
        stepId={result.step.id}
        bar={bar}
        piece={piece}
        came={doing.record?.pieces?.find((p) => p.piece === piece)}
        photograph={picture.id}
        focal={picture.focal}
        end={end}
        take={take}
      />
    </Stack>
  );
}

/** What was taken over from photographs, piece by piece; taken back as easily. */
export function Readings({ doing }: { doing: Doing }) {
  const pieces = doing.record?.pieces ?? [];
  return pieces.flatMap((came) =>
    (['endA', 'endB'] as const).flatMap((key) => {
      const { sighting, ...rest } = came[key] ?? {};
      if (!sighting) return [];
      const where = `${pieces.length > 1 || came.piece !== '1' ? `piece ${came.piece}, ` : ''}end ${key === 'endA' ? 'A' : 'B'}`;
      return [
        <Stack
          key={came.piece + key}
          sx={{ gap: 1, alignItems: 'flex-start', borderTop: `1px solid ${fire.line}`, pt: 1 }}
        >
          <Typography>
            Read of {where}: the layers run {turnedSaid(sighting)}. The plan goes on from it.
          </Typography>
          <Button
            variant="outlined"
            disabled={doing.done}
            onClick={() =>
              doing.changePiece(came.piece, { [key]: Object.keys(rest).length > 0 ? rest : undefined })
            }
          >
            Take the reading back
          </Button>
        </Stack>,
      ];
    }),
  );
}
