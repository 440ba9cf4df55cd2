import { Box, Button, LinearProgress, Slider, Stack, Typography } from '@mui/material';
import { useEffect, useState } from 'react';
import { piecesOf } from '../../../../core/billet/laidPieces.ts';
import { stressUnitMPa } from '../../../../core/billet/sectionFlow.ts';
import { boundingBox } from '../../../../core/geometry/outline.ts';
import { type SeamQuestion, seamKey } from '../../../../core/loose/question.ts';
import { readied } from '../../../../core/loose/readied.ts';
import type { SeamAnswer } from '../../../../core/loose/stored.ts';
import { REOPENED_MM, SHUT_MM, openBy } from '../../../../core/loose/seams.ts';
import { type SeamsAsked, bucklesIn, seamQuestion, whyNoSeams } from '../../../../core/moves/forge/seams.ts';
import type { WeldParameters } from '../../../../core/moves/forge/weld.ts';
import type { LaneResult, StepResult } from '../../../../core/plan/index.ts';
import { formatFine, formatLength } from '../../../../core/units/index.ts';
import { lookUpSeams, stopSeams, useSeams, workOutSeams } from '../../document/seams.ts';
import { useEvaluation } from '../../document/useEvaluation.ts';
import { FiguresTable } from '../../ui/FiguresTable.tsx';
import { Toggles } from '../../ui/fields/Toggles.tsx';
import { colours } from '../../ui/theme.ts';
import { useSize } from '../../ui/useSize.ts';
import { Emptiest } from './Emptiest.tsx';
import { type Drawn, LoosePieces } from './LoosePieces.tsx';

/** How the seams of loose pieces shut, press by press. */
export function SeamsView({ result }: { lane: LaneResult; result: StepResult }) {
  const { shop } = useEvaluation();
  const [bar] = result.before;
  const { seams: asked } = result.step.parameters as WeldParameters;
  const why = whyNoSeams(bar);
  if (!asked || why) return <Typography color="text.secondary">{why}</Typography>;
  const question = seamQuestion(bar, asked, shop);
  return <Asked key={seamKey(question)} {...{ question, asked, result }} />;
}

interface AskedProps {
  question: SeamQuestion;
  asked: SeamsAsked;
  result: StepResult;
}

