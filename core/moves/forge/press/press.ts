import { z } from 'zod';
import { type Action, care } from '../../../instruct/action.ts';
import { type Billet, sizeOf } from '../../../billet/billet.ts';
import { GridField } from '../../../billet/fields/grid.ts';
import { type Die, type DiePair, FLAT } from '../../../flow/dies.ts';
import { type FlowDone, type FlowPass, type FlowSpec, outlineAfter } from '../../../flow/run.ts';
import {
  betweenDies,
  frictionFactor,
  isTooFine,
  movesAlike,
  specFor,
  squaredUp,
} from '../../../billet/sectionFlow.ts';
import { heatAcross } from '../../../heat/across.ts';
import { formatTemperature } from '../../../units/temperature.ts';
import { TURNED_180 } from '../../../geometry/orientation.ts';
import { type Outline, leanOf, outlineSize } from '../../../geometry/outline.ts';
import { remembered } from '../../../remembered.ts';
import type { Shop } from '../../../shop/shop.ts';
import { formatFine, formatLength, formatSizes } from '../../../units/length.ts';
import {
  tilesOnBias,
  CAUTIONS,
  caution,
  degrees,
  error,
  heated,
  needsOneBar,
  needsWelded,
  note,
  radians,
  reshaped,
  warning,
} from '../../contract/common.ts';
import {
  MOST_SECTION_MM,
  angleDeg,
  choice,
  heats,
  lengthMm,
  lengthWithinMm,
  plainNumber,
} from '../../../units/quantities.ts';
import { acrossCorners } from '../lean.ts';
import { cameTo, tooFine } from '../usualOrFlow.ts';
import { resquare } from '../resquare.ts';
import { SEQUENCES, onCorners } from './sequences.ts';
import { type Finding, defineMove } from '../../contract/move.ts';

const on = z.enum(['both', 'above', 'below']);
const included = (least: number, most: number) => angleDeg('Angle of the die', least, most);

/** Dies that are not flat, by their shape: above, below (the other one flat) or both. */
export const DIES_SHAPED = {
  V: z.strictObject({ shape: z.literal('V'), on, angleDeg: included(60, 150) }),
  round: z.strictObject({ shape: z.literal('round'), on, radiusMm: lengthMm('Radius of the fuller', 200) }),
  wedge: z.strictObject({
    shape: z.literal('wedge'),
    on,
    angleDeg: included(20, 120),
    tipMm: lengthWithinMm('Radius of the tip', 2, 50, { fine: true }),
  }),
} as const;
const dies = z.discriminatedUnion('shape', [DIES_SHAPED.V, DIES_SHAPED.round, DIES_SHAPED.wedge]);

const friction = plainNumber('Friction', 0, 1);

/**
 * A turn (degrees, counter-clockwise on end B) and a stop height, or a share of the height instead of it. Dies are flat, and
 * friction and bite those of the whole step, unless the pass has its own.
 */
const pass = z.strictObject({
  turnDeg: angleDeg('Turn', -180, 180),
  toMm: lengthMm('Stop height', MOST_SECTION_MM, { fine: true }),
  takePercent: plainNumber('Or take', 0.5, 60, '%').optional(),
  dies: dies.optional(),
  stopsMm: lengthMm('Side stops', MOST_SECTION_MM).optional(),
  friction: friction.optional(),
  biteMm: lengthMm('Bite here', MOST_SECTION_MM, { shop: 'biteMm' }).optional(),
  afterS: plainNumber(
    'After the fire',
    0,
    120,
    's',
    'the skin is colder and harder than the middle then',
  ).optional(),
});

export type PressPass = z.infer<typeof pass>;
export type PressDies = z.infer<typeof dies>;

/**
 * Passes between dies, reckoned by the flow of the section. Friction factor 0…1. Along the bar the steel goes by the bite
 * (where nothing is said), not at all, or freely. Squared: the worn corners are filled as the
 * bar is squared up.
 */
const parameters = z.strictObject({
  passes: z.array(pass).min(1, 'At least one pass').max(24, 'At most 24 passes'),
  friction,
  held: z.boolean(),
  along: choice('Along the bar the steel goes', {
    'by the bite': 'by the bite, as it spreads',
    held: 'nowhere: the ends are held',
    free: 'freely: the whole bar is between the dies',
  }).optional(),
  finish: choice('Left', {
    squared: 'squared up, corners filled',
    'as pressed': 'as the dies leave it',
  }),
  heats,
});

export type PressParameters = z.infer<typeof parameters>;
type P = PressParameters;

const dieOf = (d: PressDies): Die =>
  d.shape === 'V'
    ? { kind: 'V', angleDeg: d.angleDeg }
    : d.shape === 'round'
      ? { kind: 'round', radiusMm: d.radiusMm }
      : { kind: 'wedge', angleDeg: d.angleDeg, tipMm: d.tipMm };

/** What a pass is pressed between; undefined for flat dies alone. */
function pairOf({ dies: d, stopsMm }: PressPass): DiePair | undefined {
  if (!d && stopsMm === undefined) return undefined;
  return {
    upper: d && d.on !== 'below' ? dieOf(d) : FLAT,
    lower: d && d.on !== 'above' ? dieOf(d) : FLAT,
    stopsMm: stopsMm ?? null,
  };
}

