import { figured } from '../words/figures.ts';
import type { Billet } from '../billet/billet.ts';
import { contactForceN } from '../billet/sectionFlow.ts';
import { biteForce, largestBite } from '../forging/force.ts';
import { materialById } from '../materials/material.ts';
import { totalVolume } from '../materials/volumes.ts';
import { type Shop, hotOf } from '../shop/shop.ts';
import { warning } from '../moves/contract/common.ts';
import { moveOf } from '../moves/index.ts';
import { flowingOf } from '../plan/index.ts';
import type { Finding } from '../moves/contract/move.ts';
import { formatForce } from '../units/force.ts';
import { formatFine, formatLength, formatSizes } from '../units/length.ts';
import { COMMON_PRACTICE, type Figure } from '../units/figure.ts';
import { formatTemperature } from '../units/temperature.ts';
import { type Case, type Judge, NOTHING_TO_SAY, heatsOf, heaviest } from './judgement.ts';

const KALPAKJIAN =
  'S. Kalpakjian and S. R. Schmid, Manufacturing Engineering and Technology, open-die forging; hot strength by the rows in the shop, carbon by Y. Misaka and T. Yoshimoto (1967); values from memory';

/** Flow stress of a billet: its materials' by their share of the volume, MPa. */
function billetStress(bar: Billet, atC: number, ratePerS: number, shop: Shop): number {
  const whole = totalVolume(bar.volumes);
  return Object.entries(bar.volumes).reduce((sum, [id, mm3]) => {
    const material = materialById(shop.materials, id);
    if (!material) return sum;
    const { cMPa, m } = hotOf(shop, material, atC);
    return sum + (mm3 / whole) * cMPa * ratePerS ** m;
  }, 0);
}

interface Squeeze {
  readonly forceKN: number;
  /** Along the bar at one bite: as the shop bites, or all of it at once. mm */
  readonly biteMm: number;
  /** The longest bite that the press's whole force moves here, mm. */
  readonly mostMm: number;
  readonly figure: Figure;
}

const squeezeOf = (subject: Case, bar: Billet): Squeeze | null =>
  flowedSqueeze(subject) ?? squeezed(subject, bar);

/** The force that the flow found at the end of its hardest pass: the same that is shown between the dies. */
function flowedSqueeze({ result, shop, flows }: Case): Squeeze | null {
  const flowing = result.flow?.ok ? flowingOf(result, shop) : null;
  if (!flowing) return null;
  const { bar, spec } = flowing;
  const passes = spec.passes.flatMap((_, i) => {
    const stage = flows.stageOf(spec, i + 1);
    return stage?.ok && stage.report.steps > 0
      ? [{ pass: i + 1, report: stage.report, forceKN: contactForceN(bar, stage.report, shop) / 1000 }]
      : [];
  });
  if (passes.length === 0) return null;
  const { pass, report, forceKN } = passes.reduce((a, b) => (b.forceKN > a.forceKN ? b : a));
  return {
    forceKN,
    biteMm: shop.biteMm,
    mostMm: (shop.press.ratingKN / forceKN) * shop.biteMm,
    figure: {
      ...figured('press force', forceKN),
      value: formatForce(forceKN, shop.masses),
      formula: 'force on the dies at the end of the hardest pass, to the mm of bite, as the section flows',
      inputs: [
        ['hardest pass', `${pass} of ${passes.length}`],
        ['contact', formatFine(report.contactMm, shop.lengths)],
        ['height after', formatLength(report.heightMm, shop.lengths)],
        ['bite', formatLength(shop.biteMm, shop.lengths)],
        ['heat', formatTemperature(shop.forge.weldingC, shop.temperatures)],
      ],
      source: KALPAKJIAN,
    },
  };
}

