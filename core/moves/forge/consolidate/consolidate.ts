import { type Billet } from '../../../billet/billet.ts';
import { loseSkin } from '../../../billet/removal.ts';
import { type PressedCan, isFlat, mostEndMm, slenderness } from '../../../canister/consolidate.ts';
import type { FlowDone, FlowStage } from '../../../flow/run.ts';
import type { Shop } from '../../../shop/shop.ts';
import { formatFine, formatLength } from '../../../units/length.ts';
import { CAUTIONS, error, needsOneBar, note, scaleShare, warning } from '../../contract/common.ts';
import {
  type ConsolidateParameters as P,
  consolidateParameters as parameters,
  passCount,
  passesOf,
  pressedCan,
  pressedTo,
} from './consolidateByVolumes.ts';
import { canFlow, isEvenAlong, pressedByFlow } from './powderFlow.ts';
import { type Finding, defineMove } from '../../contract/move.ts';
import { cameTo } from '../usualOrFlow.ts';

/** mm. Larger passes dent the can, and a deep dent locks it on (handbook, canister: 1.5–3 mm a pass). */
const LARGEST_PASS_MM = 3;
/** More than a can ever gets. */
const MOST_PASSES = 400;
/** mm. The least first press that seats caps (common practice, no source). */
const SEATS_MM = 3;

/** Longer than this many times its least thickness a can buckles when it is pressed end to end: the first rule of upset forging says 3 of a solid bar (Metals Handbook vol. 14; value from memory), and the walls hold a little more. */
const MOST_SLENDER = 4;
/** Share of what can be taken end to end that is taken at first: the rest is for the sides. */
const FIRST_SHARE = 0.25;
const FIRST_END_MM = 5;

/** mm. So near to all that there is, an end-to-end press leaves nothing for the sides. */
const SOLID_MM = 0.05;

/** A first press that seats the caps and leaves emptiness for the sides; none of a can that would buckle, all of it of one that is flat. mm */
const firstEndMm = (can: PressedCan): number =>
  isFlat(can)
    ? mostEndMm(can)
    : slenderness(can) > MOST_SLENDER
      ? 0
      : Math.min(FIRST_END_MM, FIRST_SHARE * mostEndMm(can));

function adviseEnds(before: PressedCan, p: P, sidePasses: number, { lengths }: Shop): Finding[] {
  const most = mostEndMm(before);
  const slender = slenderness(before);
  if (slender > MOST_SLENDER)
    return p.endMm > 0
      ? [
          warning(
            'buckles',
            `The can is ${slender.toFixed(1)} times as long as it is thick: pressed end to end it buckles. Weld the caps all round and press its broad side first.`,
            { parameter: 'endMm', remedy: { label: 'No press end to end', set: { endMm: 0 } } },
          ),
        ]
      : [];
  if (isFlat(before))
    return p.endMm >= most - SOLID_MM
      ? []
      : [
          warning(
            'flat can',
            `The can is flat: ${formatLength(before.lengthMm, lengths)} from cap to cap. Pressed on its narrow sides it folds; press its broad sides, the caps, until it is solid.`,
            { parameter: 'endMm', remedy: { label: 'Press the caps alone', set: { endMm: most } } },
          ),
        ];
  const seats = Math.min(SEATS_MM, FIRST_SHARE * most);
  if (p.endMm < seats - 1e-9)
    return [
      warning('loose caps', 'Pressed on the sides first, loose caps pop. Press end to end first, a little.', {
        parameter: 'endMm',
        remedy: { label: `Press ${formatFine(seats, lengths)} end to end first`, set: { endMm: seats } },
      }),
    ];
  return sidePasses > 0
    ? []
    : [
        warning(
          'end takes all',
          `End to end ${formatFine(p.endMm, lengths)} take up all the emptiness there is: nothing is left to press on the sides, and they bulge instead.`,
          {
            parameter: 'endMm',
            remedy: {
              label: `Press ${formatFine(FIRST_SHARE * most, lengths)} end to end`,
              set: { endMm: FIRST_SHARE * most },
            },
          },
        ),
      ];
}

function advise(bar: Billet, p: P, shop: Shop, stage: FlowStage | null | undefined): Finding[] {
  const { before, solid, passes } = passesOf(bar, p);
  const findings = adviseEnds(before, p, passes.length, shop);
  if (p.passMm > LARGEST_PASS_MM)
    findings.push(
      warning(
        'deep dent',
        `Passes of ${formatFine(p.passMm, shop.lengths)} dent the can, and a deep dent locks it on.`,
        {
          parameter: 'passMm',
          remedy: {
            label: `Take ${formatFine(LARGEST_PASS_MM, shop.lengths)} a pass`,
            set: { passMm: LARGEST_PASS_MM },
          },
        },
      ),
    );
  if (p.reckoned === 'by flow') return [...findings, ...(stage?.ok ? flowed(stage) : [])];
  findings.push(
    note(
      'first order',
      `A prediction of first order: powder closes evenly to ${Math.round(100 * solid.scaleX)} % across and ${Math.round(100 * solid.scaleY)} % up; inserts keep their size and flatten where they meet.`,
    ),
  );
  return findings;
}

