import { moveOf } from '../../../../core/moves/index.ts';
import { bladeSchema } from '../../../../core/blade/index.ts';
import CheckCircleIcon from '@mui/icons-material/CheckCircle';
import WarningAmberIcon from '@mui/icons-material/WarningAmber';
import { Box, Button, Stack, Typography } from '@mui/material';
import { useSnackbar } from 'notistack';
import { type Billet, sizeOf } from '../../../../core/billet/billet.ts';
import {
  type Blade,
  PROFILES,
  type Profile,
  bladeFit,
  bladeFrom,
  groundBlade,
} from '../../../../core/blade/index.ts';
import { type ShapeParameters, forgedAnew, forgedOn } from '../../../../core/moves/forge/shape.ts';
import { findingsOf, judge } from '../../../../core/judgement/index.ts';
import { materialById } from '../../../../core/materials/material.ts';
import {
  type Evaluation,
  type Goal,
  type Lane,
  type StepResult,
  MOST_LANE_NAME,
  allSteps,
  freshStepId,
  makeStepOf,
  nameWith,
} from '../../../../core/plan/index.ts';
import { CAUTIONS } from '../../../../core/moves/contract/common.ts';
import { wholePercents, formatLength } from '../../../../core/units/index.ts';
import { ArchButton, SteelAndNumbers } from '../../ui/layout.tsx';
import { colours } from '../../ui/theme.ts';
import { Asked } from '../../ui/Asked.tsx';
import { Choice } from '../../ui/fields/Choice.tsx';
import { EdgesChoice } from '../../editors/EdgesChoice.tsx';
import { SchemaForm } from '../../editors/form/form.tsx';
import { FileButton } from '../../ui/FileButton.tsx';
import { FindingCard } from '../../ui/FindingCard.tsx';
import { editPlan } from '../../document/planStore.ts';
import { useEvaluation } from '../../document/useEvaluation.ts';
import { useSize } from '../../ui/useSize.ts';
import { ShowStep } from '../../benches/ShowStep.tsx';
import { Legend } from '../../benches/steel/Legend.tsx';
import { SteelView } from '../../benches/steel/SteelView.tsx';
import { CLOSE_UP_PX, CloseUp } from './CloseUp.tsx';
import { Shown } from './Shown.tsx';
import { OutlineEditor } from './OutlineEditor.tsx';
import { outlineFromSvg } from './svgOutline.ts';

const setBlade = (blade: Blade | undefined, what: string): void =>
  editPlan((plan) => ({ ...plan, blade }), `blade ${what}`);

/** How high a ground side is drawn at most, so that both are in sight. */
const MOST_SIDE_PX = 200;

/** A blade laid on the finished bar, and both its sides as they will look once ground. */
export default function BladeView() {
  const evaluation = useEvaluation();
  const { bar } = evaluation.goal;
  const { blade } = evaluation.plan;
  if (!bar) return <NoBar evaluation={evaluation} />;
  return blade ? <BladeOnBar evaluation={evaluation} bar={bar} blade={blade} /> : <ChooseProfile bar={bar} />;
}

/** Why there is nothing to lay a blade on: nothing planned yet, or a move that cannot be done as it stands. */
function NoBar({ evaluation }: { evaluation: Evaluation }) {
  const stopped = allSteps(evaluation).find((s) => s.findings.some((f) => f.severity === 'error'));
  const why = stopped?.findings.find((f) => f.severity === 'error');
  return (
    <Box component="main" sx={{ p: 3 }}>
      {stopped && why ? (
        <>
          <Typography sx={{ mb: 1 }}>
            There is no finished bar: “{moveOf(stopped.step.kind).title}” cannot be done as it stands.{' '}
            {why.text}
          </Typography>
          <ShowStep stepId={stopped.step.id} />
        </>
      ) : (
        <Typography>There is no finished bar yet: plan one first, then lay a blade on it.</Typography>
      )}
    </Box>
  );
}

