import { figured } from '../words/figures.ts';
import {
  HANDLES,
  MILD_YIELD_MPA,
  type Handle,
  handleBears,
  handleMoment,
  leastHandleMm,
  yieldLeft,
} from '../forging/handle.ts';
import { massKg } from '../materials/volumes.ts';
import type { Shop } from '../shop/shop.ts';
import { warning } from '../moves/contract/common.ts';
import { formatFine, formatLength } from '../units/length.ts';
import { formatMass } from '../units/mass.ts';
import type { Figure } from '../units/figure.ts';
import { formatTemperature } from '../units/temperature.ts';
import { type Judge, NOTHING_TO_SAY, heatsOf, heaviest } from './judgement.ts';

const handleInUse = (shop: Shop): Handle =>
  shop.handles.find((h) => h.name === shop.handle) ?? shop.handles[0] ?? HANDLES[0];

/** Whether the handle bends under the billet with a glowing root. */
export const judgeHandle: Judge = (subject) => {
  const { shop } = subject;
  const bar = heaviest(subject);
  if (!bar || heatsOf(subject).heats === 0) return NOTHING_TO_SAY;
  const handle = handleInUse(shop);
  const kg = massKg(bar.volumes, shop.materials);
  const moment = handleMoment(kg, bar.lengthMm / 2);
  const bears = handleBears(handle, shop.handleRootC);
  const least = leastHandleMm(handle.shape, moment, shop.handleRootC);
  const figure: Figure = {
    ...figured('least handle', least),
    value: `${formatFine(least, shop.lengths)} ${handle.shape}`,
    formula: `2·m·g·d = ${MILD_YIELD_MPA} MPa · k(T) · Z, Z = ${handle.shape === 'round' ? 'πd³/32' : 'a³/6'}`,
    inputs: [
      ['billet', formatMass(kg, shop.masses)],
      ['weld to its middle', formatLength(bar.lengthMm / 2, shop.lengths)],
      ['bending at the weld', `${moment.toFixed(1)} N·m`],
      [
        'root',
        `${formatTemperature(shop.handleRootC, shop.temperatures)}, ${(100 * yieldLeft(shop.handleRootC)).toFixed(0)} % of its strength left`,
      ],
      [handle.name, `bears ${bears.toFixed(1)} N·m`],
    ],
    source: 'yield in the heat: EN 1993-1-2, table 3.1, values from memory',
  };
  if (moment <= bears) return { figures: [figure], findings: [] };
  const enough = shop.handles
    .filter((h) => handleBears(h, shop.handleRootC) >= moment)
    .sort((a, b) => handleBears(a, shop.handleRootC) - handleBears(b, shop.handleRootC))[0];
  return {
    figures: [figure],
    findings: [
      warning(
        'handle light',
        `${handle.name} bends under ${formatMass(kg, shop.masses)} when its root is at ${formatTemperature(shop.handleRootC, shop.temperatures)}: it wants at least ${formatFine(least, shop.lengths)}${enough ? '' : ', and none of the shop’s handles is so heavy'}. A bent handle spoils the next re-square.`,
        {
          why: figure,
          ...(enough ? { remedy: { label: `Use ${enough.name}`, shop: { handle: enough.name } } } : {}),
        },
      ),
    ],
  };
};
