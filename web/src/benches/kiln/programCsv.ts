import Papa from 'papaparse';
import { type KilnProgram, clockTime, legsOf } from '../../../../core/kiln/program.ts';
import type { Shop } from '../../../../core/shop/shop.ts';
import { formatRate, formatTemperature } from '../../../../core/units/index.ts';

/** A program as CSV: as the shop writes it, and in °C and K/h for a controller. */
export const programCsv = (program: KilnProgram, shop: Shop): string =>
  Papa.unparse(
    legsOf(program, shop.kiln).map(({ segment: s, thereS, endS }, i) => ({
      leg: i + 1,
      rate: s.rateKPerH === null ? 'as fast as it goes' : formatRate(s.rateKPerH, shop.temperatures),
      target: formatTemperature(s.targetC, shop.temperatures),
      'hold min': s.holdMin,
      there: clockTime(program.startMin, thereS),
      ends: clockTime(program.startMin, endS),
      then: s.then ?? '',
      'rate K/h': s.rateKPerH ?? '',
      'target °C': s.targetC,
    })),
    { escapeFormulae: true },
  );
