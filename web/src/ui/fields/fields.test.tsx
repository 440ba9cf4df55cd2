// @vitest-environment jsdom
import '../../tests/browser.ts';
import { act, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useEffect, useState } from 'react';
import { describe, expect, it, vi } from 'vitest';
import { z } from 'zod';
import { shopSchema } from '../../../../core/shop/shop.ts';
import { type Quantity, type Units, quantitiesOf, quantityOf } from '../../../../core/units/index.ts';
import { angleDeg, count, lengthMm, share, temperatureC } from '../../../../core/units/quantities.ts';
import { UnitsContext } from '../units.ts';
import { LevelField } from './LevelField.tsx';
import { OptionalField, QuantityField } from './QuantityField.tsx';
import { WordField } from './WordField.tsx';

const INCHES: Units = { lengths: { unit: 'in', division: 32 }, masses: 'lb', temperatures: 'F' };
const METRIC: Units = { lengths: { unit: 'mm', division: 0.5 }, masses: 'kg', temperatures: 'C' };

/** A field whose owner takes only what it is handed; every value that was handed on. */
function held(of: Quantity, first: number, units = METRIC) {
  const handed: number[] = [];
  let change: (to: number) => void = () => undefined;
  function Owner() {
    const [value, setValue] = useState(first);
    useEffect(() => {
      change = setValue;
    }, []);
    return (
      <UnitsContext value={units}>
        <QuantityField
          of={of}
          value={value}
          onChange={(now) => {
            handed.push(now);
            setValue(now);
          }}
        />
      </UnitsContext>
    );
  }
  render(<Owner />);
  return {
    handed,
    change: (to: number) => change(to),
    field: screen.getByLabelText<HTMLInputElement>(of.label),
    user: userEvent.setup(),
  };
}

const length = quantityOf(lengthMm('Length', 500));

describe('a number that is typed', () => {
  it('is handed on only while it is one the schema takes; the draft stays, with the reason', async () => {
    const { handed, field, user } = held(length, 20, INCHES);
    await user.click(field);
    await user.keyboard('1 7/');
    expect(field.value).toBe('1 7/');
    expect(screen.getByText(/stops after “\/”/)).toBeTruthy();
    expect(field.getAttribute('aria-invalid')).toBe('true');
    expect(new Set(handed)).toEqual(new Set([25.4]));
    await user.keyboard('8');
    expect(handed.at(-1)).toBeCloseTo(47.625, 9);
    await user.tab();
    expect(field.value).toBe('1 7/8"');
  });

  it('outside its bounds is refused in the shop’s own units, and the last good one holds', async () => {
    const { handed, field, user } = held(length, 20, INCHES);
    await user.click(field);
    await user.keyboard('40');
    expect(screen.getByText('Length may be at most 19 11/16"')).toBeTruthy();
    expect(handed).toEqual([4 * 25.4]);
    await user.clear(field);
    await user.keyboard('0');
    expect(screen.getByText('Length must be more than 0')).toBeTruthy();
    await user.keyboard('{Escape}');
    expect(field.value).toBe('4"');
  });

  it('changed from elsewhere while the field is held shows what it is now, not what it was', async () => {
    const { handed, field, user, change } = held(length, 20);
    await user.click(field);
    await user.keyboard('31');
    act(() => change(44));
    expect(field.value).toBe('44 mm');
    await user.keyboard('{Control>}a{/Control}7');
    expect(handed.at(-1)).toBe(7);
    expect(field.value).toBe('7');
  });

  it('300 by hand where at least 10 is asked is 300: the first digit is only a draft', async () => {
    const dies = quantitiesOf(shopSchema)('press.dieLengthMm');
    const { handed, field, user } = held(dies, 120);
    await user.click(field);
    await user.keyboard('3');
    expect(screen.getByText('Dies, along the bar must be at least 10 mm')).toBeTruthy();
    expect(handed).toEqual([]);
    await user.keyboard('00');
    expect(handed).toEqual([30, 300]);
  });

  it('a number that begins as the old one did is not begun again by a selection that comes late', async () => {
    const late: FrameRequestCallback[] = [];
    const frames = vi.spyOn(window, 'requestAnimationFrame').mockImplementation((act) => late.push(act));
    const letGo = vi
      .spyOn(window, 'cancelAnimationFrame')
      .mockImplementation((n) => void (n > 0 && (late[n - 1] = () => {})));
    const { handed, field, user } = held(quantityOf(count('Pieces', 1, 60)), 1);
    await user.click(field);
    await user.keyboard('1');
    expect(late.length).toBeGreaterThan(0);
    for (const act of late) act(0);
    await user.keyboard('2');
    expect(handed.at(-1)).toBe(12);
    for (const spy of [frames, letGo]) spy.mockRestore();
  });

  it.each([
    [quantityOf(angleDeg('Angle', -20, 20)), '-12,5', -12.5],
    [quantityOf(count('Pieces', 1, 60)), '12', 12],
    [quantityOf(share('Scale', 0, 0.2)), '12 %', 0.12],
    [quantityOf(temperatureC('Heat', 500, 1400)), '2100 F', 1148.888],
  ])('%o reads “%s”', async (of, text, value) => {
    const { handed, field, user } = held(of, of.least > 0 ? of.least : 0);
    await user.click(field);
    await user.keyboard(text);
    expect(handed.at(-1)).toBeCloseTo(value, 2);
  });

  it('a count takes no fraction and no word', async () => {
    const { handed, field, user } = held(quantityOf(count('Pieces', 1, 60)), 4);
    await user.click(field);
    await user.keyboard('2.5');
    expect(screen.getByText('Pieces must be a whole number')).toBeTruthy();
    await user.clear(field);
    expect(screen.getByText(/^Pieces is empty/)).toBeTruthy();
    await user.keyboard('many');
    expect(screen.getByText(/“many” is no number/)).toBeTruthy();
    expect(new Set(handed)).toEqual(new Set([2]));
  });
});

