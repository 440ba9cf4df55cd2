import { createTheme } from '@mui/material/styles';
import { fonts, theme } from './theme.ts';

/** By the fire: warm dark ground, large type, every pair of text and ground at 7 : 1 or more. */
export const fire = {
  ground: '#17140f',
  raised: '#26211a',
  line: '#4a4135',
  ink: '#f5ecdb',
  faded: '#cdbfa6',
  ember: '#ffcf70',
  right: '#8fd6c0',
  rightGround: '#17322b',
  act: '#8f2419',
  actInk: '#ffffff',
  alarm: '#ffb3a8',
  alarmGround: '#3a1512',
} as const;

/** Nothing that a glove presses is smaller, px. */
export const LEAST_TARGET = 56;

/** What is read on what. */
export const FIRE_PAIRS: readonly (readonly [ink: string, ground: string])[] = [
  [fire.ink, fire.ground],
  [fire.ink, fire.raised],
  [fire.faded, fire.ground],
  [fire.faded, fire.raised],
  [fire.ember, fire.ground],
  [fire.ember, fire.raised],
  [fire.right, fire.ground],
  [fire.right, fire.raised],
  [fire.ink, fire.rightGround],
  [fire.right, fire.rightGround],
  [fire.actInk, fire.act],
  [fire.alarm, fire.ground],
  [fire.alarm, fire.raised],
  [fire.alarm, fire.alarmGround],
  [fire.ink, fire.alarmGround],
];

const big = { minHeight: LEAST_TARGET, minWidth: LEAST_TARGET, fontSize: 22 } as const;

export const fireTheme = createTheme(theme, {
  palette: {
    mode: 'dark',
    background: { default: fire.ground, paper: fire.raised },
    text: { primary: fire.ink, secondary: fire.faded },
    primary: { main: fire.act, contrastText: fire.actInk },
    success: { main: fire.right },
    warning: { main: fire.ember },
    error: { main: fire.alarm },
    divider: fire.line,
  },
  typography: {
    ...theme.typography,
    body1: { fontFamily: fonts.body, fontSize: 22, lineHeight: 1.35 },
    body2: { fontFamily: fonts.body, fontSize: 22, lineHeight: 1.35 },
    h1: { fontFamily: fonts.title, fontSize: 36, fontWeight: 400, lineHeight: 1.15 },
    h2: { fontFamily: fonts.title, fontSize: 27, fontWeight: 400, lineHeight: 1.2 },
    numbers: { fontFamily: fonts.numbers, fontSize: 30, fontWeight: 700 },
  },
  components: {
    ...theme.components,
    MuiButton: {
      defaultProps: { disableElevation: true },
      styleOverrides: {
        root: { ...big, textTransform: 'none', lineHeight: 1.15, whiteSpace: 'normal' },
        outlined: {
          color: fire.ink,
          borderColor: fire.faded,
          background: fire.raised,
          '&[aria-pressed="true"], &[aria-current]': { color: fire.ember, borderColor: fire.ember },
        },
        text: { color: fire.ink },
      },
    },
    MuiIconButton: { styleOverrides: { root: { ...big, color: fire.ink } } },
    MuiDrawer: { styleOverrides: { paper: { background: fire.ground, backgroundImage: 'none' } } },
    MuiDialog: { styleOverrides: { paper: { background: fire.raised, backgroundImage: 'none' } } },
    MuiOutlinedInput: {
      styleOverrides: {
        root: { background: fire.ground, fontSize: 22 },
        input: { padding: '14px 12px', '&::placeholder': { color: fire.faded, opacity: 1 } },
        notchedOutline: { borderColor: fire.faded },
      },
    },
  },
});
