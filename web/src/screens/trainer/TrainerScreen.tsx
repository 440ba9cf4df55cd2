import { Alert, Box, Button, CircularProgress, Stack, Typography } from '@mui/material';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { Placed } from '../../../../core/moves/index.ts';
import { KINDS, LEVELS, type Level, type ToLay, kindOf } from '../../../../core/trainer/index.ts';
import { type Asked, ALL_KINDS, answered, nextAsked, useTraining } from '../../document/training.ts';
import { useAsked } from '../../document/useAsked.ts';
import { ask } from '../../document/workers/host.ts';
import type { Pictured, Shown } from '../../document/workers/training.ts';
import { PaintedView } from '../../benches/steel/PaintedView.tsx';
import { Choice } from '../../ui/fields/Choice.tsx';
import { Toggles } from '../../ui/fields/Toggles.tsx';
import { PageHead, SteelAndNumbers } from '../../ui/layout.tsx';
import { colours } from '../../ui/theme.ts';
import { LayTask } from './LayTask.tsx';

/** In place of an answer that was offered. */
const NONE = -1;

const LEVEL_WORDS: Record<Level, string> = { 1: 'easy', 2: 'usual', 3: 'hard' };

/** px. */
const LARGE = 330;
const BESIDE = 226;
const SMALL = 150;

/** `came`: what pieces that were laid by hand show. */
interface Answered {
  readonly asked: Asked;
  readonly taken: number;
  readonly came?: Pictured;
}

/** Reading end grain: short exercises without end, answered by touch. */
export function Component() {
  const { level, kind, counts, missed } = useTraining();
  const [asked, setAsked] = useState<Asked>(nextAsked);
  const [answer, setAnswer] = useState<Answered | null>(null);
  /** What is being judged, or was: once is enough. */
  const [judged, setJudged] = useState<Asked | null>(null);
  const [laid, setLaid] = useState<Placed[] | null>(null);
  const [failed, setFailed] = useState<string | null>(null);
  const next = useRef<HTMLButtonElement>(null);
  const question = useMemo(
    () => () => ask('moves', (api) => api.exercise(asked.kind, asked.level, asked.seed)),
    [asked],
  );
  const { value, asking, error } = useAsked(question);
  const shown = asking ? null : value;
  const lay = shown?.lay;
  // A judgement that comes late is of what was asked then.
  const own = answer?.asked === asked ? answer : null;
  const taken = own?.taken ?? null;
  useEffect(() => {
    document.title = 'Reading end grain · Retablo';
  }, []);
  useEffect(() => {
    if (taken !== null) next.current?.focus();
  }, [taken]);
  const goOn = () => {
    setAnswer(null);
    setJudged(null);
    setLaid(null);
    setFailed(null);
    setAsked(nextAsked());
  };
  const choose = (some: { level?: Level; kind?: string }) => {
    useTraining.setState(some);
    goOn();
  };
  const take = (i: number) => {
    if (taken !== null || !shown) return;
    setAnswer({ asked, taken: i });
    answered(asked, i === shown.right);
  };
  const judge = (task: ToLay, right: number) => {
    setJudged(asked);
    ask('moves', (api) => api.judgeLaying(task, laid ?? [])).then(
      ({ isRight, came }) => {
        setAnswer({ asked, taken: isRight ? right : NONE, came });
        answered(asked, isRight);
      },
      (failed: Error) => {
        setJudged(null);
        setFailed(failed.message);
      },
    );
  };
  const [all, right] = Object.entries(counts)
    .filter(([key]) => key.startsWith(`${asked.kind} `))
    .reduce(([a, r], [, [b, s]]) => [a + b, r + s], [0, 0]);
  return (
    <Box sx={{ minHeight: '100dvh', height: { md: '100dvh' }, display: 'flex', flexDirection: 'column' }}>
      <PageHead>
        <Typography variant="h1" sx={{ mr: 2 }}>
          Reading end grain
        </Typography>
        <Choice
          label="Practise"
          width={280}
          value={kind}
          options={[[ALL_KINDS, 'All kinds by turns'], ...KINDS.map((k) => [k.id, k.title] as const)]}
          onChange={(to) => choose({ kind: to })}
        />
        <Toggles
          label="Level"
          value={String(level)}
          options={LEVELS.map((l) => [String(l), LEVEL_WORDS[l]] as const)}
          onChange={(to) => choose({ level: Number(to) as Level })}
        />
      </PageHead>
      <SteelAndNumbers
        steelScrolls
        leastSteelPx={520}
        steel={
          <Stack spacing={2} sx={{ minHeight: '100%' }}>
            {(error ?? failed) && <Alert severity="error">{error ?? failed}</Alert>}
            {!shown && !error && <CircularProgress aria-label="Making an exercise" />}
            {shown && lay && taken === null && (
              <LayTask
                task={lay}
                places={laid}
                wanted={<Captioned pictured={shown.shown[0]} width={BESIDE} />}
                onPut={(places) => setLaid(places)}
              />
            )}
            {shown && !(lay && taken === null) && (
              <Pictures shown={shown} came={own?.came} isAnswered={taken !== null} />
            )}
          </Stack>
        }
        numbers={
          <Stack spacing={1.5}>
            <Typography variant="h2">{kindOf(asked.kind).title}</Typography>
            <Typography>{shown?.question ?? '…'}</Typography>
            <Stack component="ol" spacing={1} sx={{ m: 0, p: 0, listStyle: 'none' }}>
              {shown?.choices.map((choice, i) => (
                <li key={choice.text}>
                  <Answer
                    choice={choice}
                    state={
                      taken === null ? 'open' : i === shown.right ? 'right' : i === taken ? 'wrong' : 'other'
                    }
                    act={() => take(i)}
                  />
                </li>
              ))}
            </Stack>
            {lay && taken === null && (
              <Button
                variant="contained"
                disabled={!laid || judged === asked}
                onClick={() => judge(lay, shown.right)}
              >
                So they lie
              </Button>
            )}
            {taken !== null && shown && (
              <>
                <Alert severity={taken === shown.right ? 'success' : 'warning'} role="status">
                  {taken === shown.right ? 'Right. ' : 'Not so. '}
                  {shown.why}
                </Alert>
                <Button ref={next} variant="contained" onClick={goOn}>
                  Next
                </Button>
              </>
            )}
            <Typography color="text.secondary">
              {all === 0 ? 'Not practised yet.' : `Of this kind ${right} of ${all} right.`}{' '}
              {missed.length > 0 &&
                `${missed.length} missed ${missed.length === 1 ? 'one comes' : 'ones come'} back.`}
            </Typography>
          </Stack>
        }
      />
    </Box>
  );
}

