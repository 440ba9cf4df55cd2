import { type FigureId } from '../../../../core/words/figures.ts';
import { Box, Stack, ToggleButton, ToggleButtonGroup, Typography } from '@mui/material';
import { type ComponentProps, type ComponentType, useState } from 'react';
import { FACES, type FaceName, facePlane, tellingFace } from '../../../../core/billet/face.ts';
import { whereFrom } from '../../../../core/instruct/whereFrom.ts';
import type { Shop } from '../../../../core/shop/shop.ts';
import { type Billet, pieceName } from '../../../../core/billet/billet.ts';
import { judge, turnShown } from '../../../../core/judgement/index.ts';
import {
  type Evaluation,
  type LaneResult,
  type StepResult,
  flowingOf,
  heatsIn,
  leadsStraight,
} from '../../../../core/plan/index.ts';
import type { View } from '../../../../core/render/palette.ts';
import { formatLength } from '../../../../core/units/index.ts';
import type { WeldParameters } from '../../../../core/moves/forge/weld.ts';
import { type MoveKind, moveOf } from '../../../../core/moves/index.ts';
import { ArrangeView } from '../../benches/arrange/ArrangeView.tsx';
import { CanView } from '../../benches/canister/CanView.tsx';
import { EndsView } from '../../benches/ends/EndsView.tsx';
import { WillDo } from '../../benches/ends/WillDo.tsx';
import { TreatView } from '../../benches/kiln/TreatView.tsx';
import { PressView } from '../../benches/press/PressView.tsx';
import { SeamsView } from '../../benches/seams/SeamsView.tsx';
import { OnSection } from '../../benches/shape/OnSection.tsx';
import { ShapeView } from '../../benches/shape/ShapeView.tsx';
import { TilesView } from '../../benches/tiles/TilesView.tsx';
import { colours } from '../../ui/theme.ts';
import { Asked } from '../../ui/Asked.tsx';
import { DIMENSION_ROOM, Dimensioned } from '../../benches/steel/Dimensioned.tsx';
import { Legend } from '../../benches/steel/Legend.tsx';
import { SteelView } from '../../benches/steel/SteelView.tsx';
import { BarSide } from '../../benches/BarSide.tsx';
import { useEvaluation } from '../../document/useEvaluation.ts';
import { useSize } from '../../ui/useSize.ts';

interface Framed {
  title: string;
  face: FaceName;
  when: 'before' | 'after';
  piece: number;
  billet: Billet;
  widthMm: number;
  heightMm: number;
}

/** Faces stand side by side, unless one under another they are larger by so much. */
const WORTH_IT = 1.1;

const GAP = 20;
/** More frames than this beside each other have no figures but the first: they are alike in size. */
const MOST_SIZED = 3;
const HEADING = 30;

/** The largest scale (px per mm) at which all frames fit, side by side or one under another. */
function commonScale(frames: Framed[], stacked: boolean, width: number, height: number): number {
  if (frames.length === 0) return 0;
  const wide = (f: Framed) => f.widthMm;
  const high = (f: Framed) => f.heightMm;
  const sum = (of: (f: Framed) => number) => frames.reduce((total, f) => total + of(f), 0);
  const most = (of: (f: Framed) => number) => Math.max(...frames.map(of));
  const n = frames.length;
  const sized = stacked || n > MOST_SIZED ? 1 : n;
  const roomX = width - sized * DIMENSION_ROOM.right - (stacked ? 0 : (n - 1) * GAP);
  const roomY = height - (stacked ? n : 1) * (DIMENSION_ROOM.below + HEADING);
  return Math.max(
    0.05,
    Math.min(roomX / (stacked ? most(wide) : sum(wide)), roomY / (stacked ? sum(high) : most(high))),
  );
}

/** Less room than this is not worth another picture, px; nor is one hardly larger. */
const LEAST_CLOSER = 90;
const LARGER = 1.6;

/** The middle of a long bar as large as the room that its whole leaves; nothing where it leaves little. */
function closerLook(frames: Framed[], scale: number, room: { width: number; height: number }) {
  const frame = frames.find((f) => f.when === 'after');
  if (!frame) return null;
  const used = frames.reduce((sum, f) => sum + f.heightMm * scale + DIMENSION_ROOM.below + HEADING, 0);
  const height = Math.floor(room.height - used - HEADING);
  const larger = height / (frame.heightMm * scale);
  if (height < LEAST_CLOSER || larger < LARGER) return null;
  const width = Math.floor(Math.min(room.width, (frame.widthMm * height) / frame.heightMm));
  return { frame, width, height, title: `Its middle, ${larger.toFixed(1)} times as large` };
}

