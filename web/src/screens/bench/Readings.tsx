import { Box, Button, Stack, Typography } from '@mui/material';
import { useState } from 'react';
import { type Billet, sizeOf, writtenOn } from '../../../../core/billet/billet.ts';
import type { Evaluation, StepResult } from '../../../../core/plan/index.ts';
import { type BenchRecord, LOOKED_INTO, type PieceCame } from '../../../../core/records/record.ts';
import { isRectangle } from '../../../../core/geometry/outline.ts';
import { alongSaid } from '../../../../core/render/faceSaid.ts';
import { isFourSided } from '../../../../core/render/foreseen.ts';
import { turnedSaid, twistSeen } from '../../../../core/sighting/said.ts';
import { Ways } from '../../benches/ends/Ways.tsx';
import { ReadEnd, ReadFace } from '../../benches/sight/ReadPhotograph.tsx';
import { carryOut } from '../../document/carryOut.ts';
import { useRole } from '../../document/door.ts';
import { WholeScreen } from '../../ui/WholeScreen.tsx';
import { fire } from '../../ui/fireTheme.ts';
import type { Doing } from '../../document/useDoing.ts';

const ENDS = { 'End A': 'A', 'End B': 'B' } as const;

interface LayOverProps {
  projectId: string;
  picture: NonNullable<BenchRecord['pictures']>[number];
  result: StepResult;
  stands: Evaluation;
  doing: Doing;
  /** Says what the photograph shows, where that was not said. */
  name(shows: string): void;
}

/** A photograph of an end, a cut or the broad face, to be laid over what was foreseen of a piece; nothing where it shows something else. */
export function LayOver({ projectId, picture, result, stands, doing, name }: LayOverProps) {
  const made = (result.reckoned ?? result).after ?? [];
  const [chosen, setChosen] = useState(0);
  const end = ENDS[picture.shows as keyof typeof ENDS] ?? null;
  const ofBench = useRole() === 'bench';
  const bar = made[Math.min(chosen, made.length - 1)];
  const where = picture.shows === 'Middle' ? 'middle' : 'ends';
  const isFace = picture.shows === 'Top';
  // What is done is opened again first.
  if (doing.done || !bar || !(isFace ? hasFace(bar) : isFourSided(bar))) return null;
  if (picture.shows !== '' && end === null && where === 'ends' && !isFace) return null;
  const piece = writtenOn(bar, made.indexOf(bar));
  const take = (some: Partial<PieceCame>) => {
    if (picture.shows === '') name(some.endA?.sighting?.photograph === picture.id ? 'End A' : 'End B');
    doing.changePiece(piece, some);
  };
  const shared = {
    plan: stands.plan,
    projectId,
    stepId: result.step.id,
    bar,
    piece,
    came: doing.record?.pieces?.find((p) => p.piece === piece),
    photograph: picture.id,
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
      {isFace ? (
        <ReadFace
          {...shared}
          take={(some) => doing.changePiece(piece, some)}
          say={ofBench ? undefined : (remedy) => carryOut(stands, result, remedy)}
        />
      ) : (
        <ReadEnd {...shared} focal={picture.focal} end={end} where={where} take={take} />
      )}
    </Stack>
  );
}

/** Whether a bar has a broad face along which the picture changes. */
const hasFace = (bar: Billet): boolean =>
  isRectangle(bar.outline) && bar.field.variesAlongZ && sizeOf(bar).widthMm > sizeOf(bar).heightMm;

interface ReadingsProps {
  doing: Doing;
  stands: Evaluation;
  result: StepResult;
}