describe('a number that need not be said', () => {
  it('is left out by an empty field or a bare 0, and comes back when it is typed', async () => {
    const handed: (number | undefined)[] = [];
    function Owner() {
      const [value, setValue] = useState<number | undefined>(12);
      const take = (now: number | undefined) => {
        handed.push(now);
        setValue(now);
      };
      return <OptionalField of={length} none="none" value={value} onChange={take} />;
    }
    render(<Owner />);
    const user = userEvent.setup();
    const field = screen.getByLabelText<HTMLInputElement>('Length');
    await user.click(field);
    await user.keyboard('0');
    expect(handed).toEqual([undefined]);
    await user.tab();
    expect(field.value).toBe('none');
    await user.click(field);
    await user.keyboard('7 mm');
    expect(handed.at(-1)).toBe(7);
  });
});

describe('words and levels', () => {
  it('a name that its schema refuses stays in the field with the reason', async () => {
    const handed: string[] = [];
    const schema = z.string().trim().min(1, 'It needs a name').max(8, 'Shorter, please');
    function Owner() {
      const [value, setValue] = useState('Ours');
      const take = (now: string) => {
        handed.push(now);
        setValue(now);
      };
      return <WordField label="Name" schema={schema} value={value} onChange={take} />;
    }
    render(<Owner />);
    const user = userEvent.setup();
    const field = screen.getByLabelText<HTMLInputElement>('Name');
    await user.clear(field);
    expect(screen.getByText('It needs a name')).toBeTruthy();
    expect(handed).toEqual([]);
    await user.type(field, 'Brasa');
    expect(handed.at(-1)).toBe('Brasa');
    await user.type(field, ' Chica');
    expect(screen.getByText('Shorter, please')).toBeTruthy();
    expect(handed.at(-1)).toBe('Brasa Ch');
  });

  it('a level runs over all of its quantity and says it', () => {
    render(
      <LevelField
        of={quantityOf(share('Threshold', 0.05, 0.95))}
        value={0.5}
        step={0.01}
        onChange={() => undefined}
      />,
    );
    const slider = screen.getByLabelText<HTMLInputElement>('Threshold');
    expect([slider.min, slider.max, slider.value]).toEqual(['0.05', '0.95', '0.5']);
    expect(screen.getByText('Threshold: 50 %')).toBeTruthy();
  });
});