interface OwnView {
  readonly title: string;
  readonly View: ComponentType<BenchProps>;
}

/** Moves with a view of their own beside before and after. */
const OWN_VIEWS: Partial<Record<MoveKind, OwnView>> = {
  assemble: { title: 'Arrange', View: ArrangeView },
  tile: { title: 'Tiles', View: TilesView },
  can: { title: 'Canister', View: CanView },
  press: { title: 'Press', View: PressView },
  measure: { title: 'Ways on', View: EndsView },
  shape: { title: 'Blank', View: ShapeView },
  treat: { title: 'Program', View: TreatView },
};

/** A weld has one once something is asked about its seams. */
const ownView = ({ step, before }: StepResult): OwnView | undefined =>
  step.kind === 'weld' && (step.parameters as WeldParameters).seams && before[0]?.loose
    ? { title: 'Seams', View: SeamsView }
    : OWN_VIEWS[step.kind];

/** Whether the blade can be laid on the bar before a move that reshapes it. */
const bladeFollowed = (evaluation: Evaluation, { step }: StepResult): boolean =>
  evaluation.plan.blade !== undefined && heatsIn(step) > 0 && leadsStraight(evaluation, step.id);

/** What a move can be looked at by, beside before and after: what it is worked on with is the first. */
function viewsOf(evaluation: Evaluation, result: StepResult): OwnView[] {
  const named = ownView(result);
  if (named)
    return [named, ...(bladeFollowed(evaluation, result) ? [{ title: 'Blade on it', View: OnSection }] : [])];
  return [
    ...(flowingOf(result, evaluation.shop) ? [{ title: 'Press', View: PressView }] : []),
    ...(turnShown(evaluation, result) === null ? [] : [{ title: 'Ways on', View: EndsView }]),
    ...(bladeFollowed(evaluation, result) ? [{ title: 'Blade on it', View: OnSection }] : []),
    ...(result.step.kind === 'etch' ? [{ title: 'Will it do?', View: WillDo }] : []),
  ];
}

interface BenchProps {
  lane: LaneResult;
  result: StepResult;
}

/** The selected move, large: before and after, or the move's own view. */
export function Bench({ lane, result }: BenchProps) {
  const evaluation = useEvaluation();
  const views = viewsOf(evaluation, result);
  const [chosen, setShown] = useState<string | null>(null);
  const shown = views.find((v) => v.title === chosen) ?? (chosen === null ? ownView(result) : undefined);
  if (views.length === 0) return <BeforeAfter result={result} />;
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', minHeight: 0, height: '100%', gap: 0.75 }}>
      <ToggleButtonGroup
        size="small"
        exclusive
        value={shown?.title ?? FACES_SHOWN}
        onChange={(_, chosen: string | null) => chosen && setShown(chosen)}
        aria-label="What is shown"
      >
        {views.map(({ title }) => (
          <Toggle key={title} value={title} text={title} />
        ))}
        <Toggle value={FACES_SHOWN} text={FACES_SHOWN} />
      </ToggleButtonGroup>
      <Box sx={{ flex: 1, minHeight: 0 }}>
        {shown ? <shown.View lane={lane} result={result} /> : <BeforeAfter result={result} />}
      </Box>
    </Box>
  );
}

const FACES_SHOWN = 'Before and after';