const flowPass = (p: PressPass): FlowPass => ({
  turnDeg: p.turnDeg,
  toMm: p.toMm,
  ...(p.takePercent !== undefined && { share: p.takePercent / 100 }),
  ...(pairOf(p) && { dies: pairOf(p) }),
  ...(p.friction !== undefined && { friction: p.friction }),
  ...(p.biteMm !== undefined && { biteMm: p.biteMm }),
  ...(p.afterS !== undefined && { afterS: p.afterS }),
});

/** All that decides how this bar flows. */
export const specOf = remembered((bar: Billet, p: P, shop: Shop): FlowSpec =>
  specFor(bar, p.passes.map(flowPass), shop, {
    friction: p.friction,
    held: p.held,
    ...(p.along && p.along !== 'by the bite' && { biteMm: p.along }),
  }),
);

function pressed(bar: Billet, p: P, shop: Shop, stage: FlowDone): Billet {
  const left = betweenDies(bar, specOf(bar, p, shop), stage);
  return p.finish === 'squared' ? squaredUp(left) : left;
}

/** Degrees. A first turn this near to 45° is a bias re-square. */
const BIAS_WITHIN_DEG = 8;

/** The same bar re-squared by the usual map, where the passes amount to that; null where they do not. */
export function usualOf(bar: Billet, p: P, shop: Shop, stage: FlowDone): Billet | null {
  const [first] = p.passes;
  if (
    p.finish !== 'squared' ||
    p.passes.length < 4 ||
    Math.abs(Math.abs(first.turnDeg) - 45) > BIAS_WITHIN_DEG
  )
    return null;
  const { widthMm, heightMm } = sizeOf(pressed(bar, p, shop, stage));
  // Turned by so many quarters more than the 45° of the usual one: its corner line lies on one diagonal or the other, either way up.
  const quarters = Math.round((p.passes.reduce((sum, q) => sum + q.turnDeg, 0) - 45) / 90);
  const way = ((quarters % 4) + 4) % 4;
  const usual = {
    turn: way % 2 === 0 ? ('left' as const) : ('right' as const),
    sideMm: Math.sqrt(widthMm * heightMm),
    errorDeg: 0,
    heats: 0,
  };
  if (resquare.check([bar], usual, shop).some((f) => f.severity === 'error')) return null;
  const [made] = resquare.apply([bar], usual, shop).after;
  if (way === 0 || way === 3) return made;
  const half = usual.sideMm / 2;
  const cell = { field: made.field, orientation: TURNED_180, lengthMm: made.lengthMm };
  return { ...made, field: GridField.of([-half, half], [-half, half], [cell]) };
}

/** Share of its box that a section must fill to be called square or flat once its corners are filled. */
const NEARLY_SQUARE = 0.9;
/** An element this much smaller than it was no longer tells the picture. */
const SPENT = 0.12;

/** Degrees. A section that leans less is called upright. */
const LEANS_DEG = 1;

/** By how much it leans, and what takes it out (handbook, mechanics: rhombus). */
function leans(outline: Outline, p: P, shop: Shop): Finding[] {
  const lean = degrees(leanOf(outline));
  if (Math.abs(lean) < LEANS_DEG) return [];
  const ground = outlineSize(outline).heightMm * Math.tan(Math.abs(radians(lean)));
  const { toMm } = acrossCorners(outline, -lean);
  const text = `The section leans ${Math.abs(lean).toFixed(1)}° to the ${lean > 0 ? 'right' : 'left'}, and more with every flat pass. Ground upright it loses ${formatFine(ground, shop.lengths)} of its width; or tip it the other way and press those corners to about ${formatLength(toMm, shop.lengths)}.`;
  return [
    p.finish === 'squared'
      ? warning('leans', text, { parameter: 'passes' })
      : note('leans', text, { parameter: 'passes' }),
  ];
}

function advise(bar: Billet, p: P, stage: FlowDone, spec: FlowSpec, shop: Shop): Finding[] {
  const { report } = stage;
  const findings: Finding[] = [];
  if (report.worstElement < SPENT)
    findings.push(
      warning(
        'elements spent',
        'The section is worked so hard in places that the picture there is not to be trusted: fewer or lighter passes.',
        {
          parameter: 'passes',
        },
      ),
    );
  const after = outlineSize(outlineAfter(spec, stage));
  const fills = report.areaMm2 / (after.widthMm * after.heightMm);
  if (p.finish === 'squared' && fills < NEARLY_SQUARE)
    findings.push(
      warning(
        'not square yet',
        `The section fills only ${Math.round(100 * fills)} % of its box: to fill its corners takes more passes.`,
        { parameter: 'finish', remedy: { label: 'Leave it as pressed', set: { finish: 'as pressed' } } },
      ),
    );
  if (!p.held)
    findings.push(note('free', 'Not held, a tipped bar rolls onto its flat.', { parameter: 'held' }));
  findings.push(...leans(outlineAfter(spec, stage), p, shop));
  if (isTooFine(bar, spec, after.heightMm)) findings.push(tooFine());
  if (movesAlike(bar, shop))
    findings.push(
      note(
        'move alike',
        `At ${formatTemperature(shop.forge.weldingC, shop.temperatures)} these steels move alike within a tenth, by the shop’s table and for their carbon by Misaka and Yoshimoto’s law: worked out as one.`,
      ),
    );
  findings.push(...unevenHeat(bar, p, shop));
  findings.push(
    note(
      'flow',
      `Worked out between the dies: ${formatSizes([after.widthMm, after.heightMm], shop.lengths)}, corners filled to ${Math.round(100 * fills)} %.`,
    ),
  );
  return findings;
}

