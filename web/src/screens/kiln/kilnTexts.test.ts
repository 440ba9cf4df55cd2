import Papa from 'papaparse';
import { describe, expect, it } from 'vitest';
import { type KilnProgram, kilnProblems } from '../../../../core/kiln/program.ts';
import { makeShop } from '../../../../core/shop/shop.ts';
import { problemText } from './problemText.ts';
import { programCsv } from '../../benches/kiln/programCsv.ts';

const shop = makeShop();
const program = (segments: KilnProgram['segments']): KilnProgram => ({
  id: 'k',
  name: 'Trial',
  material: '1084',
  startMin: 480,
  segments,
});

describe('what the kiln cannot do', () => {
  it('is said with what was asked and what it can, in the shop’s degrees', () => {
    const p = program([{ rateKPerH: 600, targetC: 900, holdMin: 5 }]);
    const [problem] = kilnProblems(p, shop.kiln);
    expect(problemText(problem, p, shop).text).toBe(
      `Leg 1 wants 600 K/h up to 900 °C, where the shop’s kiln climbs ${problem.possible} K/h at most.`,
    );
    const fahrenheit = problemText(problem, p, { ...shop, temperatures: 'F' }).text;
    expect(fahrenheit).toContain('1080 °F/h');
    expect(fahrenheit).toContain('1652 °F');
  });
});

describe('a program as CSV', () => {
  it('has each leg with its clock, and numbers that a controller takes', () => {
    const csv = programCsv(
      program([
        { rateKPerH: 200, targetC: 620, holdMin: 30 },
        { rateKPerH: null, targetC: 800, holdMin: 10, then: 'quench in oil, at once' },
      ]),
      shop,
    );
    const { data } = Papa.parse<Record<string, string>>(csv, { header: true });
    // 600 K at 200 K/h from 08:00: there at 11:00, held to 11:30.
    expect(data[0]).toMatchObject({
      leg: '1',
      there: '11:00',
      ends: '11:30',
      'rate K/h': '200',
      'target °C': '620',
    });
    expect(data[1]).toMatchObject({ rate: 'as fast as it goes', then: 'quench in oil, at once' });
  });
});
