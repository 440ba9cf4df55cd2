import { describe, expect, it } from 'vitest';
import { remembered } from './remembered.ts';

describe('what is remembered', () => {
  it('is worked out once for the same three, anew for any other, also where it came to nothing', () => {
    let times = 0;
    const sum = remembered((a: { n: number }, b: { n: number }, c: { n: number }): number | undefined => {
      times++;
      return a.n + b.n + c.n === 0 ? undefined : a.n + b.n + c.n;
    });
    const [one, two, three] = [{ n: 1 }, { n: 2 }, { n: 3 }];
    expect([sum(one, two, three), sum(one, two, three)]).toEqual([6, 6]);
    expect(times).toBe(1);
    expect(sum(one, three, two)).toBe(6);
    expect(sum({ n: 1 }, two, three)).toBe(6);
    expect(times).toBe(3);
    const nought = { n: 0 };
    expect(sum(nought, nought, nought)).toBeUndefined();
    expect(sum(nought, nought, nought)).toBeUndefined();
    expect(times).toBe(4);
  });

  it('of one function is not another’s', () => {
    const key = {};
    const first = remembered(() => 1);
    const second = remembered(() => 2);
    expect([first(key, key, key), second(key, key, key)]).toEqual([1, 2]);
  });
});