/** °C by which skin and middle must differ to be told. */
const UNEVEN_K = 20;

/** How uneven the heat is under the dies, of the pass that comes latest after its fire. */
function unevenHeat(bar: Billet, p: P, shop: Shop): Finding[] {
  const seconds = Math.max(0, ...p.passes.map((q) => q.afterS ?? 0));
  if (seconds === 0) return [];
  const at = heatAcross(bar.outline, shop.forge.weldingC, seconds);
  const skin = bar.outline.flatMap(([x, y], i) => {
    const [x1, y1] = bar.outline[(i + 1) % bar.outline.length];
    return [at(x, y), at((x + x1) / 2, (y + y1) / 2)];
  });
  const [middle, warmest, coldest] = [at(0, 0), Math.max(...skin), Math.min(...skin)];
  if (middle - coldest < UNEVEN_K) return [];
  const told = (c: number) => formatTemperature(c, shop.temperatures);
  return [
    note(
      'uneven heat',
      `${seconds} s after the fire, as the bar comes in, the middle is at ${told(middle)}, the skin at ${told(warmest)}, at its coldest ${told(coldest)}, and so much harder. What the dies chill is not in it.`,
      { parameter: 'passes' },
    ),
  ];
}

export const press = defineMove({
  kind: 'press',
  title: 'Press, pass by pass',
  short: 'Press',
  hint: 'turn and press as you please; the flow of the section is worked out',
  group: 'Heat and press',
  begins: false,
  parameters,
  begin(before, shop): P {
    const { widthMm, heightMm } = before[0] ? sizeOf(before[0]) : { widthMm: 40, heightMm: 40 };
    const round = (mm: number) => Math.round(mm * 10) / 10;
    return {
      passes: SEQUENCES['quarter star: bias re-square']
        .passes(widthMm, heightMm)
        .map((q) => ({ ...q, toMm: round(q.toMm) })),
      friction: frictionFactor(shop),
      held: true,
      finish: 'squared',
      heats: 2,
    };
  },
  needsFlow: true,
  check(before, p, shop, stage) {
    const missing = [...needsOneBar(before), ...needsWelded(before)].slice(0, 1);
    if (missing.length > 0) return missing;
    const [bar] = before;
    const spec = specOf(bar, p, shop);
    if (stage && !stage.ok)
      return [
        error('flow', `How the section flows could not be worked out: ${stage.why}${cameTo(stage, shop)}.`, {
          parameter: 'passes',
        }),
      ];
    return [
      ...(stage ? advise(bar, p, stage, spec, shop) : []),
      ...(onCorners(p.passes) ? tilesOnBias(before) : []),
      CAUTIONS.fire(),
      CAUTIONS.press(),
      ...(onCorners(p.passes)
        ? [
            caution(
              'tip',
              'A bar tipped on its corner rolls onto its flat unless it is held: stand where a kick of the handle does not reach you.',
            ),
          ]
        : []),
    ];
  },
  apply(before, p, shop, stage) {
    const { after, losses } = heated(
      reshaped(before, (bar) => pressed(bar, p, shop, stage as FlowDone)),
      p.heats,
      shop,
    );
    return { after, losses, added: {} };
  },
  flows: ([bar], p, shop) => (bar ? { bar, spec: specOf(bar, p, shop) } : null),
  beside([bar], p, shop, stage) {
    const usual = bar && stage?.ok ? usualOf(bar, p, shop, stage) : null;
    return usual && { usual, flowed: pressed(bar, p, shop, stage as FlowDone) };
  },
  turnedOff(p, deg) {
    const tips = p.passes.findIndex((q) => q.turnDeg % 90 !== 0);
    if (tips < 0) return null;
    return {
      ...p,
      passes: p.passes.map((q, i) => (i === tips ? { ...q, turnDeg: q.turnDeg + deg } : q)),
    };
  },
  does: (_before, p) => [
    { do: 'hold', held: p.held, along: p.along ?? 'by the bite', heats: p.heats },
    ...p.passes.flatMap(({ turnDeg, ...pass }, i): Action[] => [
      ...(turnDeg === 0
        ? []
        : [
            {
              do: 'turn',
              about: 'length',
              deg: Math.abs(turnDeg),
              way: turnDeg > 0 ? 'counter-clockwise' : 'clockwise',
            } as const,
          ]),
      { do: 'press', pass: i + 1, ...pass },
    ]),
    ...(p.finish === 'squared' ? care('squared up') : []),
  ],
});
