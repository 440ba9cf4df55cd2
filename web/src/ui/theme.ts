import type { CSSProperties } from 'react';
import { createTheme } from '@mui/material/styles';

/** Gesso ground, iron-black ink; iron-oxide red acts, verdigris is right, gilding is selected (design of the interface). */
export const colours = {
  gesso: '#f4efe4',
  paper: '#fffdf7',
  ink: '#1f2124',
  faded: '#5b564c',
  line: '#c9bfa9',
  oxide: '#8f2d22',
  verdigris: '#246355',
  gilding: '#b07d1c',
  amber: '#9a5410',
  amberWash: '#fbefdc',
  alarm: '#a8121b',
  alarmWash: '#fbe6e4',
  verdigrisWash: '#e4f0ea',
} as const;

export const fonts = {
  body: '"Atkinson Hyperlegible Next", sans-serif',
  numbers: '"Atkinson Hyperlegible Mono", monospace',
  title: '"Young Serif", serif',
} as const;

/** Figures stand in columns: one width, to the right. */
export const numbersStyle = { fontFamily: fonts.numbers, textAlign: 'right' } as const;

declare module '@mui/material/styles' {
  interface TypographyVariants {
    name: CSSProperties;
    numbers: CSSProperties;
    panel: CSSProperties;
    panelSize: CSSProperties;
  }
  interface TypographyVariantsOptions {
    name?: CSSProperties;
    numbers?: CSSProperties;
    panel?: CSSProperties;
    panelSize?: CSSProperties;
  }
}

declare module '@mui/material/Typography' {
  interface TypographyPropsVariantOverrides {
    name: true;
    numbers: true;
    panel: true;
    panelSize: true;
  }
}

declare module '@mui/material/Paper' {
  interface PaperPropsVariantOverrides {
    sheet: true;
  }
}

const NO_TIME = {
  shortest: 0,
  shorter: 0,
  short: 0,
  standard: 0,
  complex: 0,
  enteringScreen: 0,
  leavingScreen: 0,
};

/** Whoever asks for less motion gets none: neither from the style sheet nor by waiting for it. */
const still = globalThis.matchMedia?.('(prefers-reduced-motion: reduce)').matches ?? false;

export const theme = createTheme({
  ...(still && { transitions: { create: () => 'none', getAutoHeightDuration: () => 0, duration: NO_TIME } }),
  palette: {
    background: { default: colours.gesso, paper: colours.paper },
    text: { primary: colours.ink, secondary: colours.faded },
    primary: { main: colours.oxide },
    success: { main: colours.verdigris },
    warning: { main: colours.amber },
    error: { main: colours.alarm },
    divider: colours.line,
  },
  shape: { borderRadius: 5 },
  typography: {
    fontFamily: fonts.body,
    fontSize: 15,
    h1: { fontFamily: fonts.title, fontSize: '1.75rem', fontWeight: 400 },
    h2: { fontFamily: fonts.title, fontSize: '1.3rem', fontWeight: 400 },
    h3: { fontFamily: fonts.title, fontSize: '1.1rem', fontWeight: 400 },
    button: { textTransform: 'none', fontWeight: 600 },
    /** The program's own name. */
    name: { fontFamily: fonts.title, fontSize: '2.1rem', color: colours.oxide, lineHeight: 1.2 },
    numbers: { fontFamily: fonts.numbers },
    /** A move's name and size under its panel. */
    panel: { display: 'block', fontWeight: 600, fontSize: '0.93rem', lineHeight: 1.15 },
    panelSize: { display: 'block', fontSize: '0.85rem', lineHeight: 1.2, color: colours.faded },
  },
  components: {
    MuiCssBaseline: {
      styleOverrides: {
        '@media (prefers-reduced-motion: reduce)': {
          '*, *::before, *::after': { transition: 'none !important', animation: 'none !important' },
        },
        body: { fontVariantNumeric: 'tabular-nums', overflowX: 'hidden' },
        '@media print': { '[data-noprint]': { display: 'none !important' }, body: { background: '#fff' } },
        ':focus-visible': { outline: `3px solid ${colours.gilding}`, outlineOffset: 2 },
      },
    },
    MuiPaper: {
      variants: [
        {
          props: { variant: 'sheet' },
          style: {
            border: `1px solid ${colours.line}`,
            borderRadius: 6,
            padding: 16,
            display: 'grid',
            alignContent: 'start',
            gap: 12,
            minWidth: 0,
          },
        },
      ],
    },
    MuiButton: { defaultProps: { disableElevation: true } },
    MuiButtonBase: { defaultProps: { disableRipple: true } },
    MuiTextField: { defaultProps: { size: 'small' } },
    MuiOutlinedInput: {
      styleOverrides: { root: { background: colours.paper }, input: { padding: '7px 10px' } },
    },
    MuiFormHelperText: { styleOverrides: { root: { marginLeft: 2, lineHeight: 1.25, fontSize: '0.85rem' } } },
    MuiTooltip: {
      defaultProps: { placement: 'top', enterDelay: 400 },
      styleOverrides: { tooltip: { fontSize: '0.9rem', background: colours.ink } },
    },
  },
});