/** Before and after the selected move, large and at one scale, with sizes; the bar from the side where it is sawn. */
function BeforeAfter({ result }: { result: StepResult }) {
  const { shop, plan } = useEvaluation();
  const [face, setFace] = useState<FaceName | 'telling'>('telling');
  const [view, setView] = useState<View>('etched');
  const [room, size] = useSize();
  const frames = framesOf(result, face, shop);
  const beside = commonScale(frames, false, size.width, size.height);
  const below = commonScale(frames, true, size.width, size.height);
  const stacked = below > WORTH_IT * beside;
  const scale = stacked ? below : beside;
  const closer = stacked ? closerLook(frames, scale, size) : null;
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', minHeight: 0, height: '100%', gap: 0.5 }}>
      <Stack direction="row" useFlexGap sx={{ justifyContent: 'space-between', flexWrap: 'wrap', gap: 1 }}>
        <ToggleButtonGroup
          size="small"
          exclusive
          value={face}
          onChange={(_, chosen: FaceName | 'telling' | null) => chosen && setFace(chosen)}
          aria-label="Face shown"
        >
          <Toggle value="telling" text="Best face" />
          {FACES.filter((name) => name !== 'level').map((name) => (
            <Toggle key={name} value={name} text={name[0].toUpperCase() + name.slice(1)} />
          ))}
        </ToggleButtonGroup>
        <ToggleButtonGroup
          size="small"
          exclusive
          value={view}
          onChange={(_, chosen: View | null) => chosen && setView(chosen)}
          aria-label="View"
        >
          <Toggle value="etched" text="Etched" />
          <Toggle value="materials" text="By material" />
        </ToggleButtonGroup>
      </Stack>
      <Box
        ref={room}
        sx={{
          flex: 1,
          minHeight: 220,
          overflow: 'hidden',
          display: 'flex',
          flexDirection: stacked ? 'column' : 'row',
          alignItems: 'flex-start',
          justifyContent: stacked ? 'flex-start' : 'center',
          gap: stacked ? 0 : `${GAP}px`,
        }}
      >
        {size.width > 0 &&
          frames.map((frame, i) => (
            <Box key={frame.when + String(frame.piece)}>
              <Typography
                variant="h3"
                component="h3"
                title={frame.title}
                sx={{
                  minHeight: HEADING - 2,
                  maxWidth: stacked
                    ? undefined
                    : frames.length > MOST_SIZED
                      ? Math.max(90, frame.widthMm * scale + (i > 0 ? 0 : DIMENSION_ROOM.right))
                      : Math.max(180, frame.widthMm * scale + DIMENSION_ROOM.right),
                }}
              >
                {frame.title}
              </Typography>
              <Sized
                plain={frames.length > MOST_SIZED && i > 0 && !stacked}
                width={frame.widthMm * scale}
                height={frame.heightMm * scale}
                across={formatLength(frame.widthMm, shop.lengths)}
                up={formatLength(frame.heightMm, shop.lengths)}
              >
                <SteelView
                  plan={plan}
                  stepId={result.step.id}
                  when={frame.when}
                  piece={frame.piece}
                  face={frame.face}
                  view={view}
                  width={Math.max(1, Math.round(frame.widthMm * scale))}
                  height={Math.max(1, Math.round(frame.heightMm * scale))}
                  urgency={frame.when === 'after' ? 0 : 1}
                  label={frame.title}
                />
              </Sized>
            </Box>
          ))}
        {closer && (
          <Box sx={{ alignSelf: 'stretch' }}>
            <Typography variant="h3" component="h3" sx={{ minHeight: HEADING - 2 }}>
              {closer.title}
            </Typography>
            <SteelView
              plan={plan}
              stepId={result.step.id}
              when="after"
              face={closer.frame.face}
              view={view}
              mostAspect={closer.width / closer.height}
              width={closer.width}
              height={closer.height}
              urgency={1}
              label={closer.title}
            />
          </Box>
        )}
        {frames.length === 0 && (
          <Typography color="text.secondary">There is nothing to show here yet.</Typography>
        )}
      </Box>
      <BarSide result={result} shop={shop} />
      <Stack
        direction="row"
        useFlexGap
        sx={{ flexWrap: 'wrap', columnGap: 3, justifyContent: 'space-between' }}
      >
        <Figures result={result} />
        <Legend view={view} billets={result.after ?? result.before} />
      </Stack>
    </Box>
  );
}

/** With its dimension lines, or without. */
const Sized = ({ plain, ...rest }: ComponentProps<typeof Dimensioned> & { plain: boolean }) =>
  plain ? <>{rest.children}</> : <Dimensioned {...rest} />;

const Toggle = ({ value, text, ...rest }: { value: string; text: string }) => (
  <ToggleButton
    {...rest}
    value={value}
    sx={{ py: 0.25, px: 1.1, textTransform: 'none', fontSize: '0.9rem', color: colours.ink }}
  >
    {text}
  </ToggleButton>
);