/** What was taken over from photographs, piece by piece; taken back as easily; and what pays from there. */
export function Readings({ doing, stands, result }: ReadingsProps) {
  const pieces = doing.record?.pieces ?? [];
  const made = (result.reckoned ?? result).after ?? [];
  const readings = pieces.flatMap((came) => [
    ...(['endA', 'middle', 'endB'] as const).flatMap((key) => {
      const { sighting, ...rest } = came[key] ?? {};
      if (!sighting) return [];
      const where = `${pieces.length > 1 || came.piece !== '1' ? `piece ${came.piece}, ` : ''}${NAMES[key]}`;
      return [
        <Reading
          key={came.piece + key}
          said={`Read of ${where}: the layers run ${turnedSaid(sighting)}. The plan goes on from it.`}
          done={doing.done}
          takeBack={() =>
            doing.changePiece(came.piece, { [key]: Object.keys(rest).length > 0 ? rest : undefined })
          }
        />,
      ];
    }),
    ...(came.face ?? []).map((seen, k) => (
      <Reading
        key={`${came.piece} face ${k}`}
        said={`Read of the face${pieces.length > 1 ? ` of piece ${came.piece}` : ''}: ${alongSaid(seen, stands.shop.lengths)} The plan goes on from it.`}
        done={doing.done}
        takeBack={() => {
          const left = came.face?.filter((f) => f !== seen) ?? [];
          doing.changePiece(came.piece, { face: left.length > 0 ? left : undefined });
        }}
      />
    )),
    <Twist key={came.piece} came={came} bar={made.find((bar, i) => writtenOn(bar, i) === came.piece)} />,
  ]);
  return (
    <>
      {readings}
      {pieces.some(({ endA, middle, endB }) => endA?.sighting ?? middle?.sighting ?? endB?.sighting) && (
        <WhatPays stands={stands} result={result} />
      )}
    </>
  );
}

/** What one photograph said, and a way to take that back. */
function Reading({ said, done, takeBack }: { said: string; done: boolean; takeBack(): void }) {
  return (
    <Stack sx={{ gap: 1, alignItems: 'flex-start', borderTop: `1px solid ${fire.line}`, pt: 1 }}>
      <Typography>{said}</Typography>
      <Button variant="outlined" disabled={done} onClick={takeBack}>
        Take the reading back
      </Button>
    </Stack>
  );
}

const NAMES = { endA: 'end A', middle: 'the middle', endB: 'end B' } as const;

/** What two or three readings of a piece say together. */
function Twist({ came, bar }: { came: PieceCame; bar: Billet | undefined }) {
  const seen = (['endA', 'middle', 'endB'] as const).flatMap((key) => {
    const sighting = came[key]?.sighting;
    return sighting && bar ? [{ sighting, atMm: LOOKED_INTO[key] * bar.lengthMm }] : [];
  });
  const twist = twistSeen(seen);
  if (!twist) return null;
  return (
    <Typography>
      From {NAMES[came.endA?.sighting ? 'endA' : 'middle']} to{' '}
      {NAMES[came.endB?.sighting ? 'endB' : 'middle']} the layers turn {Math.abs(twist.deg).toFixed(1)}°{' '}
      {twist.deg > 0 ? 'counter-clockwise' : 'clockwise'}, {Math.abs(twist.degPerM).toFixed(0)}° a metre.
    </Typography>
  );
}

/** What can be made of a bar that came otherwise than foreseen, as pictures. */
function WhatPays({ stands, result }: Omit<ReadingsProps, 'doing'>) {
  const [open, setOpen] = useState(false);
  const ofBench = useRole() === 'bench';
  return (
    <Box>
      <Button variant="contained" onClick={() => setOpen(true)}>
        What pays now
      </Button>
      {open && (
        <WholeScreen title="What its pieces come to, laid together" onClose={() => setOpen(false)}>
          {ofBench && (
            <Typography>
              To go one of these ways, press it at the shop’s computer: this device is for the bench.
            </Typography>
          )}
          <Ways
            evaluation={stands}
            result={result}
            mayChange={!ofBench}
            none="It came nearly as foreseen, or its pieces are laid together already: nothing needs to be done."
            carriedOut={() => setOpen(false)}
          />
        </WholeScreen>
      )}
    </Box>
  );
}