function ChooseProfile({ bar }: { bar: Billet }) {
  const { widthMm, heightMm } = sizeOf(bar);
  const choose = (profile: Profile) => setBlade(bladeFrom(profile, bar.lengthMm, widthMm, heightMm), 'begin');
  return (
    <Box component="main" sx={{ px: 3, py: 3 }}>
      <Typography variant="h1" sx={{ mb: 0.5 }}>
        What is the bar to become?
      </Typography>
      <Typography color="text.secondary" sx={{ mb: 3 }}>
        The outline can be changed point by point afterwards.
      </Typography>
      <Box sx={{ display: 'flex', gap: 3, flexWrap: 'wrap' }}>
        {PROFILES.map((profile) => (
          <ArchButton key={profile.name} act={() => choose(profile)} sx={{ p: '40px 20px 18px' }}>
            <svg viewBox={`-0.05 -0.05 1.1 ${profile.aspect + 0.1}`} width="220" height="90" aria-hidden>
              <polygon
                points={profile.outline.map(([u, v]) => `${u},${(1 - v) * profile.aspect}`).join(' ')}
                fill="#d5cdbd"
                stroke={colours.ink}
                strokeWidth={0.008}
              />
            </svg>
            <Typography variant="h2" component="span" sx={{ display: 'block', mt: 1 }}>
              {profile.name}
            </Typography>
          </ArchButton>
        ))}
      </Box>
      <Box sx={{ mt: 3 }}>
        <ImportOutline bar={bar} />
      </Box>
    </Box>
  );
}

/** Reads an outline from a drawing; what cannot be read is said, and nothing is changed. */
function ImportOutline({ bar, blade }: { bar: Billet; blade?: Blade }) {
  const { enqueueSnackbar } = useSnackbar();
  const take = async (file: File) => {
    const read = outlineFromSvg(await file.text());
    if (!read.ok) {
      enqueueSnackbar(`${file.name}: ${read.message}`, { variant: 'error' });
      return;
    }
    const { widthMm, heightMm } = sizeOf(bar);
    const name = nameWith(file.name.replace(/\.svg$/i, ''), '', MOST_LANE_NAME) || 'Drawn';
    const profile: Profile = { name, outline: read.outline, edges: 1, aspect: read.aspect };
    setBlade(
      blade ? { ...blade, name, outline: read.outline } : bladeFrom(profile, bar.lengthMm, widthMm, heightMm),
      'drawn',
    );
  };
  return (
    <FileButton
      size="small"
      variant="outlined"
      text="Outline from an SVG drawing"
      accept=".svg,image/svg+xml"
      take={take}
    />
  );
}

interface OnBarProps {
  evaluation: Evaluation;
  bar: Billet;
  blade: Blade;
}

function BladeOnBar({ evaluation, bar, blade }: OnBarProps) {
  const [room, { width }] = useSize();
  const { plan, shop, goalLane } = evaluation;
  const last = goalLane.steps.findLast((s) => s.after !== null)!;
  const ground = groundBlade(bar, blade, 'right');
  const scale = Math.max(0, (width - 2) / bar.lengthMm);
  // A short blade on a long bar is shown as large as there is room: what is looked at is the steel.
  const sideScale = Math.min((width - 2) / ground.widthMm, MOST_SIDE_PX / ground.heightMm);
  const change = (some: Partial<Blade>) => setBlade({ ...blade, ...some }, Object.keys(some).join());
  const barPx = { width: bar.lengthMm * scale, height: sizeOf(bar).widthMm * scale };
  return (
    <SteelAndNumbers
      steelScrolls
      steel={
        <Box ref={room}>
          {scale > 0 && (
            <Stack spacing={1.25}>
              <Shown
                title={`On the ${bar.blank ? 'blank' : 'bar'}, ${formatLength(bar.lengthMm, shop.lengths)} × ${formatLength(sizeOf(bar).widthMm, shop.lengths)}, end A to the left: drag the blade or its points`}
              >
                <Box sx={{ position: 'relative', ...barPx }}>
                  <SteelView
                    plan={plan}
                    stepId={last.step.id}
                    when="after"
                    face="top"
                    view="etched"
                    width={Math.round(barPx.width)}
                    height={Math.round(barPx.height)}
                    urgency={4}
                    label="The bar's top face"
                  />
                  <OutlineEditor
                    bar={bar}
                    blade={blade}
                    width={Math.round(barPx.width)}
                    height={Math.round(barPx.height)}
                    change={change}
                  />
                </Box>
              </Shown>
              {ground.heightMm * sideScale < CLOSE_UP_PX && (
                <CloseUp evaluation={evaluation} stepId={last.step.id} ground={ground} width={width - 2} />
              )}
              {(['right', 'left'] as const).map((side) => (
                <Shown key={side} title={side === 'right' ? 'Right side, ground' : 'Left side, ground'}>
                  <SteelView
                    plan={plan}
                    stepId={last.step.id}
                    when="after"
                    face="top"
                    view="etched"
                    blade={side}
                    width={Math.round(ground.widthMm * sideScale)}
                    height={Math.round(ground.heightMm * sideScale)}
                    urgency={1}
                    label={`${side} side of the blade, ground`}
                  />
                </Shown>
              ))}
              <Legend view="etched" billets={[bar]} />
            </Stack>
          )}
        </Box>
      }
      numbers={<BladeNumbers bar={bar} blade={blade} change={change} evaluation={evaluation} />}
    />
  );
}