/** The formula of the handbooks, where the flow is not worked out. */
function squeezed(subject: Case, bar: Billet): Squeeze | null {
  const { result, shop } = subject;
  const bite = moveOf(result.step.kind).presses?.(result.before, result.step.parameters, shop);
  if (!bite) return null;
  const { atC } = heatsOf(subject);
  const { ramMmPerS, friction, ratingKN } = shop.press;
  const rate = ramMmPerS / bite.heightMm;
  const stressMPa = billetStress(bar, atC, rate, shop);
  const forceKN = biteForce(stressMPa, { ...bite, heightMm: bite.toHeightMm }, friction) / 1000;
  return {
    forceKN,
    biteMm: bite.biteMm,
    mostMm: largestBite(ratingKN * 1000, stressMPa, bite.widthMm, bite.toHeightMm, friction),
    figure: {
      ...figured('press force', forceKN),
      value: formatForce(forceKN, shop.masses),
      formula: 'F = 1.15 · Y · (1 + μb/2h) · b · w, Y = C · ε̇ᵐ',
      inputs: [
        ['bite b × width w', formatSizes([bite.biteMm, bite.widthMm], shop.lengths)],
        ['height after h', formatLength(bite.toHeightMm, shop.lengths)],
        ['heat', formatTemperature(atC, shop.temperatures)],
        ['strain rate ε̇', `${rate.toFixed(2)} /s (ram ${formatFine(ramMmPerS, shop.lengths)} a second)`],
        ['flow stress Y', `${stressMPa.toFixed(0)} MPa`],
        ['friction μ', String(friction)],
      ],
      source: KALPAKJIAN,
    },
  };
}

/** A force past what the press gives never reads as the same number. */
const forceSaid = (kN: number, ratingKN: number, { masses }: Shop): string => {
  const text = formatForce(kN, masses);
  return text === formatForce(ratingKN, masses) ? `a little more than ${text}` : text;
};

function weakFinding({ biteMm, mostMm: most, forceKN, figure }: Squeeze, shop: Shop): Finding[] {
  const { ratingKN } = shop.press;
  if (forceKN <= ratingKN) return [];
  const bitten = Math.abs(biteMm - shop.biteMm) < 1e-9;
  const label = Math.floor(most * 2) / 2;
  return [
    warning(
      'press weak',
      `This needs ${forceSaid(forceKN, ratingKN, shop)} and the press gives ${formatForce(ratingKN, shop.masses)}. It can squeeze ${formatLength(most, shop.lengths)} of the bar at a time here${bitten ? '' : ', and this move squeezes all of it at once'}.`,
      {
        why: figure,
        ...(bitten && label >= 1
          ? { remedy: { label: `Bites of ${formatLength(label, shop.lengths)}`, shop: { biteMm: label } } }
          : {}),
      },
    ),
  ];
}

/** Beside dies shorter than the seam the weld opens. */
function dieFinding({ result, shop }: Case, bar: Billet): Finding[] {
  if (!moveOf(result.step.kind).welds || !bar.loose || bar.lengthMm <= shop.press.dieLengthMm) return [];
  const { lengths } = shop;
  return [
    warning(
      'dies short',
      `The seam is ${formatLength(bar.lengthMm, lengths)} long and the dies ${formatLength(shop.press.dieLengthMm, lengths)}: beside them it opens while they set it. Work from the middle outward with light, overlapping bites, or weld shorter lengths.`,
      {
        why: {
          ...figured('seam past dies', bar.lengthMm - shop.press.dieLengthMm),
          value: formatLength(bar.lengthMm - shop.press.dieLengthMm, lengths),
          formula: 'seam − dies',
          inputs: [
            ['seam', formatLength(bar.lengthMm, lengths)],
            ['dies', formatLength(shop.press.dieLengthMm, lengths)],
          ],
          source: COMMON_PRACTICE,
        },
      },
    ),
  ];
}

export const judgePress: Judge = (subject) => {
  const { shop } = subject;
  const bar = heaviest(subject);
  if (!bar || shop.press.kind !== 'press') return NOTHING_TO_SAY;
  const squeeze = squeezeOf(subject, bar);
  if (!squeeze) return { figures: [], findings: dieFinding(subject, bar) };
  const { figure, mostMm } = squeeze;
  const largest: Figure = {
    ...figure,
    ...figured('largest bite', mostMm),
    value: formatLength(mostMm, shop.lengths),
    formula: `${figure.formula}, solved for the bite`,
    inputs: [['press', formatForce(shop.press.ratingKN, shop.masses)], ...figure.inputs.slice(1)],
  };
  return {
    figures: [figure, largest],
    findings: [...weakFinding(squeeze, shop), ...dieFinding(subject, bar)],
  };
};
