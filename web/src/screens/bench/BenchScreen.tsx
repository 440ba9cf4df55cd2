import ArrowBackIcon from '@mui/icons-material/ArrowBack';
import ArrowForwardIcon from '@mui/icons-material/ArrowForward';
import {
  Box,
  Button,
  CssBaseline,
  IconButton,
  Stack,
  TextField,
  ThemeProvider,
  Typography,
} from '@mui/material';
import { useState } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { facePlane } from '../../../../core/billet/face.ts';
import { benchLines } from '../../../../core/instruct/benchLines.ts';
import { useExperience } from '../../document/learning.ts';
import { findingsOf } from '../../../../core/judgement/index.ts';
import {
  type Evaluation,
  type StepResult,
  actionsOf,
  benchOrder,
  nextAtBench,
} from '../../../../core/plan/index.ts';
import { doneSteps, recordSchema } from '../../../../core/records/record.ts';
import { ShowMe } from '../../benches/show/ShowMe.tsx';
import { SteelView } from '../../benches/steel/SteelView.tsx';
import { useRole } from '../../document/door.ts';
import { undoRecord, useRecords } from '../../document/records.ts';
import { useBoth } from '../../document/useEvaluation.ts';
import { LEAST_TARGET, fire, fireTheme } from '../../ui/fireTheme.ts';
import { useSize } from '../../ui/useSize.ts';
import { Came } from './Came.tsx';
import { Cooling } from './Cooling.tsx';
import { Head } from './Head.tsx';
import { Changes } from './Changes.tsx';
import { Fire } from './Fire.tsx';
import { Lines, NextLine } from './Lines.tsx';
import { OtherTimer } from './OtherTimer.tsx';
import { Photographs } from './Photographs.tsx';
import { type Doing, useDoing } from '../../document/useDoing.ts';

const MOST_REMARK = recordSchema.shape.remark.unwrap().maxLength ?? undefined;

/** One move at a time, by the fire: what to do, how long, what came of it. */
export default function BenchScreen() {
  return (
    <ThemeProvider theme={fireTheme}>
      <CssBaseline />
      <Bench />
    </ThemeProvider>
  );
}

function Bench() {
  const { stands, planned } = useBoth();
  const [search, setSearch] = useSearchParams();
  const order = benchOrder(stands);
  const result = order.find((r) => r.step.id === search.get('move')) ?? nextAtBench(stands) ?? order.at(-1);
  const go = (to: StepResult | undefined) => {
    if (!to) return;
    setSearch({ move: to.step.id }, { replace: true });
    window.scrollTo(0, 0);
  };
  if (!result)
    return (
      <Box component="main" sx={{ p: 3 }}>
        <Typography variant="h1">Nothing is planned yet</Typography>
        <p>Plan the first move at the desk; it is followed here then.</p>
        <ToPlan />
      </Box>
    );
  return (
    <Move key={result.step.id} stands={stands} planned={planned} result={result} order={order} go={go} />
  );
}

function ToPlan() {
  const { id } = useParams();
  const ofBench = useRole() === 'bench';
  return (
    <Button component={Link} to={ofBench ? '/' : `/pieces/${id}`} variant="outlined">
      {ofBench ? 'To the shelf' : 'To the plan'}
    </Button>
  );
}

interface MoveProps {
  stands: Evaluation;
  planned: Evaluation;
  result: StepResult;
  order: readonly StepResult[];
  go(to: StepResult | undefined): void;
}

function Move({ stands, planned, result, order, go }: MoveProps) {
  const { shop } = stands;
  const doing = useDoing(result.step.id);
  const at = order.indexOf(result);
  const lines = benchLines(actionsOf(result.reckoned ?? result, shop), shop);
  const next = () => {
    doing.end();
    go(order.slice(at + 1).find((r) => !doneSteps(stands.plan.records).has(r.step.id)) ?? order[at + 1]);
  };
  const remarkable = findingsOf(stands, result).filter(
    (f) => f.severity !== 'waiting' && f.severity !== 'caution',
  );
  const experience = useExperience(result, shop);
  const cautions = findingsOf(stands, result).filter((f) => f.severity === 'caution');
  return (
    <Box sx={{ minHeight: '100dvh', display: 'flex', flexDirection: 'column', background: fire.ground }}>
      <Head stands={stands} result={result} order={order} go={go} />
      <Box
        component="main"
        sx={{
          flex: 1,
          display: 'grid',
          gap: 2,
          px: 2,
          pb: 2,
          alignContent: 'start',
          gridTemplateColumns: { xs: 'minmax(0, 1fr)', md: 'minmax(0, 5fr) minmax(0, 6fr)' },
        }}
      >
        <Stack sx={{ gap: 2, minWidth: 0 }}>
          <NextLine lines={lines} doing={doing} />
          <NowAndThen stands={stands} result={result} />
          <Cooling evaluation={stands} result={result} />
          <Fire evaluation={stands} result={result} doing={doing} />
          <Stack direction="row" useFlexGap sx={{ gap: 1, flexWrap: 'wrap' }}>
            <OtherTimer evaluation={stands} result={result} doing={doing} />
            {lines.length > 0 && <ShowMe evaluation={stands} result={result} />}
          </Stack>
          {remarkable.map((f) => (
            <Note key={f.code + f.text} alarm={f.severity === 'error' || f.severity === 'warning'}>
              {f.text}
            </Note>
          ))}
          {experience.map((text) => (
            <Note key={text}>{text}</Note>
          ))}
          {cautions.map((f) => (
            <Caution key={f.code} text={f.text} />
          ))}
        </Stack>
        <Stack sx={{ gap: 2, minWidth: 0 }}>
          {result.after === null && result.reckoned === null ? (
            <Note alarm>
              This move cannot be done as the piece stands: see what is said beside it, or what can be done
              below.
            </Note>
          ) : (
            <Lines lines={lines} doing={doing} />
          )}
          {!doing.done && <Came result={result} shop={shop} doing={doing} />}
          <Changes stands={stands} planned={planned} />
          <Photographs doing={doing} result={result} stands={stands} />
          <Remark doing={doing} />
        </Stack>
      </Box>
      <Foot doing={doing} at={at} order={order} go={go} next={next} />
    </Box>
  );
}

