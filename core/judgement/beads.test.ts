import { describe, expect, it } from 'vitest';
import { allSteps, evaluate, sayStep, withRemedy } from '../plan/index.ts';
import { type Move, cutInto, fourWay, planOf, stackOf, weldIt } from '../tests/plans.ts';
import { findingsOf } from './index.ts';

const welded = (more: object): Move => ['weld', { heats: 1, temperatureC: 1200, ...more }];
const flat: Move = ['draw', { shape: 'flat', widthMm: 40, thicknessMm: 20, heats: 1 }];
const judged = (moves: readonly Move[]) => {
  const e = evaluate(planOf(moves));
  const result = allSteps(e).at(-1)!;
  const findings = findingsOf(e, result);
  return { e, result, findings, codes: findings.map((f) => f.code), said: sayStep(result, e.shop).join(' ') };
};

describe('the schools of holding and of keeping air out', () => {
  it('are said before the fire, and what the weld is judged by after it', () => {
    const school = (more: object) => judged([stackOf(9), welded(more)]).said;
    expect(school({})).toMatch(/Tack the ends.*strew flux/);
    expect(school({ held: 'fused', air: 'oil' })).toMatch(/without filler.*light oil/);
    expect(school({ held: 'wire' })).toContain('soft wire');
    expect(school({ held: 'glue' })).toContain('glue burns off');
    expect(school({ edges: 'welded shut', beadMm: 1 })).toMatch(/Weld all edges shut.*No flux/);
    expect(school({})).toContain('edge and middle show one colour');
    // What is welded already is neither tacked nor fluxed.
    expect(judged([stackOf(9), weldIt, welded({})]).said).not.toMatch(/[Tt]ack|flux over/);
  });

  it('cautions with oil and with what is sealed, and refuses what is not held or not shut', () => {
    expect(judged([stackOf(9), welded({ air: 'oil' })]).codes).toContain('oil dunk');
    const open = judged([stackOf(9), welded({ air: 'sealed' })]);
    expect(open.codes).toContain('not sealed');
    const shut = evaluate(withRemedy(open.e, open.result, open.findings.find((f) => f.remedy)!.remedy!).plan);
    expect(findingsOf(shut, allSteps(shut).at(-1)!).map((f) => f.code)).toContain('sealed in the fire');
    // Shut without a word of it is sealed as well; sheet above and below alone leaves the seams open.
    expect(judged([stackOf(9), welded({ edges: 'welded shut', beadMm: 1 })]).codes).toContain(
      'sealed in the fire',
    );
    const sheets: Move = ['jacket', { material: '1018', thicknessMm: 1, where: 'top and bottom' }];
    expect(judged([stackOf(9), sheets, welded({ air: 'sealed' })]).codes).toContain('not sealed');
    expect(judged([stackOf(9), sheets, welded({})]).said).toMatch(
      /sheets above and below hold it.*strew flux/,
    );
    const bare = judged([stackOf(9), welded({ held: 'jacket' })]);
    expect(bare.codes).toContain('no jacket round it');
    const wrapped = evaluate(
      withRemedy(bare.e, bare.result, bare.findings.find((f) => f.remedy)!.remedy!).plan,
    );
    expect(allSteps(wrapped).at(-1)!.after).not.toBeNull();
  });
});

describe('weld beads', () => {
  const tacked = [stackOf(9), welded({ tackMm: 2, tacked: 'ends and sides' })] as const;

  it('stay until they are ground off, on the faces that seams come out at and on both ends', () => {
    const { result } = judged(tacked);
    // Of a stack the seams come out left and right.
    expect(result.after![0].beads).toEqual({ endA: 2, endB: 2, left: 2, right: 2 });
    const turned = judged([...tacked, ['turn', { to: 'turned 90°' }]]);
    expect(turned.result.after![0].beads).toEqual({ endA: 2, endB: 2, top: 2, bottom: 2 });
    const ground = judged([...tacked, ['grind', { topMm: 0, bottomMm: 0, leftMm: 2, rightMm: 0.5 }]]);
    expect(ground.result.after![0].beads).toEqual({ endA: 2, endB: 2, right: 1.5 });
    const cropped = judged([...tacked, ['crop', { endAMm: 5, endBMm: 1 }]]);
    expect(cropped.result.after![0].beads).toEqual({ endB: 1, left: 2, right: 2 });
    expect(judged([stackOf(9), welded({ tackMm: 2 })]).result.after![0].beads).toEqual({ endA: 2, endB: 2 });
    expect(judged([stackOf(9), welded({ tackMm: 2, held: 'wire' })]).result.after![0].beads).toBeUndefined();
    // Another heat takes none of them.
    expect(judged([...tacked, weldIt]).result.after![0].beads).toEqual({
      endA: 2,
      endB: 2,
      left: 2,
      right: 2,
    });
    // Edges welded shut and ground off take shallower tacks along.
    const shut = judged([stackOf(9), welded({ tackMm: 2, edges: 'welded shut', beadMm: 2 })]);
    expect(shut.result.after![0].beads).toBeUndefined();
  });

  it('pressed in are warned of, and two presses take them off before', () => {
    let now = judged([...tacked, flat]);
    expect(now.codes).toContain('beads pressed in');
    for (const first of ['grind', 'crop']) {
      const remedy = now.findings.find((f) => f.code === 'beads pressed in')!.remedy!;
      expect('insertBefore' in remedy && remedy.insertBefore).toBe(first);
      const e = evaluate(withRemedy(now.e, now.result, remedy).plan);
      const result = allSteps(e).at(-1)!;
      const findings = findingsOf(e, result);
      now = { ...now, e, result, findings, codes: findings.map((f) => f.code) };
    }
    expect(now.codes).not.toContain('beads pressed in');
  });

  it('over the joints of tiles make bumps that stay until they are ground', () => {
    const tiles: Move[] = [
      stackOf(9, 40, 4, 300),
      weldIt,
      ['tile', { angleDeg: 45, thicknessMm: 12, lay: 'every other rolled' }],
      welded({ tackMm: 1, tacked: 'ends and sides' }),
      ['draw', { shape: 'flat', widthMm: 40, thicknessMm: 6, heats: 1 }],
    ];
    const { findings } = judged(tiles);
    expect(findings.find((f) => f.code === 'beads pressed in')!.text).toContain('bumps over the joints');
  });

  it('lie in the way of laying pieces together', () => {
    expect(judged([...tacked, cutInto(4), fourWay('alike')]).codes).toContain('beads pressed in');
  });
});

describe('before the saw', () => {
  it('says that a bar may have hardened since it was hot, and one press anneals it', () => {
    const hot = judged([stackOf(9), weldIt, cutInto(4)]);
    const said = hot.findings.find((f) => f.code === 'may be hard')!;
    const soft = evaluate(withRemedy(hot.e, hot.result, said.remedy!).plan);
    const cut = allSteps(soft).at(-1)!;
    expect(allSteps(soft).at(-2)!.step.kind).toBe('treat');
    expect(cut.after).not.toBeNull();
    expect(findingsOf(soft, cut).map((f) => f.code)).not.toContain('may be hard');
    // Mild steel does not harden.
    const mild = [
      ['stack', { layers: 3, pattern: [{ material: '1018', thicknessMm: 8 }], widthMm: 40, lengthMm: 200 }],
      weldIt,
      cutInto(4),
    ] as const;
    expect(judged(mild).codes).not.toContain('may be hard');
  });
});