/** Denser than this everywhere the powder is taken as sound. */
const SOUND = 0.97;

/** What the flow says of the powder: how dense it became, and where it did not. */
function flowed(stage: FlowDone): Finding[] {
  const { meanDensity, leastDensity } = stage.report;
  const percent = (share: number) => `${(100 * Math.min(1, share)).toFixed(1)} %`;
  return [
    ...(leastDensity < SOUND
      ? [
          warning(
            'not solid',
            `At these stops the powder comes to ${percent(meanDensity)} of solid on average and ${percent(leastDensity)} where it is least, along the walls and in the corners: there it may not weld. Smaller stops at the end, or more heats.`,
            { parameter: 'passMm' },
          ),
        ]
      : []),
    note(
      'flow',
      `Worked out between the dies: powder ${percent(meanDensity)} of solid; what is left closes evenly.`,
    ),
  ];
}

export const consolidate = defineMove({
  kind: 'consolidate',
  title: 'Press solid',
  hint: 'heat a can through and press it until its powder is solid',
  group: 'Heat and press',
  begins: false,
  onPowder: true,
  parameters,
  tolls: ([bar], p) =>
    bar?.can?.loose
      ? [{ what: 'passes', count: passCount(bar, p), most: MOST_PASSES, parameter: 'passMm' }]
      : [],
  begin: ([bar], shop): P => ({
    endMm: bar?.can?.loose ? firstEndMm(pressedCan(bar)) : FIRST_END_MM,
    sides: 'two ways',
    passMm: 2.5,
    reckoned: 'by volumes',
    heats: 6,
    temperatureC: shop.forge.weldingC,
  }),
  needsFlow: true,
  check(before, p, shop, stage) {
    const missing = needsOneBar(before);
    if (missing.length > 0) return missing;
    const [bar] = before;
    if (!bar.can?.loose)
      return [error('no can', 'There is no loose can here: this presses the powder of a can solid.')];
    const most = mostEndMm(pressedCan(bar));
    if (p.endMm > most)
      return [
        error(
          'too far',
          `End to end it gives ${formatLength(most, shop.lengths)} at most: then it is solid.`,
          {
            parameter: 'endMm',
            remedy: {
              label: `Press ${formatFine(firstEndMm(pressedCan(bar)), shop.lengths)}`,
              set: { endMm: firstEndMm(pressedCan(bar)) },
            },
          },
        ),
      ];
    if (p.reckoned === 'by flow') {
      if (!isEvenAlong(bar))
        return [
          error(
            'not even',
            'Balls, offcuts, cut lengths, what bows along, cans in it and walls that are not a box differ along the can, or from the box that is worked out: they can only be closed by volumes.',
            {
              parameter: 'reckoned',
              remedy: { label: 'Close it by volumes', set: { reckoned: 'by volumes' } },
            },
          ),
        ];
      if (stage && !stage.ok)
        return [
          error('flow', `How the can flows could not be worked out: ${stage.why}${cameTo(stage, shop)}.`, {
            parameter: 'reckoned',
            remedy: { label: 'Close it by volumes', set: { reckoned: 'by volumes' } },
          }),
        ];
    }
    return [...advise(bar, p, shop, stage), CAUTIONS.fire(), CAUTIONS.press()];
  },
  apply([bar], p, shop, stage) {
    const solid =
      p.reckoned === 'by flow' ? pressedByFlow(bar, p, shop, stage as FlowDone) : pressedTo(bar, p, 1);
    const { billet, lost } = loseSkin(solid, scaleShare(p.heats, shop), shop);
    return { after: [billet], losses: [{ cause: 'scale', volumes: lost }], added: {} };
  },
  flows: ([bar], p, shop) =>
    bar?.can?.loose && p.reckoned === 'by flow' && isEvenAlong(bar) ? canFlow(bar, p, shop) : null,
  presses([bar], p, shop) {
    const { before, solid, passes } = passesOf(bar, p);
    const last = passes.at(-1);
    if (!last)
      return isFlat(before)
        ? {
            widthMm: Math.min(before.widthMm, before.heightMm),
            heightMm: solid.lengthMm + p.passMm,
            toHeightMm: solid.lengthMm,
            biteMm: Math.max(before.widthMm, before.heightMm),
          }
        : null;
    return {
      widthMm: last.side === 'height' ? before.widthMm : solid.heightMm,
      heightMm: last.stopMm + p.passMm,
      toHeightMm: last.stopMm,
      biteMm: shop.biteMm,
    };
  },
  closes: (p) => p,
  does([bar], p) {
    const { solid, passes, flatMm } = passesOf(bar, p);
    return [
      { do: 'soak', temperatureC: p.temperatureC, heats: p.heats },
      {
        do: 'press solid',
        endMm: p.endMm,
        ...(flatMm.length > 0 && { flatMm }),
        ways: p.sides,
        passes: passes.map(({ side, stopMm }) => ({ pressed: side, stopMm })),
        toMm: [solid.widthMm, solid.heightMm],
        longMm: solid.lengthMm,
        capMm: solid.capMm,
      },
    ];
  },
});
