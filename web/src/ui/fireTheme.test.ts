import { colord, extend } from 'colord';
import a11y from 'colord/plugins/a11y';
import { expect, it } from 'vitest';
import { FIRE_PAIRS } from './fireTheme.ts';

extend([a11y]);

/** WCAG 2.2, success criterion 1.4.6 (AAA). */
const ENHANCED = 7;

it.each(FIRE_PAIRS)('%s on %s is read by the fire: at least 7 : 1', (ink, ground) => {
  expect(colord(ink).contrast(ground)).toBeGreaterThanOrEqual(ENHANCED);
});
