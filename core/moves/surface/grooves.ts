import { z } from 'zod';
import { care } from '../../instruct/action.ts';
import { type Billet, sizeOf } from '../../billet/billet.ts';
import { layerTilt } from '../../billet/layerTilt.ts';
import { MappedField } from '../../billet/fields/mapped.ts';
import { shareOut } from '../../billet/split.ts';
import { Grooving, type Grooves, depthsAt } from '../../geometry/maps/grooving.ts';
import { outlineArea, rectangle } from '../../geometry/outline.ts';
import { subtractVolumes } from '../../materials/volumes.ts';
import type { Shop } from '../../shop/shop.ts';
import { formatFine, formatLength } from '../../units/length.ts';
import { CAUTIONS, error, heated, needsSoundBar, note, radians, warning } from '../contract/common.ts';
import {
  MOST_LENGTH_MM,
  MOST_SECTION_MM,
  angleDeg,
  choice,
  heats,
  lengthMm,
} from '../../units/quantities.ts';
import { defineMove } from '../contract/move.ts';

/** Grooves or dimples in the top face where nothing else is said, ground and forged flat, or pressed and ground flat. mm, degrees. */
const parameters = z.strictObject({
  pattern: choice('Pattern', {
    across: 'Grooves straight across',
    diagonal: 'Slanting grooves',
    dimples: 'Rows of dimples',
  }),
  face: choice('In', {
    top: 'The top',
    bottom: 'The bottom',
    'both in step': 'Both faces, opposite one another',
    'both offset': 'Both faces, half a step apart',
  }).optional(),
  how: choice('Made by', {
    ground: 'Grinding, then forged flat',
    pressed: 'Pressing, then ground flat',
  }),
  depthMm: lengthMm('Depth', MOST_SECTION_MM, { fine: true }),
  widthMm: lengthMm('Width', MOST_SECTION_MM, { fine: true }),
  pitchMm: lengthMm('Every', MOST_LENGTH_MM),
  slantDeg: angleDeg('Slant', -60, 60, 'More than 0: the right end of each nearer end A'),
  heats,
});

type P = z.infer<typeof parameters>;

const groovesOf = (p: P): Grooves => ({
  pattern: p.pattern,
  depthMm: p.depthMm,
  widthMm: p.widthMm,
  pitchMm: p.pitchMm,
  slantRad: p.pattern === 'diagonal' ? radians(p.slantDeg) : 0,
  top: p.face !== 'bottom',
  bottomShiftMm:
    p.face === 'bottom' || p.face === 'both in step' ? 0 : p.face === 'both offset' ? p.pitchMm / 2 : null,
});

const facesOf = (p: P): 1 | 2 => (p.face?.startsWith('both') ? 2 : 1);

/** Degrees between layer normal and face normal from which grooves only shift the picture (handbook, geometry). */
const ON_EDGE_DEG = 60;

/** Share of the thickness beyond which a groove cuts the bar in two rather than patterning it (common practice, no source). */
const TOO_DEEP = 0.5;

/** Ground out and forged flat: what lay under the grooves comes up. */
function groundFlat(bar: Billet, p: P, shop: Shop) {
  const { widthMm, heightMm } = sizeOf(bar);
  const grooves = groovesOf(p);
  const map = new Grooving(grooves, heightMm, widthMm);
  const kept = outlineArea(bar.outline) * bar.lengthMm * (map.toThicknessMm / heightMm);
  const [volumes] = shareOut(bar, shop, [kept, outlineArea(bar.outline) * bar.lengthMm - kept], (x, y, z) => {
    const { top, bottom } = depthsAt(grooves, x, z);
    return y > heightMm / 2 - top || y < bottom - heightMm / 2 ? 1 : 0;
  });
  return { map, toMm: map.toThicknessMm, volumes };
}

/** Pressed in and ground down to the bottom of the grooves: what bulged between them goes. */
function pressedFlat(bar: Billet, p: P, shop: Shop) {
  const { widthMm, heightMm } = sizeOf(bar);
  const grooves = groovesOf(p);
  const forging = new Grooving(grooves, heightMm, widthMm);
  const toMm = heightMm - facesOf(p) * p.depthMm;
  const sinks = (p.depthMm * ((grooves.top ? 1 : 0) - (grooves.bottomShiftMm === null ? 0 : 1))) / 2;
  const share = toMm / forging.toThicknessMm;
  const whole = outlineArea(bar.outline) * bar.lengthMm;
  // The bar is drawn to the mean thickness by the pressing; the map back is the forging map turned round.
  const meanMm = forging.toThicknessMm;
  const map = {
    usesZ: true,
    forward(points: Parameters<Grooving['forward']>[0]) {
      for (let i = 0; i < points.count; i++) points.y[i] *= meanMm / heightMm;
      forging.backward(points);
      for (let i = 0; i < points.count; i++) points.y[i] += sinks;
    },
    backward(points: Parameters<Grooving['forward']>[0]) {
      for (let i = 0; i < points.count; i++) points.y[i] -= sinks;
      forging.forward(points);
      for (let i = 0; i < points.count; i++) points.y[i] *= heightMm / meanMm;
    },
  };
  const lengthening = heightMm / meanMm;
  const pressed: Billet = {
    ...bar,
    outline: rectangle(widthMm, heightMm),
    lengthMm: bar.lengthMm * lengthening,
  };
  const field = new MappedField(
    bar.field.through({ kx: 1, ky: 1, kz: 1 / lengthening, tx: 0, ty: 0, tz: 0 }),
    map,
  );
  const [volumes] = shareOut(bar, shop, [whole * share, whole * (1 - share)], (x, y, z) => {
    const at = {
      x: Float64Array.of(x),
      y: Float64Array.of(y),
      z: Float64Array.of(z * lengthening),
      count: 1,
    };
    map.forward(at);
    return Math.abs(at.y[0]) > toMm / 2 ? 1 : 0;
  });
  return { field, toMm, volumes, lengthMm: pressed.lengthMm };
}