const BEVEL_PART_WAY = { bevelMm: (b: Blade) => b.bevel !== 'full' && b.edges === 1 };

interface NumbersProps extends OnBarProps {
  change(some: Partial<Blade>): void;
}

function BladeNumbers({ evaluation, bar, blade, change }: NumbersProps) {
  const reshape = (name: string) => {
    const profile = PROFILES.find((p) => p.name === name);
    // The sizes that were entered stay.
    if (profile) change({ name, outline: profile.outline.map(([u, v]) => [u, v]), edges: profile.edges });
  };
  const options = PROFILES.map((p) => [p.name, p.name] as const);
  const known = PROFILES.some((p) => p.name === blade.name);
  return (
    <Stack spacing={1.5} component="section" aria-label="The blade">
      <Typography variant="h2">The blade</Typography>
      <Choice
        label="Profile"
        value={blade.name}
        options={known ? options : [...options, [blade.name, blade.name] as const]}
        onChange={reshape}
      />
      <SchemaForm schema={bladeSchema} values={blade} change={change} when={BEVEL_PART_WAY} />
      <EdgesChoice edges={blade.edges} onChange={(edges) => change({ edges })} />
      <Fit evaluation={evaluation} bar={bar} blade={blade} />
      <Stack direction="row" useFlexGap spacing={1} sx={{ flexWrap: 'wrap' }}>
        <ImportOutline bar={bar} blade={blade} />
        <Button size="small" variant="contained" onClick={() => forgeTo(evaluation, bar, blade)}>
          {bar.blank ? 'Forge it to this blade' : 'Forge it to shape first'}
        </Button>
        <Button
          size="small"
          variant="outlined"
          onClick={() => editPlan((plan) => ({ ...plan, goal: barFor(bar, blade) }), 'goal from blade')}
        >
          Make this the finished bar wanted
        </Button>
        <Button size="small" onClick={() => setBlade(undefined, 'remove')}>
          Take the blade off
        </Button>
      </Stack>
      <FindingCard finding={CAUTIONS.edge()} />
    </Stack>
  );
}

/** The bar that a blade is ground out of, or the one that it was forged of: its length has just the steel for it. */
const barFor = (bar: Billet, blade: Blade): Goal =>
  bar.blank
    ? {
        lengthMm: Math.ceil(bar.blank.forged.barLengthMm),
        widthMm: bar.blank.was.widthMm,
        thicknessMm: bar.blank.was.heightMm,
      }
    : {
        lengthMm: blade.lengthMm + blade.tangLengthMm + 6,
        widthMm: blade.heightMm + 2,
        thicknessMm: blade.spineMm + 0.6,
      };

