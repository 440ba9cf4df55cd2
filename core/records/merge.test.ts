import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { mergedRecord, takenBack } from './merge.ts';
import { SIGHTING } from '../tests/records.ts';
import type { Sighting } from '../sighting/sighting.ts';
import type { BenchRecord } from './record.ts';

const at = (minute: number): string => new Date(Date.UTC(2026, 0, 5, 9, minute)).toISOString();
const FIRST: BenchRecord = {
  id: 'r',
  step: 's1',
  kind: 'came',
  began: at(0),
  written: at(0),
  heats: 1,
  ticked: ['a'],
  pieces: [{ piece: '1', widthMm: 30 }],
};

describe('two who write on one record', () => {
  it('of each what he changed: pieces and sizes, ticks, photographs, timers', () => {
    const mine: BenchRecord = {
      ...FIRST,
      written: at(5),
      ticked: ['a', 'b'],
      pieces: [{ piece: '1', widthMm: 30, lengthMm: 200 }],
      timers: [{ what: 'soak', began: at(4), seconds: 60 }],
    };
    const theirs: BenchRecord = {
      ...FIRST,
      written: at(9),
      heats: 2,
      ticked: ['a', 'c'],
      pieces: [
        { piece: '1', widthMm: 29 },
        { piece: '2', lengthMm: 100 },
      ],
      remark: 'scale thick',
    };
    const made = mergedRecord(FIRST, mine, theirs);
    expect(made).toMatchObject({
      heats: 2,
      remark: 'scale thick',
      pieces: [
        { piece: '1', widthMm: 29, lengthMm: 200 },
        { piece: '2', lengthMm: 100 },
      ],
      timers: mine.timers,
    });
    expect([...made.ticked!].sort()).toEqual(['a', 'b', 'c']);
    expect(made.written > theirs.written).toBe(true);
  });

  it('of what both changed the later; what one took away stays away', () => {
    const mine: BenchRecord = { ...FIRST, written: at(5), heats: 4, ticked: [], pieces: undefined };
    const theirs: BenchRecord = { ...FIRST, written: at(4), heats: 3, ended: at(4) };
    const made = mergedRecord(FIRST, mine, theirs);
    expect(made).toMatchObject({ heats: 4, ended: at(4), ticked: [] });
    expect(made.pieces).toBeUndefined();
  });

  it('does not depend on who is asked, and is what one wrote where the other wrote nothing', () => {
    const some = fc.record(
      {
        heats: fc.integer({ min: 0, max: 5 }),
        remark: fc.constantFrom('x', 'y'),
        ticked: fc.uniqueArray(fc.constantFrom('a', 'b', 'c')),
        pieces: fc.uniqueArray(
          fc.record(
            { piece: fc.constantFrom('1', '2', '3'), widthMm: fc.integer({ min: 10, max: 12 }) },
            { requiredKeys: ['piece'], noNullPrototype: true },
          ),
          { selector: (p) => p.piece },
        ),
      },
      { requiredKeys: [], noNullPrototype: true },
    );
    const plain = (r: BenchRecord) => ({
      ...r,
      ticked: r.ticked && [...r.ticked].sort(),
      pieces: r.pieces && [...r.pieces].sort((a, b) => a.piece.localeCompare(b.piece)),
    });
    fc.assert(
      fc.property(some, some, some, (a, b, c) => {
        const head = { id: 'r', step: 's1', kind: 'came' as const, began: at(0) };
        const from = { ...head, ...a, written: at(0) };
        const [mine, theirs] = [
          { ...head, ...b, written: at(2) },
          { ...head, ...c, written: at(3) },
        ];
        expect(plain(mergedRecord(from, mine, theirs))).toEqual(plain(mergedRecord(from, theirs, mine)));
        const alone = mergedRecord(from, mine, { ...from, written: at(1) });
        expect({ ...plain(alone), written: '' }).toEqual({ ...plain(mine), written: '' });
      }),
    );
  });

  it('what was read of a photograph is of one or of the other, never of both', () => {
    const read = (turn: number): Sighting => ({
      ...SIGHTING,
      turn,
      knots: SIGHTING.knots.map(() => turn / 10),
    });
    const of = (written: string, turn: number, more: Partial<BenchRecord> = {}): BenchRecord => ({
      ...FIRST,
      ...more,
      written,
      pieces: [{ piece: '1', widthMm: 30, endB: { sighting: read(turn) } }],
    });
    const made = mergedRecord(of(at(0), 0.1), of(at(5), 0.2, { heats: 7 }), of(at(9), 0.3));
    expect(made.heats).toBe(7);
    expect(made.pieces![0].endB!.sighting).toEqual(read(0.3));
  });

  it('too much together for one record: the later alone, nothing that a plan refuses', () => {
    const pictures = (n: number, of: string) =>
      Array.from({ length: n }, (_, i) => ({
        id: `00000000-0000-4000-8000-${of}${String(i).padStart(11, '0')}`,
        shows: 'end B',
      }));
    const mine = { ...FIRST, written: at(1), pictures: pictures(40, '1') };
    const theirs = { ...FIRST, written: at(2), pictures: pictures(40, '2') };
    expect(mergedRecord(FIRST, mine, theirs).pictures).toEqual(theirs.pictures);
  });
});

describe('taking back what one wrote', () => {
  const wrote: BenchRecord = { ...FIRST, written: at(5), heats: 2 };
  it('is what stood before, where nobody wrote since', () => {
    expect(takenBack(FIRST, wrote, wrote)).toBe(FIRST);
    expect(takenBack(null, wrote, wrote)).toBeNull();
  });
  it('leaves what another wrote since', () => {
    const now: BenchRecord = { ...wrote, written: at(7), remark: 'from the desk' };
    expect(takenBack(FIRST, wrote, now)).toMatchObject({ heats: 1, remark: 'from the desk' });
    expect(takenBack(null, wrote, now)).toMatchObject({ remark: 'from the desk', step: 's1' });
    expect(takenBack(null, wrote, now)!.heats).toBeUndefined();
  });
});
