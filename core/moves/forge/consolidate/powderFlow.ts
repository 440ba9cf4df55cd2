import type { Billet } from '../../../billet/billet.ts';
import { MappedField } from '../../../billet/fields/mapped.ts';
import { gauge } from '../../../billet/fields/canned.ts';
import { passesTo, solidCan } from '../../../canister/consolidate.ts';
import { type FlowDone, type FlowSpec, mapAfter, outlineAfter } from '../../../flow/run.ts';
import { exponentOf, frictionFactor, inTurns } from '../../../billet/sectionFlow.ts';
import { squaring } from '../../../geometry/maps/squaring.ts';
import { boundingBox, moveOutline, outlineSize, rectangle } from '../../../geometry/outline.ts';
import { totalVolume } from '../../../materials/volumes.ts';
import { remembered } from '../../../remembered.ts';
import type { Shop } from '../../../shop/shop.ts';
import { SAME_PLACE } from '../../../billet/fields/field.ts';
import { type ConsolidateParameters, pressedCan, pressedTo } from './consolidateByVolumes.ts';
import type { Flowing } from '../../contract/move.ts';

/** Cells each way over which a can's section is told to be powder or solid. */
const CELLS = 48;
/** Points asked in each cell, each way. */
const ASKED = 3;

/** Times round at the last stops. */
const FINISHING = 3;

/** Whether the section is the same all along, so that one section's flow is the whole can's. */
export const isEvenAlong = (bar: Billet): boolean => {
  const { parts, inside, cans } = bar.can!.loose!;
  return (
    inside === undefined &&
    !cans &&
    parts.spots.every((s) => !s.ball && !s.wire && s.halfZ === undefined && !s.teeth && !s.bowedAlong)
  );
};

/** How a loose can's section flows when its sides are pressed in turn, after the first press end to end, which goes by volumes. */
export const canFlow = remembered((bar: Billet, p: ConsolidateParameters, shop: Shop): Flowing => {
  const before = pressedCan(bar);
  const depth = before.lengthMm - 2 * before.capMm;
  const share = Math.min(1, p.endMm / (depth * (1 - before.fillFactor)));
  const seated = pressedTo(bar, p, share);
  const { widthMm, heightMm } = outlineSize(seated.outline);
  const solid = solidCan(before, p);
  // A side that is not pressed bulges: at the last stops the can is turned and pressed again until little is left to close.
  const finish = (['height', 'width'] as const)
    .filter((side) => p.sides === 'two ways' || side === 'height')
    .map((side) => ({ side, stopMm: side === 'height' ? solid.heightMm : solid.widthMm }));
  const stops = [
    ...passesTo({ ...before, widthMm, heightMm }, solid, p.sides, p.passMm),
    ...Array.from({ length: FINISHING }, () => finish).flat(),
  ];
  return {
    bar: seated,
    spec: {
      outline: rectangle(widthMm, heightMm),
      passes: inTurns(stops),
      exponent: exponentOf(bar, shop),
      friction: frictionFactor(shop),
      // The caps hold the ends: nothing goes along.
      biteMm: 'held',
      held: true,
      strength: null,
      density: densityOf(bar, p, share),
    },
  };
});

/** Share of solid over the section once the caps are seated: wall and inserts whole, the rest powder. */
function densityOf(bar: Billet, p: ConsolidateParameters, share: number): FlowSpec['density'] {
  const { parts, insertMm3 } = bar.can!.loose!;
  const before = pressedCan(bar);
  const solid = solidCan(before, p, share);
  const room = 4 * parts.halfWidthMm * parts.halfHeightMm * (parts.toMm - parts.fromMm);
  const left = room - insertMm3;
  const closed = left > 0 ? (left - bar.can!.poresMm3) / (left - share * bar.can!.poresMm3) : 1;
  const [w, h] = [solid.insideWidthMm / 2, solid.insideHeightMm / 2];
  const swell = Math.sqrt((parts.toMm - parts.fromMm) / solid.depthMm);
  const n = CELLS * ASKED;
  const sums = new Array<number>(CELLS * CELLS).fill(0);
  for (let j = 0; j < n; j++)
    for (let i = 0; i < n; i++) {
      const x = ((i + 0.5) / n - 0.5) * solid.widthMm;
      const y = ((j + 0.5) / n - 0.5) * solid.heightMm;
      const inWall = Math.abs(x) > w || Math.abs(y) > h;
      const whole =
        inWall ||
        parts.spots.some(
          (s) =>
            gauge(
              {
                ...s,
                x: s.x * solid.scaleX,
                y: s.y * solid.scaleY,
                halfX: s.halfX * swell,
                halfY: s.halfY * swell,
              },
              x,
              y,
              0,
            ) < 1,
        );
      sums[Math.floor(j / ASKED) * CELLS + Math.floor(i / ASKED)] += whole ? 1 : closed;
    }
  return { size: CELLS, values: sums.map((s) => Math.round((1e4 * s) / ASKED ** 2) / 1e4) };
}

/** The can pressed solid by the flow of its section; what pores the flow leaves are closed evenly at the end. */
export function pressedByFlow(bar: Billet, p: ConsolidateParameters, shop: Shop, stage: FlowDone): Billet {
  const { bar: seated, spec } = canFlow(bar, p, shop);
  const flowed = outlineAfter(spec, stage);
  const box = boundingBox(flowed);
  const [tx, ty] = [(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2];
  const areaMm2 = totalVolume(bar.volumes) / seated.lengthMm;
  const { map, widthMm, heightMm } = squaring(moveOutline(flowed, -tx, -ty), areaMm2);
  const mapped = new MappedField(seated.field, mapAfter(spec, stage)).through({ ...SAME_PLACE, tx, ty });
  const solid = solidCan(pressedCan(bar), p);
  return {
    ...seated,
    outline: rectangle(widthMm, heightMm),
    field: new MappedField(mapped, map),
    loose: false,
    jacket: bar.jacket && { ...bar.jacket, sideMm: solid.wallXMm, topMm: solid.wallYMm },
    can: { poresMm3: 0, capAMm: seated.can!.capAMm, capBMm: seated.can!.capBMm, loose: null },
  };
}