interface PicturesProps {
  shown: Shown;
  came: Pictured | undefined;
  isAnswered: boolean;
}

/** What is asked about; once it is answered, the moves that made it, one after the other. */
function Pictures({ shown, came, isAnswered }: PicturesProps) {
  const seenAs = came ? [...shown.shown, came] : shown.shown;
  return (
    <>
      <Stack
        direction="row"
        useFlexGap
        spacing={3}
        sx={{ flexWrap: 'wrap', justifyContent: 'center', alignItems: 'flex-end' }}
      >
        {seenAs.map((p) => (
          <Captioned
            key={p.caption}
            pictured={p}
            width={widthOf(p, seenAs.length > 1 ? LARGE : 1.3 * LARGE)}
          />
        ))}
        {seenAs.length === 0 && (
          <Typography variant="h2" sx={{ maxWidth: 560, py: 6, textAlign: 'center' }}>
            {shown.question}
          </Typography>
        )}
      </Stack>
      {isAnswered && shown.played.length > 0 && (
        <>
          <Typography variant="h2">How it came about</Typography>
          <Stack direction="row" useFlexGap spacing={2} sx={{ flexWrap: 'wrap' }}>
            {shown.played.map((p, i) => (
              <Captioned key={i} pictured={p} width={widthOf(p, SMALL)} />
            ))}
          </Stack>
        </>
      )}
    </>
  );
}

/** As wide as it may be, lower ones too. */
const widthOf = ({ picture: { widthPx, heightPx } }: Pictured, most: number): number =>
  widthPx >= heightPx ? most : (most * widthPx) / heightPx;

function Captioned({ pictured: { caption, picture }, width }: { pictured: Pictured; width: number }) {
  return (
    <Box component="figure" sx={{ m: 0 }}>
      <PaintedView picture={picture} label={caption || 'A face'} width={width} />
      <Typography component="figcaption" sx={{ textAlign: 'center' }}>
        {caption}
      </Typography>
    </Box>
  );
}

const LOOK = {
  open: { border: colours.line, background: colours.paper },
  right: { border: colours.verdigris, background: colours.verdigrisWash },
  wrong: { border: colours.alarm, background: colours.alarmWash },
  other: { border: colours.line, background: colours.paper },
} as const;

const SAID = { open: '', right: ': right', wrong: ': wrong', other: '' } as const;

interface AnswerProps {
  choice: Shown['choices'][number];
  state: keyof typeof LOOK;
  act(): void;
}

function Answer({ choice: { text, pictured }, state, act }: AnswerProps) {
  const { border, background } = LOOK[state];
  return (
    <Box
      component="button"
      onClick={act}
      disabled={state !== 'open'}
      aria-label={`${text}${SAID[state]}`}
      sx={{
        width: '100%',
        minHeight: 48,
        p: 1,
        display: 'flex',
        gap: 1.5,
        alignItems: 'center',
        font: 'inherit',
        color: 'inherit',
        textAlign: 'left',
        border: `2px solid ${border}`,
        borderRadius: '6px',
        background,
        cursor: state === 'open' ? 'pointer' : 'default',
      }}
    >
      {pictured && <PaintedView picture={pictured.picture} label={text} width={96} />}
      <span>{text}</span>
    </Box>
  );
}
