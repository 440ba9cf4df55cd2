import { z } from 'zod';
import { choice } from '../../units/quantities.ts';
import { type Billet, sizeOf, stretched } from '../../billet/billet.ts';
import type { FlowDone, FlowPass, FlowRefused, FlowStage } from '../../flow/run.ts';
import {
  betweenDies,
  isTooFine,
  sectionDifference,
  shapedTo,
  specFor,
  squaredUp,
} from '../../billet/sectionFlow.ts';
import { isRectangle, outlineArea, scaleOutline } from '../../geometry/outline.ts';
import { common, regionArea } from '../../geometry/regions.ts';
import { remembered } from '../../remembered.ts';
import type { Shop } from '../../shop/shop.ts';
import { formatFine } from '../../units/length.ts';
import { error, heated, note, reshaped, warning } from '../contract/common.ts';
import { type Finding, type Flowing } from '../contract/move.ts';

/**
 * How a move is reckoned that has a usual map and could be pressed in passes: by the usual map (also where nothing is said), by
 * the flow of the section, or by the flow only where it differs visibly from the usual.
 */
export const reckoned = choice('The section flows', {
  usual: 'as such bars usually do',
  'where it shows': 'worked out, where it shows',
  'by flow': 'worked out for this bar',
}).optional();

/** Share of the section on which usual and flow must differ to be told apart by eye. */
const SHOWS = 0.03;
/** How a share of the section is said. */
export const shareSaid = (share: number): string => `${(100 * share).toFixed(share < 0.1 ? 1 : 0)} %`;

/** Share of the corners that must be filled for a section to be called pressed to its size. */
const FILLED = 0.94;

/** That the elements are too coarse for a bar's bands. */
export const tooFine = (): Finding =>
  note(
    'coarse',
    'The bands are finer than the elements of the flow: their unlike strength is taken together.',
  );

/** How far the dies came before it could not be, to go behind the reason; nothing where they did not move. */
export const cameTo = ({ heightMm }: FlowRefused, shop: Shop): string =>
  heightMm === undefined ? '' : `. It came as far as ${formatFine(heightMm, shop.lengths)}`;

const AS_USUAL = { label: 'Show it as such bars usually flow', set: { reckoned: 'usual' } } as const;

interface Reckoned {
  readonly heats: number;
  readonly reckoned?: z.infer<typeof reckoned>;
}

/** A move with a usual map: what it makes of a hot bar, and the passes that come to the same. */
export interface WithUsual<P extends Reckoned> {
  usual(bar: Billet, parameters: P, shop: Shop): Billet;
  passes(bar: Billet, parameters: P, shop: Shop): FlowPass[];
}

/** The bar a move comes to, and what is to be said of how it was reckoned. */
interface Choice {
  readonly bar: Billet;
  readonly findings: readonly Finding[];
}

