import type { MoveKind } from '../../../../core/moves/index.ts';
import { goalSchema } from '../../../../core/plan/index.ts';
import CheckCircleIcon from '@mui/icons-material/CheckCircle';
import ErrorIcon from '@mui/icons-material/Error';
import { Box, Button, Skeleton, Stack, ToggleButton, ToggleButtonGroup, Typography } from '@mui/material';
import type { ReactNode } from 'react';
import {
  type Evaluation,
  type Goal,
  type GoalResult,
  type Plan,
  type Start,
  allStarts,
  allSteps,
  flowsAwaited,
  laneMark,
  startsOf,
  withStarts,
} from '../../../../core/plan/index.ts';
import { doneSteps } from '../../../../core/records/record.ts';
import type { Shop } from '../../../../core/shop/shop.ts';
import { moveOf } from '../../../../core/moves/index.ts';
import { divisionMm, formatLength, quantitiesOf } from '../../../../core/units/index.ts';
import { finishedFigure, startFigure, steelFigure } from '../../../../core/judgement/index.ts';
import { colours } from '../../ui/theme.ts';
import { Asked } from '../../ui/Asked.tsx';
import { QuantityField } from '../../ui/fields/QuantityField.tsx';
import { ShowStep } from '../../benches/ShowStep.tsx';
import { editPlan } from '../../document/planStore.ts';
import { useRecords } from '../../document/records.ts';
import { HowSure } from './HowSure.tsx';
import { useEvaluation } from '../../document/useEvaluation.ts';
import { startText, useStart } from '../../document/useStart.ts';

const of = quantitiesOf(goalSchema);

const SIZES: (keyof Goal)[] = ['lengthMm', 'widthMm', 'thicknessMm'];

/** Always in sight: the finished bar wanted, what the plan comes to, and the starting stack it takes. */
export function GoalStrip() {
  const evaluation = useEvaluation();
  const { plan } = evaluation;
  return (
    <Stack
      data-noprint
      direction="row"
      useFlexGap
      sx={{ alignItems: 'center', flexWrap: 'wrap', columnGap: 1, rowGap: 0.5, px: 2.5, py: 0.75 }}
    >
      <Stack
        direction="row"
        spacing={0.75}
        sx={{ alignItems: 'center' }}
        role="group"
        aria-label="Finished bar wanted"
      >
        <Typography sx={{ fontWeight: 600 }}>Finished bar</Typography>
        {SIZES.map((key, i) => (
          <Stack key={key} direction="row" spacing={0.75} sx={{ alignItems: 'center' }}>
            {i > 0 && <span>×</span>}
            <QuantityField
              of={of(key)}
              hideLabel
              width={118}
              value={plan.goal[key]}
              onChange={(mm) => editPlan((p) => ({ ...p, goal: { ...p.goal, [key]: mm } }), `goal ${key}`)}
            />
          </Stack>
        ))}
      </Stack>
      <AsItStands />
      <Verdict evaluation={evaluation} />
      <HowSure evaluation={evaluation} />
      <StartNeeded evaluation={evaluation} />
    </Stack>
  );
}

/** Whether what came is laid over the plan, where anything was written at the bench. */
function AsItStands() {
  const { records, planned } = useRecords();
  if (records.length === 0) return null;
  return (
    <ToggleButtonGroup
      size="small"
      exclusive
      value={planned ? 'planned' : 'stands'}
      aria-label="What is shown"
      onChange={(_, to: string | null) => to && useRecords.setState({ planned: to === 'planned' })}
    >
      <ToggleButton value="stands" sx={{ textTransform: 'none', py: 0.25, color: colours.ink }}>
        as it stands
      </ToggleButton>
      <ToggleButton value="planned" sx={{ textTransform: 'none', py: 0.25, color: colours.ink }}>
        as planned
      </ToggleButton>
    </ToggleButtonGroup>
  );
}

