import { type TemperatureUnit, formatRate, formatTemperature } from '../units/temperature.ts';
import type { KilnProblem, KilnProgram } from './program.ts';

/** What a kiln cannot do of a program, with what it can, and what a press would make of it. */
export function kilnProblemSaid(
  { segment, code, possible, set }: KilnProblem,
  program: KilnProgram,
  { temperatures }: { readonly temperatures: TemperatureUnit },
): { readonly code: KilnProblem['code']; readonly text: string; readonly label: string } {
  const { targetC, rateKPerH } = program.segments[segment];
  const at = formatTemperature(targetC, temperatures);
  const can =
    code === 'too hot' ? formatTemperature(possible, temperatures) : formatRate(possible, temperatures);
  const asked = formatRate(rateKPerH ?? 0, temperatures);
  const leg = `Leg ${segment + 1}`;
  const text = {
    'too hot': `${leg} wants ${at}; the shop’s kiln gets to ${can}.`,
    'too fast': `${leg} wants ${asked} up to ${at}, where the shop’s kiln climbs ${can} at most.`,
    'falls slower': `${leg} wants to fall ${asked} down to ${at}, where the kiln, off and shut, falls ${can} at most.`,
  }[code];
  const label =
    code === 'too hot' ? `Hold at ${can}` : set.rateKPerH === null ? 'As fast as it goes' : `Take ${can}`;
  return { code, text, label };
}
