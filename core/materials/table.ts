import { type Material, mixture } from './material.ts';

/**
 * The shop's first table (handbook, materials). Compositions are values from memory of the standard named in each row;
 * tones are our own reading of the "etches" words; welding window of plain and nickel steels 1150–1290 °C and the chromium
 * steels' lower limit are common practice, no source.
 */
type Row = [
  id: string,
  name: string,
  standard: string,
  composition: Material['composition'],
  tone: number,
  etches: string,
];

const PLAIN: Row[] = [
  ['1018', '1018', 'SAE J403', { C: 0.18, Mn: 0.75 }, 0.6, 'light grey, dull'],
  [
    'electrode',
    'Mild electrode core',
    'common practice, no source',
    { C: 0.08, Mn: 0.5 },
    0.62,
    'light grey, dull',
  ],
  ['1075', '1075', 'SAE J403', { C: 0.75, Mn: 0.55 }, 0.15, 'dark'],
  ['1080', '1080', 'SAE J403', { C: 0.81, Mn: 0.75 }, 0.13, 'dark'],
  ['1084', '1084', 'SAE J403', { C: 0.86, Mn: 0.75 }, 0.13, 'dark'],
  ['1095', '1095', 'SAE J403', { C: 0.96, Mn: 0.4 }, 0.2, 'dark grey'],
  ['15n20', '15N20', 'EN 1.5634 (75Ni8)', { C: 0.75, Mn: 0.4, Cr: 0.1, Ni: 2 }, 0.86, 'bright'],
  ['8670', '8670', 'SAE 8670', { C: 0.7, Mn: 0.5, Cr: 0.5, Ni: 0.8 }, 0.45, 'mid'],
  ['o2', 'O2', 'ASTM A681', { C: 0.9, Mn: 1.6 }, 0.07, 'very dark'],
  ['w2', 'W2', 'ASTM A686', { C: 1, Mn: 0.25, Cr: 0.1, V: 0.2 }, 0.14, 'dark'],
  ['80crv2', '80CrV2', 'EN 1.2235', { C: 0.8, Mn: 0.4, Cr: 0.5, V: 0.2 }, 0.16, 'dark'],
  ['wrought', 'Wrought iron', 'common practice, no source', { C: 0.03, Mn: 0.03 }, 0.5, 'grey, fibrous'],
];

const CHROMIUM: Row[] = [
  ['52100', '52100', 'ASTM A295', { C: 1, Mn: 0.35, Cr: 1.45 }, 0.32, 'mid-dark'],
  ['o1', 'O1', 'ASTM A681', { C: 0.92, Mn: 1.2, Cr: 0.5, W: 0.5, V: 0.2 }, 0.1, 'dark'],
  ['5160', '5160', 'SAE J404', { C: 0.6, Mn: 0.85, Cr: 0.8 }, 0.18, 'dark'],
  ['l6', 'L6', 'ASTM A681', { C: 0.7, Mn: 0.55, Cr: 0.75, Ni: 1.5, Mo: 0.3 }, 0.72, 'bright-mid'],
];

/** Values from memory of producers' data sheets and the ASM Heat Treater's Guide (handbook, materials): a starting point. */
const HARDENED: Record<string, [austenitiseC: [number, number], quench: string]> = {
  '80crv2': [[820, 850], 'fast oil'],
  '1084': [[800, 815], 'fast oil'],
  '52100': [[830, 845], 'oil'],
  o1: [[790, 815], 'oil'],
  w2: [[770, 800], 'brine or fast oil'],
};

const hardeningOf = (id: string): Pick<Material, 'hardening'> => {
  const row = HARDENED[id];
  if (!row) return {};
  return {
    hardening: {
      austenitiseC: row[0],
      quench: row[1],
      temperC: [190, 230],
      temperHours: 2,
      temperTimes: 2,
      hrc: [58, 61],
      source: 'value from memory of producers’ data sheets and the ASM Heat Treater’s Guide',
    },
  };
};

const steel = ([id, name, standard, composition, tone, etches]: Row, weldC: [number, number]): Material => ({
  id,
  name,
  source: standard.startsWith('common') ? standard : `value from memory of ${standard}`,
  composition,
  densityKgM3: 7850,
  tone,
  etches,
  weldC,
  limitC: weldC[1],
  ...hardeningOf(id),
});

const METALS: readonly Material[] = [
  ...PLAIN.map((row) => steel(row, [1150, 1290])),
  ...CHROMIUM.map((row) => steel(row, [1150, 1250])),
  {
    id: '316l',
    name: '316L stainless',
    source: 'value from memory of ASTM A240',
    composition: { C: 0.02, Mn: 1.5, Cr: 17, Ni: 11, Mo: 2.1 },
    densityKgM3: 8000,
    tone: 0.78,
    etches: 'not etched',
    weldC: null,
    limitC: 1290,
  },
  {
    id: 'nickel',
    name: 'Nickel 200',
    source: 'value from memory of ASTM B162; melts at 1455 °C',
    composition: { C: 0.08, Mn: 0.2, Ni: 99.6 },
    densityKgM3: 8890,
    tone: 0.97,
    etches: 'brightest',
    weldC: [1000, 1290],
    limitC: 1290,
  },
  {
    id: 'copper',
    name: 'Copper C110',
    source:
      'value from memory of ASTM B152; melts at 1084.62 °C (ITS-90); kept below 1040 °C by common practice, no source',
    composition: { Cu: 99.9 },
    densityKgM3: 8940,
    tone: 0.7,
    etches: 'copper',
    weldC: [900, 1040],
    limitC: 1040,
    tint: [255, 160, 110],
  },
  {
    id: 'brass',
    name: 'Brass C260',
    source:
      'value from memory of ASTM B36; begins to melt at 915 °C; kept below 880 °C by common practice, no source',
    composition: { Cu: 70, Zn: 30 },
    densityKgM3: 8530,
    tone: 0.75,
    etches: 'brass',
    weldC: [780, 880],
    limitC: 880,
    tint: [240, 205, 110],
  },
];

/** Nickel powder blended into a steel's, by mass: 2 and 4 % in a high-carbon powder etch clearly bright beside it (common practice, no source). */
const BLENDED = [0.01, 0.02, 0.04];

const blend = (share: number): Material => {
  const [base, nickel] = ['1084', 'nickel'].map((id) => METALS.find((m) => m.id === id)!);
  return {
    ...base,
    id: `1084ni${100 * share}`,
    name: `1084 powder + ${100 * share} % nickel`,
    source: 'value from memory of SAE J403 and ASTM B162, mixed by mass; tone by the rule of thumb',
    etches: share < 0.02 ? 'mid' : 'bright',
    ...mixture(base, nickel, share),
    hardening: undefined,
  };
};

export const MATERIALS: readonly Material[] = [...METALS, ...BLENDED.map(blend)];