function Asked({ question, asked, result }: AskedProps) {
  const key = seamKey(question);
  const answer = useSeams((state) => state.answers.get(key));
  const running = useSeams((state) => (state.running?.key === key ? state.running.share : null));
  const failed = useSeams((state) => (state.failed?.key === key ? state.failed.why : null));
  useEffect(() => {
    void lookUpSeams(question);
    // The key is the question, word for word.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  const pointedPieces = question.pieces.some(({ outline }) => outline.length === 3);
  const [frame, size] = useSize();
  const [ready] = useState(() => readyState(question));
  if (answer) return <Answered {...{ answer, asked, result }} />;
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', height: '100%', minHeight: 0, gap: 1 }}>
      <Typography>
        The {question.pieces.length} pieces are pressed between flat dies as on the right, each by itself:
        which seams shut, when, and what stays empty where corners meet. It takes{' '}
        {pointedPieces
          ? 'some minutes'
          : question.pieces.length > FEW
            ? 'a minute or two'
            : 'up to half a minute'}
        .
      </Typography>
      {running === null ? (
        <Button variant="contained" sx={{ alignSelf: 'flex-start' }} onClick={() => workOutSeams(question)}>
          Work it out
        </Button>
      ) : (
        <Stack direction="row" spacing={1.5} role="status" sx={{ alignItems: 'center' }}>
          <LinearProgress
            variant="determinate"
            aria-label="Seams worked out"
            value={100 * running}
            sx={{ flex: 1 }}
          />
          <Button onClick={stopSeams}>Stop</Button>
        </Stack>
      )}
      {failed && <Typography color="error">It broke off: {failed}.</Typography>}
      <Box ref={frame} sx={{ flex: 1, minHeight: 200, overflow: 'hidden' }}>
        {size.width > 0 && (
          <LoosePieces
            state={ready}
            states={[ready]}
            pieces={question.pieces}
            pressed={false}
            times={1}
            pointed={null}
            width={Math.floor(size.width)}
            height={Math.floor(size.height)}
          />
        )}
      </Box>
    </Box>
  );
}

/** The pieces as they are got ready, before anything is worked out. */
function readyState(question: SeamQuestion): Drawn {
  const outlines = readied(question);
  const { minX, maxX, minY, maxY } = boundingBox(outlines.flat());
  return { outlines, seams: [], widthMm: maxX - minX, heightMm: maxY - minY };
}

/** With more pieces it takes longer. */
const FEW = 6;

const openWords = (mm: number | null, fine: (mm: number) => string): string =>
  mm === null ? 'not opposite' : mm > 0 ? fine(mm) : 'shut';

const TIMES = [
  ['1', 'Gaps true'],
  ['10', '10 times'],
  ['25', '25 times'],
] as const;
type Times = (typeof TIMES)[number][0];
/** Less is not worth a word, mm. */
const SLID_MM = 0.05;

function Answered({ answer, asked, result }: { answer: SeamAnswer; asked: SeamsAsked; result: StepResult }) {
  const { shop } = useEvaluation();
  const [frame, size] = useSize();
  const [times, setTimes] = useState<Times>('10');
  const [chosen, setChosen] = useState<number | null>(null);
  const [bar] = result.before;
  const { seen, each } = piecesOf(bar)!;
  const last = answer.states.length - 1;
  const at = Math.min(chosen ?? last, last);
  const state = answer.states[at];
  const fine = (mm: number) => formatFine(mm, shop.lengths).replaceAll(' ', '\u00a0');
  const [pointed, setPointed] = useState<number | null>(null);
  const opens = answer.seams.map((seam, i) => openBy(seam, state, i));
  const open = opens.filter((mm) => mm !== 0).length;
  const buckles = bucklesIn(bar, asked);
  const shut = answer.allShutAtMm !== null && !answer.stopped && buckles === 0;
  const unit = stressUnitMPa(bar, shop);
  const press = at > 0 ? answer.presses[at - 1] : null;
  const touched = at > 0 && state.travelMm > answer.states[at - 1].travelMm;
  const said = answer.stopped
    ? `Not to its end: ${answer.stopped}.`
    : answer.states[last].travelMm === 0
      ? 'No press reaches what lies there.'
      : answer.allShutAtMm === null
        ? 'These presses do not shut every seam.'
        : `Every seam is shut after ${fine(answer.allShutAtMm)} of travel${buckles > 0 ? `, if it does not buckle in press ${buckles}` : ''}.`;
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', height: '100%', minHeight: 0, gap: 0.75 }}>
      <Stack direction="row" useFlexGap sx={{ flexWrap: 'wrap', gap: 1, justifyContent: 'space-between' }}>
        <Typography sx={{ fontWeight: 600, color: shut ? colours.verdigris : colours.alarm }}>
          {said}
        </Typography>
        <Toggles<Times> label="How wide gaps are drawn" value={times} options={TIMES} onChange={setTimes} />
      </Stack>
      <Box
        sx={{
          flex: 1,
          minHeight: 0,
          display: 'grid',
          gridTemplateColumns: { xs: '1fr', md: 'minmax(0, 1fr) 350px' },
          gap: 1.5,
        }}
      >
        <Box sx={{ display: 'flex', flexDirection: 'column', minHeight: { xs: 420, md: 0 } }}>
          <Box ref={frame} sx={{ flex: 1, minHeight: 200, overflow: 'hidden' }}>
            {size.width > 0 && (
              <LoosePieces
                state={state}
                states={answer.states}
                pieces={each}
                pressed={touched}
                times={Number(times)}
                pointed={pointed}
                width={Math.floor(size.width)}
                height={Math.floor(size.height)}
              />
            )}
          </Box>
          <Box sx={{ px: 1.5 }}>
            <Slider
              aria-label="Press"
              value={at}
              max={last}
              step={1}
              marks
              onChange={(_, v) => setChosen(v as number)}
              sx={{ color: colours.oxide, display: 'block' }}
            />
          </Box>
          <Typography aria-live="polite" sx={{ minHeight: 48 }}>
            {press
              ? `Press ${at}${press.turned ? ', after a quarter turn counter-clockwise' : ''}, to ${fine(press.toMm)}: ${touched ? '' : 'the dies do not reach it, '}${formatLength(state.widthMm, shop.lengths)} wide, ${fine(state.travelMm)} of travel so far. `
              : `As ${seen === 'from the side' ? 'they lie in a row, seen from the side' : 'they lie, seen on end B'}. `}
            {open === 0 ? 'Every seam is shut.' : `${open} of ${state.seams.length} seams open.`}
          </Typography>
        </Box>
        <Stack spacing={1} sx={{ minHeight: 0, overflowY: 'auto' }} tabIndex={0} aria-label="Seams">
          <FiguresTable heads={['Seam', 'Open', 'Shut after', 'Pushed']}>
            {answer.seams.map((seam, i) => (
              <tr
                key={i}
                tabIndex={0}
                aria-label={`Seam ${each[seam.first].name} – ${each[seam.second].name}`}
                style={{ background: pointed === i ? colours.gesso : undefined, cursor: 'pointer' }}
                onMouseEnter={() => setPointed(i)}
                onMouseLeave={() => setPointed(null)}
                onFocus={() => setPointed(i)}
                onBlur={() => setPointed(null)}
              >
                <td>
                  {each[seam.first].name.replace(' ', '\u00a0')} –{' '}
                  {each[seam.second].name.replace(' ', '\u00a0')}
                </td>
                <td>{openWords(opens[i], fine)}</td>
                <td>
                  {seam.shutAtMm.some((mm) => mm === null)
                    ? 'not all of it'
                    : fine(Math.max(...seam.shutAtMm.map((mm) => mm ?? 0)))}
                  {seam.reopenedMm > REOPENED_MM && <div>opened again by {fine(seam.reopenedMm)}</div>}
                  {state.seams[i].slidMm > SLID_MM && (
                    <div style={{ whiteSpace: 'nowrap' }}>slid {fine(state.seams[i].slidMm)}</div>
                  )}
                </td>
                <td>{(unit * Math.max(0, Math.min(...seam.pushes))).toFixed(0)}&nbsp;MPa</td>
              </tr>
            ))}
          </FiguresTable>
          <Emptiest answer={answer} at={at} pieces={each} />
          <Typography variant="body2" color="text.secondary">
            {each.some((piece) => !piece.bought) &&
              `Ends open by ${fine(asked.gapMm)}, corners broken by ${fine(asked.cornerMm)}. `}
            {each.some((piece) => piece.bought) && 'Strips and sheets flat and sharp, as they came. '}
            Shut is under {fine(SHUT_MM)}. Pushed: square across the seam, the least along it of the most that
            each place saw. Whether it welds is for fire and flux.
          </Typography>
        </Stack>
      </Box>
    </Box>
  );
}