const Note = ({ alarm, children }: { alarm?: boolean; children: React.ReactNode }) => (
  <Box
    role="note"
    sx={{
      px: 2,
      py: 1.25,
      borderLeft: `6px solid ${alarm ? fire.alarm : fire.ember}`,
      background: alarm ? fire.alarmGround : fire.raised,
    }}
  >
    {children}
  </Box>
);

/** A caution stands there whole; what was read is folded to its first sentence, and is there again at the next move. */
function Caution({ text }: { text: string }) {
  const [first, ...rest] = text.split(/(?<=\.)\s+/);
  const begins = (
    <>
      <b>Take care.</b> {first}
    </>
  );
  if (rest.length === 0) return <Note>{begins}</Note>;
  return (
    <Note>
      <Box
        component="details"
        open
        sx={{ '& summary': { minHeight: LEAST_TARGET, alignContent: 'center', cursor: 'pointer' } }}
      >
        <summary>{begins}</summary>
        {rest.join(' ')}
      </Box>
    </Note>
  );
}

/** The end that faces the maker, of a blank its side, as it lies there now and as it should be then; once where it stays as it is. */
function NowAndThen({ stands, result }: { stands: Evaluation; result: StepResult }) {
  const [frame, { width }] = useSize();
  const isBlank = result.after?.[0]?.blank !== undefined;
  const face = isBlank ? 'top' : 'end B';
  const shown = (['before', 'after'] as const).flatMap((when) => {
    const bar = (when === 'before' ? result.before : result.after)?.[0];
    if (when === 'before' && bar === result.after?.[0]) return [];
    return bar ? [{ when, plane: facePlane(bar, face) }] : [];
  });
  const room = isBlank ? width : Math.max(0, (width - 24) / Math.max(1, shown.length));
  const where = isBlank ? 'from above, edge down' : 'end B';
  const scale = Math.min(
    ...shown.map(({ plane }) => room / plane.widthMm),
    ...shown.map(({ plane }) => 380 / plane.heightMm),
  );
  return (
    <Stack
      ref={frame}
      direction={isBlank ? 'column' : 'row'}
      sx={{ gap: isBlank ? 1 : 3, alignItems: isBlank ? 'center' : 'flex-end', justifyContent: 'center' }}
    >
      {width > 0 &&
        shown.map(({ when, plane }) => (
          <Stack key={when} sx={{ alignItems: 'center', gap: 0.5 }}>
            <SteelView
              plan={stands.plan}
              stepId={result.step.id}
              when={when}
              face={face}
              view="etched"
              width={Math.round(plane.widthMm * scale)}
              height={Math.round(plane.heightMm * scale)}
              urgency={when === 'before' ? 1 : 2}
              label={`${isBlank ? 'From above' : 'End B'} as it ${when === 'before' ? 'lies now' : 'should be'}`}
            />
            <Typography color="text.secondary">
              {when === 'before'
                ? `${where}, as it lies`
                : result.reckoned
                  ? `${where}, as it came`
                  : shown.length === 1
                    ? `${where}, as it is`
                    : `${where}, as it should be`}
            </Typography>
          </Stack>
        ))}
    </Stack>
  );
}

function Remark({ doing }: { doing: Doing }) {
  const [text, setText] = useState<string | null>(null);
  const kept = doing.record?.remark ?? '';
  return (
    <TextField
      multiline
      minRows={1}
      maxRows={6}
      fullWidth
      placeholder="Remark"
      value={text ?? kept}
      slotProps={{ htmlInput: { 'aria-label': 'Remark', maxLength: MOST_REMARK } }}
      onChange={(change) => setText(change.target.value)}
      onBlur={() => {
        if (text !== null && text !== kept) doing.change({ remark: text || undefined });
        setText(null);
      }}
    />
  );
}

interface FootProps {
  doing: Doing;
  at: number;
  order: readonly StepResult[];
  go(to: StepResult | undefined): void;
  next(): void;
}

function Foot({ doing, at, order, go, next }: FootProps) {
  const undoable = useRecords((state) => state.undoable > 0);
  return (
    <Stack
      component="footer"
      direction="row"
      sx={{
        gap: 1,
        p: 1.5,
        position: 'sticky',
        bottom: 0,
        zIndex: 2,
        background: fire.ground,
        borderTop: `1px solid ${fire.line}`,
      }}
    >
      <IconButton aria-label="The move before" disabled={at === 0} onClick={() => go(order[at - 1])}>
        <ArrowBackIcon fontSize="large" />
      </IconButton>
      <Button variant="outlined" disabled={!undoable} onClick={undoRecord}>
        Undo
      </Button>
      <Box sx={{ flex: 1 }} />
      {doing.done ? (
        <>
          <Button variant="outlined" onClick={doing.reopen}>
            Open again
          </Button>
          <IconButton
            aria-label="The next move"
            disabled={at === order.length - 1}
            onClick={() => go(order[at + 1])}
          >
            <ArrowForwardIcon fontSize="large" />
          </IconButton>
        </>
      ) : (
        <Button variant="contained" onClick={next} sx={{ minWidth: 240, fontSize: 26 }}>
          Done
        </Button>
      )}
    </Stack>
  );
}