const faceOf = (billet: Billet, face: FaceName | 'telling'): FaceName =>
  face === 'telling' ? tellingFace(billet) : face;

/** So many pieces at most are shown each by itself. */
const MOST_SHOWN = 6;

/** Whether pieces lay side by side in the bar they were ripped from: then no one of them stands for the others. */
const areParts = (billets: readonly Billet[]): boolean =>
  billets.length > 1 &&
  billets.length <= MOST_SHOWN &&
  billets.every(
    (one) =>
      one.piece !== null &&
      one.piece.lane === undefined &&
      billets.some((other) => other !== one && other.piece?.fromMm === one.piece?.fromMm),
  );

/** Whether they were just cut from one bar that changes along its length. */
const changeAlong = ({ before, after }: StepResult): boolean =>
  before.length === 1 &&
  after !== null &&
  after.length > 1 &&
  after.length <= MOST_SHOWN &&
  after.some((b) => b.field.variesAlongZ);

/** Before and after show the same face: the one that tells most of what came, or the one chosen. */
function framesOf(result: StepResult, chosen: FaceName | 'telling', shop: Shop): Framed[] {
  const { step, before, after } = result;
  const [tells] = after ?? before;
  if (!tells) return [];
  const shown = faceOf(tells, chosen);
  const done = after ? moveOf(step.kind).does(before, step.parameters, shop) : [];
  const frame = (when: 'before' | 'after', billets: readonly Billet[] | null): Framed[] => {
    if (!billets?.[0]) return [];
    const unlike = areParts(billets) || (when === 'after' && changeAlong(result));
    const after = unlike
      ? before.length > 1
        ? 'After, part'
        : 'Part'
      : `After “${moveOf(step.kind).title}”`;
    const what = when === 'after' ? after : unlike ? 'Before, part' : 'Before';
    // What comes up when a bar is laid down after upsetting is what was in front.
    const upended = step.kind === 'upset' && chosen === 'telling' && when === 'before';
    const face = upended ? (step.parameters.up === 'B' ? 'end B' : 'end A') : shown;
    // Lengths cut from several parts are alike within each: its first stands for them.
    const each =
      when === 'after' && before.length > 1 && moveOf(step.kind).cuts ? billets.length / before.length : 1;
    return (unlike ? billets.filter((_, i) => i % each === 0) : billets.slice(0, 1)).map((billet, k) => {
      const piece = k * each;
      const name = pieceName(billet);
      const to = each > 1 ? ` to ${pieceName(billets[piece + each - 1])}` : '';
      const which = unlike
        ? `${each > 1 ? 's' : ''} ${name}${to}`
        : billets.length > 1
          ? `, one of ${billets.length}`
          : '';
      const from = when === 'after' ? whereFrom(done, name, face) : null;
      const title = from?.part
        ? `${what}${which}, ${from.part} · ${face}`
        : from?.face
          ? `After · ${face}, was ${from.face}`
          : `${what}${which} · ${face}`;
      const { widthMm, heightMm } = facePlane(billet, face);
      return { title, face, when, piece, billet, widthMm, heightMm };
    });
  };
  // What a move leaves as it is, is shown once.
  const same = after !== null && after.length === before.length && after.every((b, i) => b === before[i]);
  if (same) return frame('after', after).map((f) => ({ ...f, title: `As it is · ${f.face}` }));
  return [...frame('before', before), ...frame('after', after)];
}

/** What is shown under the steel; the rest stands among the numbers. */
const UNDER_THE_STEEL: readonly FigureId[] = [
  'length',
  'weight',
  'thinnest band',
  'lost to scale',
  'lost to grinding',
  'lost to kerf',
  'lost to crop',
  'lost to offcut',
  'lost to set aside',
];

/** Length, mass, what was lost here, and how fine the layers are. */
function Figures({ result }: { result: StepResult }) {
  const { figures } = judge(useEvaluation(), result);
  return (
    <Stack direction="row" useFlexGap sx={{ flexWrap: 'wrap', columnGap: 2.5 }}>
      {figures
        .filter((f) => UNDER_THE_STEEL.includes(f.id))
        .map((figure, i) => (
          <Typography key={i} variant="body2" color="text.secondary">
            {figure.what.toLowerCase()} <Asked figure={figure} />
          </Typography>
        ))}
    </Stack>
  );
}
