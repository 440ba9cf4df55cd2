import { figured } from '../words/figures.ts';
import { type Billet, sizeOf } from '../billet/billet.ts';
import { bandsOf, thinnestBandMm } from '../billet/bands.ts';
import { countCodes } from '../billet/fields/field.ts';
import { isRectangle } from '../geometry/outline.ts';
import { carbonDiffusivity } from '../heat/diffusion.ts';
import { type Material, materialById } from '../materials/material.ts';
import { warning } from '../moves/contract/common.ts';
import { type Finding, moveOf } from '../moves/index.ts';
import { heatsIn } from '../plan/index.ts';
import { formatFine, formatLength, formatSizes } from '../units/length.ts';
import { BY_GEOMETRY, type Figure } from '../units/figure.ts';
import { formatTime } from '../units/time.ts';
import { leastBandMm, resolvedMm } from '../geometry/acuity.ts';
import { soakOf } from './fire.ts';
import { type Case, type Judge, heatsOf, heaviest } from './judgement.ts';

type Some = Readonly<Record<string, unknown>>;

const bandAfter = (result: Case['result']): number => Math.min(...result.after.map(thinnestBandMm));

function bandFigure(band: number, { shop, result }: Case): Figure {
  const least = leastBandMm(shop.viewingMm);
  return {
    ...figured('thinnest band', band),
    value: formatFine(band, shop.lengths),
    formula: 'd / |∇(n · back)|: the layer, thinned along its own normal; seen from 2 · distance · tan 1′',
    inputs: [
      ...finest(result.after[0], shop),
      ['looked at from', formatLength(shop.viewingMm, shop.lengths)],
      ['the eye resolves', formatFine(resolvedMm(shop.viewingMm), shop.lengths)],
      ['seen as bands from', formatFine(least, shop.lengths)],
    ],
    source: 'definition of visual acuity 6/6 (20/20): one minute of arc',
  };
}

/** A twentieth of the steel is in thinner layers than this. */
function finest(bar: Billet | undefined, shop: Case['shop']): [string, string][] {
  const bands = bar && bandsOf(bar);
  return bands ? [['a twentieth of it is under', formatFine(bands.fifthPercentMm, shop.lengths)]] : [];
}

/** How many layers lie in the bar, where they all run one way. */
function layersFigure({ result, shop }: Case): Figure[] {
  const [bar] = result.after;
  const across = bar && bandsOf(bar)?.across;
  if (!bar || !across || across < 1.5) return [];
  const { widthMm, heightMm } = sizeOf(bar);
  return [
    {
      ...figured('layers', Math.round(across)),
      value: String(Math.round(across)),
      formula: 'counted on a line across them; more than 256 by layers to the mm × the bar’s size that way',
      inputs: [['section', formatSizes([widthMm, heightMm], shop.lengths)]],
      source: 'counted where they lie',
    },
  ];
}

/** The stack that the lane begins with, with fewer and thicker layers, so that its bands come out wide enough. */
function fewerLayers({ lane }: Case, times: number) {
  const [first] = lane.lane.steps;
  const coarser = first && moveOf(first.kind).coarser?.(first.parameters, times);
  if (!coarser) return {};
  const { layers, set } = coarser;
  return { remedy: { label: `Begin with ${layers} layers`, set: set as Some, step: first.id } };
}

/** Said where the bands first fall under what the eye tells apart. */
function fineFinding(subject: Case, figure: Figure): Finding[] {
  const { shop, result, lane, at } = subject;
  const least = leastBandMm(shop.viewingMm);
  const band = bandAfter(result);
  const earlier = lane.steps[at - 1]?.after;
  if (band >= least || (earlier && earlier.some((b) => thinnestBandMm(b) < least))) return [];
  return [
    warning(
      'fine',
      `The thinnest bands are ${formatFine(band, shop.lengths)} now; from ${formatLength(shop.viewingMm, shop.lengths)} away they read as grey below ${formatFine(least, shop.lengths)}. Fewer layers, or fewer rounds.`,
      { why: figure, ...fewerLayers(subject, least / band) },
    ),
  ];
}