function Verdict({ evaluation }: { evaluation: Evaluation }) {
  const { goal, shop } = evaluation;
  if (!goal.bar) return <NoBarYet evaluation={evaluation} />;
  const Icon = goal.reached ? CheckCircleIcon : ErrorIcon;
  const colour = goal.reached ? colours.verdigris : colours.alarm;
  return (
    <Stack
      direction="row"
      spacing={0.75}
      sx={{ alignItems: 'center' }}
      role="status"
      aria-label="Plan against goal"
    >
      <Icon sx={{ color: colour }} fontSize="small" />
      <span>
        This plan gives <Asked figure={finishedFigure(evaluation)!} />:{' '}
        <b style={{ color: colour }}>{goalText(goal, shop)}</b>
      </span>
    </Stack>
  );
}

/** Said at once and in place, so that nothing below moves later: which move stands in the way, where one does. */
function NoBarYet({ evaluation }: { evaluation: Evaluation }) {
  const stopped = allSteps(evaluation).find((s) => s.findings.some((f) => f.severity === 'error'));
  if (flowsAwaited(evaluation).length > 0)
    return (
      // As wide as most verdicts, so that what follows keeps its place.
      <Typography color="text.secondary" role="status" sx={{ minWidth: 460 }}>
        Working out how the section flows …
      </Typography>
    );
  return (
    <Stack direction="row" spacing={1} sx={{ alignItems: 'center' }}>
      <Typography color="text.secondary">
        No finished bar yet{stopped && `: ${moveOf(stopped.step.kind).title} cannot be done`}
      </Typography>
      {stopped && <ShowStep stepId={stopped.step.id} />}
    </Stack>
  );
}

const UNFINISHED = {
  'loose powder': 'its powder is not pressed solid yet',
  'open seams': 'its seams are not welded yet',
} as const;

/** What it is not yet, before how long it is. */
const goalText = ({ unfinished, spare }: GoalResult, shop: Shop): string =>
  unfinished ? UNFINISHED[unfinished] : spareText(spare!, shop);

/** “12 mm to spare”, or what is short and what is over. */
function spareText(spare: Goal, shop: Shop): string {
  const half = divisionMm(shop.lengths) / 2;
  const parts = (
    [
      ['lengthMm', 'length'],
      ['widthMm', 'width'],
      ['thicknessMm', 'thickness'],
    ] as const
  ).flatMap(([key, name]) => {
    const mm = spare[key];
    if (Math.abs(mm) < half) return [];
    if (mm < 0) return [`${name} ${formatLength(-mm, shop.lengths)} short`];
    return [
      key === 'lengthMm'
        ? `${formatLength(mm, shop.lengths)} to spare`
        : `${name} ${formatLength(mm, shop.lengths)} over`,
    ];
  });
  return parts.length > 0 ? parts.join(', ') : 'exactly';
}

