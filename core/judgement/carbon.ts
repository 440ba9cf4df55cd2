import { figured } from '../words/figures.ts';
import { type Billet, sizeOf } from '../billet/billet.ts';
import { countCodes } from '../billet/fields/field.ts';
import { contains } from '../geometry/outline.ts';
import { wholePercents } from '../units/percent.ts';
import { bladeFit } from '../blade/ground.ts';
import { materialById } from '../materials/material.ts';
import { massByMaterial } from '../materials/volumes.ts';
import { type Shop, codedMaterial } from '../shop/shop.ts';
import { CAUTIONS, warning } from '../moves/contract/common.ts';
import type { Finding } from '../moves/contract/move.ts';
import type { Figure } from '../units/figure.ts';
import type { Case, Judge } from './judgement.ts';

/** Mass % below which an edge does not harden enough (handbook, heat: "not for an edge: use a core"). */
const EDGE_CARBON = 0.6;
const EDGE_POINTS = 400;
/** mm. Depth of the region at a bar's edge, and share of its thickness about the middle. */
const EDGE_DEPTH_MM = 3;
const EDGE_SHARE = 0.3;

type Shares = Readonly<Record<string, number>>;

/** Mass % of carbon of shares (of mass) of materials: after the welding heats it is one and the same within a millimetre. */
export const carbonOf = (shares: Shares, shop: Shop): number => {
  const whole = Object.values(shares).reduce((sum, s) => sum + s, 0);
  return Object.entries(shares).reduce(
    (sum, [id, share]) => sum + (share / whole) * (materialById(shop.materials, id)?.composition.C ?? 0),
    0,
  );
};

function carbonFigure(id: 'average carbon' | 'edge carbon', shares: Shares, shop: Shop): Figure {
  const there = Object.entries(shares).filter(([, share]) => share > 0);
  const percents = wholePercents(there.map(([, share]) => share));
  return {
    ...figured(id, carbonOf(shares, shop)),
    value: `${carbonOf(shares, shop).toFixed(2)} % C`,
    formula: 'Σ share of the mass × its carbon',
    inputs: there.map(([id], i) => {
      const m = materialById(shop.materials, id)!;
      return [m.name, `${percents[i]} % × ${(m.composition.C ?? 0).toFixed(2)} % C`];
    }),
    source:
      'carbon evens out between thin layers (see how far carbon spreads); compositions of the material table',
  };
}

/**
 * What lies along the edges of a bar: the better of the two, about the middle of the thickness. Only steel that is there is asked:
 * a round bar has none in the corners of its box, and a jacket comes off again.
 */
function edgeShares(bar: Billet, shop: Shop): Shares {
  const { widthMm: outside, heightMm } = sizeOf(bar);
  const widthMm = outside - 2 * (bar.jacket?.sideMm ?? 0);
  const side = (sign: 1 | -1): Shares => {
    const counts = countCodes(bar.field, ({ x, y, z }) => {
      let asked = 0;
      for (let i = 0; i < EDGE_POINTS; i++) {
        x[asked] = sign * (widthMm / 2 - EDGE_DEPTH_MM * ((i * 0.618034) % 1) - 1e-6);
        y[asked] = heightMm * EDGE_SHARE * (((i * 0.754878) % 1) - 0.5);
        z[asked] = bar.lengthMm * (((i + 0.5) / EDGE_POINTS) % 1);
        if (contains(bar.outline, x[asked], y[asked])) asked++;
      }
      return asked;
    });
    const shares: Record<string, number> = {};
    for (const [code, n] of counts) if (code > 0) shares[codedMaterial(shop, code).id] = n;
    return shares;
  };
  const [right, left] = [side(1), side(-1)];
  if (Object.keys(left).length === 0) return right;
  return Object.keys(right).length > 0 && carbonOf(right, shop) >= carbonOf(left, shop) ? right : left;
}

function edgeFinding(subject: Case, figure: Figure, carbon: number): Finding[] {
  if (carbon >= EDGE_CARBON) return [];
  return [
    warning(
      'needs a core',
      `The edge would have ${carbon.toFixed(2)} % carbon; below ${EDGE_CARBON} % it does not hold an edge: use a core or an edge strip of a known steel.`,
      {
        why: figure,
        ...(subject.result.after[0].loose || subject.result.after[0].blank
          ? {}
          : {
              remedy: {
                label: 'Lay an edge strip of 80CrV2',
                insertBefore: 'laminate',
                parameters: { where: 'along one edge', material: '80crv2', thicknessMm: 8 },
              },
            }),
      },
    ),
  ];
}

export const judgeCarbon: Judge = (subject) => {
  const { result, shop, finished } = subject;
  const [bar] = result.after;
  if (!bar) return { figures: [], findings: [] };
  const average = carbonFigure('average carbon', massByMaterial(bar.volumes, shop.materials), shop);
  if (!finished) return { figures: [average], findings: [] };
  const { blade } = finished;
  const cautions = blade ? [CAUTIONS.edge()] : [];
  const shares = blade ? bladeFit(bar, blade, shop).edge : edgeShares(bar, shop);
  if (Object.keys(shares).length === 0) return { figures: [average], findings: [...cautions] };
  const edge = carbonFigure('edge carbon', shares, shop);
  return {
    figures: [average, edge],
    findings: [...edgeFinding(subject, edge, carbonOf(shares, shop)), ...cautions],
  };
};