/** √(Σ D·t) over all heats up to this step: each its soak and five minutes at heat. mm. */
function carbonReach(subject: Case): { reachMm: number; seconds: number } {
  let sum = 0;
  let seconds = 0;
  subject.lane.steps.slice(0, subject.at + 1).forEach((result, at) => {
    if (!result.after) return;
    const here: Case = { ...subject, at, result: { ...result, after: result.after } };
    const { heats, atC } = heatsOf(here);
    const bar = heaviest(here);
    if (heats === 0 || !bar) return;
    const t = heats * (soakOf(bar, atC, subject.shop) / 2 + AT_HEAT_S);
    seconds += t;
    sum += carbonDiffusivity(atC) * t;
  });
  return { reachMm: 1000 * Math.sqrt(sum), seconds };
}

/** s at full heat in each heat, beside half of the soak (common practice, no source). */
const AT_HEAT_S = 300;
/** Mass %: materials whose nickel, chromium and manganese differ by less show a difference by carbon alone. */
const ALIKE_BUT_CARBON = 0.3;
const TONES_APART = 0.15;

const byCarbonAlone = (a: Material, b: Material): boolean =>
  Math.abs(a.tone - b.tone) >= TONES_APART &&
  (['Ni', 'Cr', 'Mn', 'Cu'] as const).every(
    (e) => Math.abs((a.composition[e] ?? 0) - (b.composition[e] ?? 0)) < ALIKE_BUT_CARBON,
  );

function diffusion(subject: Case): { figure: Figure | null; findings: Finding[] } {
  const { shop, result } = subject;
  if (heatsOf(subject).heats === 0) return { figure: null, findings: [] };
  const { reachMm, seconds } = carbonReach(subject);
  const band = bandAfter(result);
  const figure: Figure = {
    ...figured('carbon spreads', reachMm),
    value: formatFine(reachMm, shop.lengths),
    formula: '√(Σ D·t), D = 2.3×10⁻⁵ exp(−148 kJ/mol / RT) m²/s',
    inputs: [
      ['time hot so far', formatTime(seconds)],
      ['counted', 'half of each soak, and 5 min at heat'],
      ['thinnest band', formatFine(band, shop.lengths)],
    ],
    source: 'W. D. Callister, Materials Science and Engineering, diffusion data; values from memory',
  };
  const there = Object.keys(result.after[0].volumes)
    .filter((id) => result.after[0].volumes[id] > 0)
    .map((id) => materialById(shop.materials, id)!);
  const carried = there.some((a) =>
    there.some((b) => Math.abs(a.tone - b.tone) >= TONES_APART && !byCarbonAlone(a, b)),
  );
  const pair = there
    .flatMap((a, i) => there.slice(i + 1).map((b) => [a, b] as const))
    .find(([a, b]) => byCarbonAlone(a, b));
  if (!pair || carried || band > 2 * reachMm || wasSaid(subject)) return { figure, findings: [] };
  return {
    figure,
    findings: [
      warning(
        'carbon alone',
        `${pair[0].name} and ${pair[1].name} differ in carbon alone, and carbon has wandered ${formatFine(reachMm, shop.lengths)} in the fire: bands of ${formatFine(band, shop.lengths)} come out alike. Nickel, chromium or manganese keep a pattern.`,
        { why: figure, ...withNickel(subject, pair) },
      ),
    ],
  };
}

/** The paler of the two exchanged for a nickel steel in the lane's stack. */
function withNickel({ lane }: Case, [a, b]: readonly [Material, Material]) {
  const [first] = lane.lane.steps;
  const pale = a.tone > b.tone ? a : b;
  const set = first && moveOf(first.kind).exchanged?.(first.parameters, pale.id, '15n20');
  return set ? { remedy: { label: `15N20 for ${pale.name}`, set: set as Some, step: first.id } } : {};
}

/** Whether the bands were that thin, after that many heats, one heat earlier already. */
function wasSaid(subject: Case): boolean {
  const at = subject.lane.steps.findLastIndex((s, i) => i < subject.at && heatsIn(s.step) > 0);
  const before = subject.lane.steps[at];
  if (!before?.after) return false;
  const earlier: Case = { ...subject, at, result: { ...before, after: before.after } };
  return bandAfter(earlier.result) <= 2 * carbonReach(earlier).reachMm;
}

