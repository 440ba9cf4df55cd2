import { describe, expect, it } from 'vitest';
import { fileName } from './download.ts';

describe('a file’s name', () => {
  it.each([
    ['Salt Marsh', '.csv', 'salt-marsh.csv'],
    ['  Äpfel / Nüsse!  ', '.json', 'äpfel-nüsse.json'],
    ['../../etc/passwd', '.svg', 'etc-passwd.svg'],
    ['—', '-cut-list.csv', 'piece-cut-list.csv'],
  ])('of “%s” keeps letters and digits only', (name, more, expected) =>
    expect(fileName(name, more)).toBe(expected),
  );
});