function StartNeeded({ evaluation }: { evaluation: Evaluation }) {
  const { plan, shop } = evaluation;
  const { value: answer, asking, error } = useStart(plan);
  const has = startsOf(plan);
  // What is begun is begun: the bench says what can be done now.
  if (has.length === 0 && allStarts(plan).some((s) => doneSteps(plan.records).has(s.stepId))) return null;
  if (!evaluation.goal.bar && flowsAwaited(evaluation).length === 0)
    // The answer would only say again, and late, what stands in the way.
    return null;
  const { spare } = evaluation.goal;
  const half = divisionMm(shop.lengths) / 2;
  // However long a start, it makes the bar no wider and no thicker.
  if (spare && Math.min(spare.widthMm, spare.thicknessMm) < -half) return null;
  if (error)
    return (
      <Typography color="error" role="alert">
        Working backward failed: {error}
      </Typography>
    );
  if (!answer || asking)
    // As wide as the answer will be, so that nothing moves under the pointer; and plainly no answer yet.
    return (
      <Box aria-label="Working back to the start" aria-busy inert>
        <StartWords
          plan={plan}
          starts={has}
          text={(s) => (
            <Skeleton component="span" animation={false} sx={{ display: 'inline-block', maxWidth: 'none' }}>
              <span>{startText(s, shop)}</span>
            </Skeleton>
          )}
          set={false}
        />
      </Box>
    );
  if (!answer.ok)
    return (
      <Stack
        direction="row"
        spacing={1}
        sx={{ alignItems: 'center', flexBasis: '100%', color: colours.alarm }}
        role="status"
      >
        <ErrorIcon fontSize="small" />
        <span>{answer.reason}</span>
        {answer.stepId && <ShowStep stepId={answer.stepId} />}
      </Stack>
    );
  const differs = answer.starts.some((s) => Math.abs(valueOf(has, s) - s.value) > (s.whole ? 0.5 : half));
  return (
    <Box role="status" aria-label="Starting stack needed">
      <StartWords
        plan={plan}
        starts={answer.starts}
        text={(s) => <Asked figure={startFigure(evaluation, s, startText(s, shop), answer.reachesMm)} />}
        set={differs}
      />
    </Box>
  );
}

interface StartWordsProps {
  plan: Plan;
  starts: readonly Start[];
  text(start: Start): ReactNode;
  /** Whether to offer taking them over; the room for it is kept. */
  set: boolean;
}

/** Room for any length or count, so that the line is as wide before the answer as after it. */
const SLOT = { display: 'inline-block', minWidth: '7.5ch', textAlign: 'center' };

function StartWords({ plan, starts, text, set }: StartWordsProps) {
  const many = new Set(starts.map((s) => s.stepId)).size > 1;
  const lengthsAlone = starts.every((s) => s.number === 'length');
  return (
    <Stack direction="row" spacing={1} sx={{ alignItems: 'center' }}>
      <span>
        Takes {startWords(plan, many)}
        {!lengthsAlone && ' of'}{' '}
        {starts.map((s, i) => (
          <span key={s.stepId + s.number}>
            {i > 0 && ' '}
            {many && `${laneMark(plan, s.laneId)} `}
            {!lengthsAlone && `${s.label} `}
            <Box component="span" sx={SLOT}>
              {text(s)}
              {i < starts.length - 1 && ','}
            </Box>
          </span>
        ))}
        {lengthsAlone && ' long'}
      </span>
      <Button
        size="small"
        variant="outlined"
        sx={{ visibility: set ? 'inherit' : 'hidden' }}
        onClick={() => editPlan((p) => withStarts(p, starts), 'start')}
      >
        Set {starts.length > 1 ? 'them' : 'it'}
      </Button>
    </Stack>
  );
}

const STARTS = [
  ['stack', 'a stack', 'stacks'],
  ['can', 'a can', 'cans'],
  ['found', 'a bar', 'bars'],
] as const satisfies readonly (readonly [MoveKind, string, string])[];

/** What the starts are, as a shop says it. */
function startWords(plan: Plan, many: boolean): string {
  const kinds = new Set(plan.lanes.flatMap((l) => l.steps.slice(0, 1).map((s) => s.kind)));
  const said = STARTS.filter(([kind]) => kinds.has(kind));
  if (said.length === 0) return many ? 'stacks' : 'a stack';
  return many ? said.map(([, , all]) => all).join(' and ') : said[said.length - 1][1];
}

const valueOf = (starts: readonly Start[], { stepId, number }: Start): number =>
  starts.find((s) => s.stepId === stepId && s.number === number)?.value ?? 0;

/** The steel that the plan takes, for the head of every screen. */
export function SteelTaken() {
  const evaluation = useEvaluation();
  if (evaluation.lanes.every((l) => l.steps.length === 0)) return null;
  return (
    <Typography component="span" color="text.secondary" noWrap>
      <Asked figure={steelFigure(evaluation)} /> steel
    </Typography>
  );
}