/** Share of a face from which it counts as one layer. */
const ONE_LAYER = 0.9;
const FACE_POINTS = 300;
const FACES = { topMm: [0, 1], bottomMm: [0, -1], leftMm: [-1, 0], rightMm: [1, 0] } as const;
type FaceName = keyof typeof FACES;

/** The material that most of a bar is made of at a depth below a face, and its share there. */
function commonest(
  bar: Billet,
  [nx, ny]: readonly [number, number],
  depthMm: number,
): [code: number, share: number] {
  const { widthMm, heightMm } = sizeOf(bar);
  const reach = (nx !== 0 ? widthMm : heightMm) / 2 - depthMm;
  const counts = countCodes(bar.field, ({ x, y, z }) => {
    for (let i = 0; i < FACE_POINTS; i++) {
      const beside = 0.9 * (((i * 0.618034) % 1) - 0.5);
      x[i] = nx !== 0 ? nx * reach : beside * widthMm;
      y[i] = ny !== 0 ? ny * reach : beside * heightMm;
      z[i] = bar.lengthMm * (((i * 0.754878) % 1) * 0.9 + 0.05);
    }
    return FACE_POINTS;
  });
  const [code, n] = [...counts].reduce((a, b) => (b[1] > a[1] ? b : a));
  return [code, n / FACE_POINTS];
}

/** mm. Just under a face. */
const SKIN_MM = 1e-3;
/** Depths looked at on the way down, and then how often the way is halved. */
const DEPTHS = 24;
const HALVINGS = 12;

/** How thick the one layer is that makes a face, mm; null where several meet it, or where so much ground off leaves some of it. */
function lostLayer(bar: Billet, face: FaceName, depthMm: number): number | null {
  if (depthMm <= SKIN_MM) return null;
  const [code, share] = commonest(bar, FACES[face], SKIN_MM);
  if (share < ONE_LAYER) return null;
  const isThere = (mm: number) => {
    const [there, part] = commonest(bar, FACES[face], mm);
    return there === code && part > 0.5;
  };
  const depths = Array.from({ length: DEPTHS }, (_, i) => (depthMm * (i + 1)) / DEPTHS);
  const below = depths.find((mm) => !isThere(mm));
  if (below === undefined) return null;
  let gone = below;
  let there = gone - depthMm / DEPTHS;
  for (let i = 0; i < HALVINGS; i++) {
    const middle = (there + gone) / 2;
    if (isThere(middle)) there = middle;
    else gone = middle;
  }
  return gone;
}

/** A face ground deeper than the one layer that makes it. A jacket, meant to go, is not spoken of. */
function groundAway({ result, shop }: Case): Finding[] {
  const [bar] = result.before;
  const p = moveOf(result.step.kind).grinds?.(result.step.parameters);
  if (!p || !isRectangle(bar.outline) || bar.jacket) return [];
  const lost = (Object.keys(FACES) as FaceName[]).flatMap((face) => {
    const layer = lostLayer(bar, face, p[face]);
    return layer === null ? [] : [{ face, layer }];
  });
  if (lost.length === 0) return [];
  const [{ face, layer }] = lost;
  const set = Object.fromEntries(lost.map((l) => [l.face, Math.floor(50 * l.layer) / 100]));
  return [
    warning(
      'ground away',
      `${formatFine(p[face], shop.lengths)} off a face whose outermost layer is ${formatFine(layer, shop.lengths)}: that layer is gone, and the picture is no longer even on both sides.`,
      {
        parameter: face,
        remedy: { label: `Take ${formatFine(set[face], shop.lengths)}`, set },
        why: {
          ...figured('outermost layer', layer),
          value: formatFine(layer, shop.lengths),
          formula: 'where, below the face, another steel begins',
          inputs: [['ground off', formatFine(p[face], shop.lengths)]],
          source: BY_GEOMETRY,
        },
      },
    ),
  ];
}

export const judgePattern: Judge = (subject) => {
  if (subject.result.after.length === 0) return { figures: [], findings: [] };
  const band = bandFigure(bandAfter(subject.result), subject);
  const { figure, findings } = diffusion(subject);
  return {
    figures: [band, ...layersFigure(subject), ...(figure ? [figure] : [])],
    findings: [...fineFinding(subject, band), ...findings, ...groundAway(subject)],
  };
};
