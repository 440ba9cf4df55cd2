import type { KilnProblem, KilnProgram } from '../../../../core/kiln/program.ts';
import type { Shop } from '../../../../core/shop/shop.ts';
import type { Finding } from '../../../../core/moves/index.ts';
import { formatTemperature } from '../../../../core/units/index.ts';

/** K/h as the shop writes it. */
export const rateText = (kPerH: number, unit: 'C' | 'F'): string =>
  unit === 'C' ? `${Math.round(kPerH)} K/h` : `${Math.round(kPerH * 1.8)} °F/h`;

/** What the shop's kiln cannot do of a program, with what it can. */
export function problemText(
  { segment, code, possible, set }: KilnProblem,
  program: KilnProgram,
  shop: Shop,
): Finding {
  const { targetC, rateKPerH } = program.segments[segment];
  const at = formatTemperature(targetC, shop.temperatures);
  const can =
    code === 'too hot'
      ? formatTemperature(possible, shop.temperatures)
      : rateText(possible, shop.temperatures);
  const asked = rateText(rateKPerH ?? 0, shop.temperatures);
  const leg = `Leg ${segment + 1}`;
  const text = {
    'too hot': `${leg} wants ${at}; the shop’s kiln gets to ${can}.`,
    'too fast': `${leg} wants ${asked} up to ${at}, where the shop’s kiln climbs ${can} at most.`,
    'falls slower': `${leg} wants to fall ${asked} down to ${at}, where the kiln, off and shut, falls ${can} at most.`,
  }[code];
  const label =
    code === 'too hot' ? `Hold at ${can}` : set.rateKPerH === null ? 'As fast as it goes' : `Take ${can}`;
  return { code, severity: 'warning', text, remedy: { label, set } };
}
