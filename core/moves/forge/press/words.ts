import type { Shop } from '../../../shop/shop.ts';
import { exactLength } from '../../../units/length.ts';
import type { PressPass } from './press.ts';

const DIE_WORDS = {
  V: 'V dies',
  round: 'round fullers',
  wedge: 'wedges',
} as const;

/** A pass in words, with all that is its own. */
export function passWords(p: PressPass, i: number, shop: Shop): string {
  const { dies: d } = p;
  const size =
    d &&
    (d.shape === 'V'
      ? `of ${d.angleDeg}°`
      : d.shape === 'round'
        ? `of ${exactLength(d.radiusMm, shop.lengths)} radius`
        : `of ${d.angleDeg}° with a tip of ${exactLength(d.tipMm, shop.lengths)} radius`);
  const where = d && (d.on === 'both' ? 'above and below' : `${d.on}, the other die flat`);
  const after = p.afterS ? `${p.afterS} s after it left the fire ` : '';
  const how = [
    ...(d ? [`between ${DIE_WORDS[d.shape]} ${size} ${where}`] : []),
    ...(p.stopsMm === undefined ? [] : [`side stops ${exactLength(p.stopsMm, shop.lengths)} apart`]),
    ...(p.biteMm === undefined ? [] : [`in bites of ${exactLength(p.biteMm, shop.lengths)}`]),
    ...(p.friction === undefined ? [] : [`the dies so slick that their friction factor is ${p.friction}`]),
  ];
  const far =
    p.takePercent === undefined
      ? `to ${exactLength(p.toMm, shop.lengths)}`
      : `by ${p.takePercent} % of the height it then has`;
  return `Pass ${i + 1}: ${after}press ${[far, ...how].join(', ')}.`;
}