/** The choice between usual and flow for a move that has both. */
export function reckoning<P extends Reckoned>(move: WithUsual<P>) {
  /** The bar as it goes between the dies, its scale fallen. */
  const hot = remembered((bar: Billet, p: P, shop: Shop): Billet => heated([bar], p.heats, shop).after[0]);
  const flowing = remembered((bar: Billet, p: P, shop: Shop): Flowing => {
    const there = hot(bar, p, shop);
    return { bar: there, spec: specFor(there, move.passes(there, p, shop), shop) };
  });

  /** The flow's bar brought to the size that the usual has. */
  function byFlow({ bar, spec }: Flowing, stage: FlowDone, usual: Billet): Billet {
    const left = betweenDies(bar, spec, stage);
    const shaped = isRectangle(usual.outline) ? squaredUp(left) : shapedTo(left, usual.outline);
    const [is, wanted] = [sizeOf(shaped), sizeOf(usual)];
    return stretched(shaped, wanted.widthMm / is.widthMm, wanted.heightMm / is.heightMm);
  }

  /** What the flow's corners lack at the size asked for. */
  function short({ bar, spec }: Flowing, stage: FlowDone, usual: Billet): Finding[] {
    if (!isRectangle(usual.outline)) {
      const left = betweenDies(bar, spec, stage).outline;
      const grow = Math.sqrt(outlineArea(left) / outlineArea(usual.outline));
      const share = regionArea(common([left], [scaleOutline(usual.outline, grow, grow)])) / outlineArea(left);
      if (share >= FILLED) return [];
      return [
        note(
          'corners blunt',
          `As pressed, ${Math.round(100 * (1 - share))} % of the section still lies beside this shape, at its blunt corners; they are shown filled.`,
        ),
      ];
    }
    const fills = outlineArea(spec.outline) / stage.lengthening / outlineArea(usual.outline);
    if (fills >= FILLED) return [];
    return [
      warning(
        'corners unfilled',
        `Pressed down to this size the corners are filled to ${Math.round(100 * fills)} % only. Go on to about ${Math.round(100 * Math.sqrt(fills))} % of this size and they are full.`,
      ),
    ];
  }

  const usualOf = remembered((bar: Billet, p: P, shop: Shop): Billet =>
    move.usual(hot(bar, p, shop), p, shop),
  );

  function choose(bar: Billet, p: P, shop: Shop, stage: FlowStage): Choice {
    const flow = flowing(bar, p, shop);
    const usual = usualOf(bar, p, shop);
    if (!stage.ok)
      return {
        bar: usual,
        findings: [
          warning(
            'flow',
            `How the section flows could not be worked out (${stage.why}${cameTo(stage, shop)}): what such bars usually do is shown.`,
            { parameter: 'reckoned', remedy: AS_USUAL },
          ),
        ],
      };
    const flowed = byFlow(flow, stage, usual);
    const differs = sectionDifference(usual, flowed);
    const percent = shareSaid(differs);
    const shows = p.reckoned === 'by flow' || differs >= SHOWS;
    return {
      bar: shows ? flowed : usual,
      findings: [
        note(
          'reckoned',
          shows
            ? `Worked out for this bar: it differs from what such bars usually do on ${percent} of the section.`
            : `Shown as such bars usually flow: worked out, this one differs on ${percent} of the section only.`,
        ),
        ...(shows ? short(flow, stage, usual) : []),
        ...(shows && isTooFine(bar, flow.spec, sizeOf(usual).heightMm) ? [tooFine()] : []),
      ],
    };
  }

  const chosen = remembered<Billet, P, FlowStage, WeakMap<Shop, Choice>>(() => new WeakMap());
  /** Null where the usual way of flowing is shown, and as long as the flow is not known. */
  function choiceOf(bar: Billet, p: P, shop: Shop, stage: FlowStage | null | undefined): Choice | null {
    if ((p.reckoned ?? 'usual') === 'usual' || !stage) return null;
    const kept = chosen(bar, p, stage);
    const choice = kept.get(shop) ?? choose(bar, p, shop, stage);
    kept.set(shop, choice);
    return choice;
  }

  return {
    /** The bars after their heats and the move; by the usual map as long as the flow is not known, and where they are several. */
    made: (before: readonly Billet[], p: P, shop: Shop, stage?: FlowStage | null): Billet[] =>
      reshaped(
        before,
        (bar) => (before.length === 1 && choiceOf(bar, p, shop, stage)?.bar) || usualOf(bar, p, shop),
      ),

    /** What there is to say of it, an error where it cannot be reckoned so. */
    findings(before: readonly Billet[], p: P, shop: Shop, stage?: FlowStage | null): Finding[] {
      if ((p.reckoned ?? 'usual') === 'usual') return [];
      if (before.length > 1) {
        const text =
          'How a section flows is worked out for one bar at a time: several pieces are shown as such bars usually flow.';
        if (p.reckoned === 'where it shows') return [note('pieces', text, { parameter: 'reckoned' })];
        return [
          error('pieces', text, {
            parameter: 'reckoned',
            remedy: AS_USUAL,
          }),
        ];
      }
      return [...(choiceOf(before[0], p, shop, stage)?.findings ?? [])];
    },

    beside(
      before: readonly Billet[],
      p: P,
      shop: Shop,
      stage: FlowStage | null,
    ): { usual: Billet; flowed: Billet } | null {
      const [bar] = before;
      if (before.length !== 1 || (p.reckoned ?? 'usual') === 'usual' || !stage?.ok) return null;
      const flow = flowing(bar, p, shop);
      const usual = usualOf(bar, p, shop);
      return { usual, flowed: byFlow(flow, stage, usual) };
    },

    flows: (before: readonly Billet[], p: P, shop: Shop): Flowing | null =>
      before.length === 1 && (p.reckoned ?? 'usual') !== 'usual' ? flowing(before[0], p, shop) : null,
  };
}