const facesSaid = (p: P): 'top' | 'bottom' | 'both' =>
  facesOf(p) === 2 ? 'both' : p.face === 'bottom' ? 'bottom' : 'top';

export const grooves = defineMove({
  kind: 'grooves',
  title: 'Grooves or dimples',
  short: 'Grooves',
  hint: 'ladder, slanting grooves or rows of dimples in one face or both, made flat again',
  group: 'Surface',
  begins: false,
  parameters,
  repeatMm: (_after, p) => p.pitchMm,
  begin: (before) => {
    const depth = before[0] ? Math.max(0.5, Math.round(sizeOf(before[0]).heightMm * 2) / 10) : 2;
    return {
      pattern: 'across' as const,
      how: 'ground' as const,
      depthMm: depth,
      widthMm: 6,
      pitchMm: 12,
      slantDeg: 30,
      heats: 1,
    };
  },
  check(before, p, shop) {
    const missing = needsSoundBar(before);
    if (missing.length > 0) return missing;
    const { heightMm } = sizeOf(before[0]);
    const most = (TOO_DEEP * heightMm) / facesOf(p);
    if (p.depthMm > most)
      return [
        error(
          'too deep',
          `The bar is ${formatLength(heightMm, shop.lengths)} thick: grooves may be at most ${facesOf(p) === 2 ? 'a quarter of it deep on each face' : 'half of it deep'}.`,
          {
            parameter: 'depthMm',
            remedy: {
              label: `${formatFine(most, shop.lengths)} deep`,
              set: { depthMm: most },
            },
          },
        ),
      ];
    if (p.widthMm > p.pitchMm)
      return [
        error('overlap', 'The grooves run into one another: the pitch must be at least the groove width.', {
          parameter: 'pitchMm',
          remedy: { label: 'Widen the pitch', set: { pitchMm: p.widthMm } },
        }),
      ];
    const tilt = layerTilt(before[0]);
    const words = `Layers lie ${Math.round(tilt)}° to the face here.`;
    return [
      tilt >= ON_EDGE_DEG
        ? warning(
            'on edge',
            `${words} On layers that stand on edge grooves do nothing but shift the picture a little; save the steel.`,
            { parameter: 'pattern' },
          )
        : note('layers', `${words} Grooves bring lower layers up to the face.`),
      CAUTIONS.grinder(),
      CAUTIONS.press(),
    ];
  },
  apply([before], p, shop) {
    const { after, losses } = heated([before], p.heats, shop);
    const [bar] = after;
    const { widthMm } = sizeOf(bar);
    const done =
      p.how === 'ground'
        ? (() => {
            const { map, toMm, volumes } = groundFlat(bar, p, shop);
            return { field: new MappedField(bar.field, map), toMm, volumes, lengthMm: bar.lengthMm };
          })()
        : pressedFlat(bar, p, shop);
    const grooved: Billet = {
      ...bar,
      outline: rectangle(widthMm, done.toMm),
      lengthMm: done.lengthMm,
      field: done.field,
      volumes: done.volumes,
      bandMm: (bar.bandMm * done.toMm) / sizeOf(bar).heightMm,
      jacket: null,
    };
    const ground = subtractVolumes(bar.volumes, done.volumes);
    return {
      after: [grooved],
      losses: [...losses, { cause: 'grinding' as const, volumes: ground }],
      added: {},
    };
  },
  does([before], p, shop) {
    const { widthMm, heightMm } = sizeOf(heated([before], p.heats, shop).after[0]);
    const { pattern, how, depthMm, widthMm: wideMm, pitchMm, slantDeg, heats } = p;
    const grooves = groovesOf(p);
    const { toThicknessMm } = new Grooving(grooves, heightMm, widthMm);
    const hollows = {
      do: 'groove',
      pattern,
      how,
      depthMm,
      widthMm: wideMm,
      markMm: how === 'pressed' ? (pitchMm * toThicknessMm) / heightMm : pitchMm,
      pitchMm,
      slantDeg,
      top: grooves.top,
      bottomShiftMm: grooves.bottomShiftMm,
      heats,
    } as const;
    if (how === 'pressed')
      return [
        hollows,
        ...care('let cool'),
        { do: 'grind to the hollows', toMm: heightMm - facesOf(p) * depthMm, faces: facesSaid(p) },
      ];
    return [
      hollows,
      ...care('bottoms round'),
      { do: 'forge flat', toMm: toThicknessMm, heats },
      ...care('high parts down'),
    ];
  },
});