/** The forging to the shape of this blade: put at the end of the plan, or done anew where it stands there; the blade then lies where its blank is. */
function forgeTo({ goalLane, plan, shop }: Evaluation, bar: Billet, blade: Blade): void {
  const there = goalLane.steps.findLast(({ step }) => step.kind === 'shape');
  const parameters = there
    ? forgedAnew(there.step.parameters as ShapeParameters, blade, there.before[0], shop)
    : forgedOn(blade, bar, shop);
  const step = makeStepOf(there?.step.id ?? freshStepId(plan), 'shape', parameters);
  const steps = (of: Lane['steps']) => (there ? of.map((s) => (s.id === step.id ? step : s)) : [...of, step]);
  editPlan(
    (now) => ({
      ...now,
      blade: { ...blade, heelMm: blade.tangLengthMm + parameters.overMm, acrossMm: 0 },
      lanes: now.lanes.map((l) => (l.id === goalLane.lane.id ? { ...l, steps: steps(l.steps) } : l)),
    }),
    'forge the blade',
  );
}

/** Whether it fits, what the edge is, where the joints fall. */
function Fit({ evaluation, bar, blade }: OnBarProps) {
  const { shop, goalLane } = evaluation;
  const fit = bladeFit(bar, blade, shop);
  const short = (mm: number, what: string) =>
    mm < -0.01 ? [`${formatLength(-mm, shop.lengths)} short ${what}`] : [];
  const wrong = [
    ...short(fit.pastTipMm, 'at the tip'),
    ...short(fit.behindTangMm, 'behind the tang'),
    ...short(fit.besideMm, 'beside the blade'),
    ...short(fit.thickerMm, 'in thickness'),
  ];
  const edgeOf = Object.entries(fit.edge).sort((a, b) => b[1] - a[1]);
  const percents = wholePercents(edgeOf.map(([, share]) => share));
  const edge = edgeOf
    .map(([id], i) => `${materialById(shop.materials, id)?.name ?? id} ${percents[i]} %`)
    .join(', ');
  const last = goalLane.steps.at(-1)!;
  const carbon = judge(evaluation, last).figures.find((f) => f.id === 'edge carbon');
  const soft = findingsOf(evaluation, last).some((f) => f.code === 'needs a core');
  const joints = jointsIn(goalLane.steps, bar, blade, shop);
  return (
    <Box
      sx={{
        borderLeft: `4px solid ${wrong.length ? colours.amber : colours.verdigris}`,
        background: wrong.length ? colours.amberWash : colours.verdigrisWash,
        p: 1.25,
        borderRadius: '0 5px 5px 0',
      }}
      role="status"
    >
      <Stack direction="row" spacing={1}>
        {wrong.length ? (
          <WarningAmberIcon sx={{ color: colours.amber }} fontSize="small" />
        ) : (
          <CheckCircleIcon sx={{ color: colours.verdigris }} fontSize="small" />
        )}
        <span>
          {wrong.length > 0
            ? `The bar is ${wrong.join(', ')}.`
            : `It fits: ${formatLength(fit.pastTipMm, shop.lengths)} past the tip, ${formatLength(fit.behindTangMm, shop.lengths)} behind the tang.`}{' '}
          The edge is {edge || 'outside the bar'}
          {edge && carbon && (
            <>
              , <Asked figure={carbon} />
            </>
          )}
          {edge && soft ? ': not for an edge, use a core.' : '.'}
          {joints.length > 0 && ` Joints from the heel: ${joints.join(', ')}.`}
        </span>
      </Stack>
    </Box>
  );
}

/** Tile joints that fall in the blade, as distances from the heel on the middle of the bar. */
function jointsIn(
  steps: readonly StepResult[],
  bar: Billet,
  blade: Blade,
  shop: Evaluation['shop'],
): string[] {
  const laid = steps.find(({ step, after }) => after && moveOf(step.kind).joints);
  if (!laid) return [];
  const stretch = bar.lengthMm / laid.after![0].lengthMm;
  const { joints } = moveOf(laid.step.kind);
  return joints!(laid.before[0], laid.step.parameters, shop)
    .map((mm) => mm * stretch - blade.heelMm)
    .filter((mm) => mm > 0 && mm < blade.lengthMm)
    .map((mm) => formatLength(mm, shop.lengths));
}
