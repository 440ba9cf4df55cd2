import { Box, Stack, type SxProps } from '@mui/material';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { colours, fonts } from './theme.ts';

const sheet = {
  background: colours.paper,
  border: `1px solid ${colours.line}`,
  borderRadius: '6px',
  p: 1.75,
  minWidth: 0,
} as const;

interface SteelAndNumbersProps {
  steel: ReactNode;
  numbers: ReactNode;
  /** Height of the steel's sheet where the two stand one under the other, px. */
  leastSteelPx?: number;
  steelScrolls?: boolean;
}

/** The two sheets of a screen: the steel, large, and its numbers beside it, or below it on a tablet held upright. */
export function SteelAndNumbers({ steel, numbers, leastSteelPx, steelScrolls }: SteelAndNumbersProps) {
  return (
    <Box
      component="main"
      sx={{
        flex: 1,
        minHeight: 0,
        display: 'grid',
        gridTemplateColumns: { xs: '1fr', md: 'minmax(0, 1fr) 330px' },
        gap: 1.5,
        px: 2.5,
        pb: 1.5,
        pt: 0.5,
      }}
    >
      <Box
        sx={{
          ...sheet,
          minHeight: { xs: leastSteelPx ?? 0, md: 0 },
          overflowY: steelScrolls ? 'auto' : undefined,
        }}
        tabIndex={steelScrolls ? 0 : undefined}
      >
        {steel}
      </Box>
      <Box data-numbers sx={{ ...sheet, overflowY: { md: 'auto' } }} tabIndex={-1}>
        {numbers}
      </Box>
    </Box>
  );
}

/** Sheets in fixed columns: four, two or one, as the screen is wide. What grows in one moves nothing in another. */
export const Columns = ({ children }: { children: ReactNode }) => (
  <Box
    sx={{
      display: 'grid',
      gridTemplateColumns: { xs: '1fr', sm: 'repeat(2, minmax(0, 1fr))', md: 'repeat(4, minmax(0, 1fr))' },
      gap: 2,
      alignItems: 'start',
    }}
  >
    {children}
  </Box>
);

export const Column = ({ children }: { children: ReactNode }) => (
  <Stack spacing={2} sx={{ minWidth: 0 }}>
    {children}
  </Stack>
);

interface BesideProps {
  /** How wide the second column is, as CSS has it. */
  second: string;
  children: ReactNode;
}

/** Sheets in two columns, each as high as it is; one under the other on a tablet held upright. */
export const Beside = ({ second, children }: BesideProps) => (
  <Box
    sx={{
      display: 'grid',
      gap: 2,
      gridTemplateColumns: { xs: 'minmax(0, 1fr)', md: `minmax(0, 1fr) ${second}` },
      alignItems: 'start',
    }}
  >
    {children}
  </Box>
);

/** A choice as an arched panel, to be pressed. */
export function ArchButton({ act, sx, children }: { act(): void; sx?: SxProps; children: ReactNode }) {
  return (
    <Box
      component="button"
      onClick={act}
      sx={{
        width: 260,
        display: 'flex',
        font: 'inherit',
        color: 'inherit',
        cursor: 'pointer',
        background: colours.paper,
        border: `1px solid ${colours.line}`,
        boxShadow: `0 0 0 3px ${colours.gesso}, 0 0 0 4px ${colours.line}`,
        borderRadius: '130px 130px 5px 5px / 44px 44px 5px 5px',
        '&:hover': { borderColor: colours.gilding },
        ...(sx as object),
      }}
    >
      <Box component="span" sx={{ display: 'block', width: '100%' }}>
        {children}
      </Box>
    </Box>
  );
}

/** A way to another screen, among its neighbours; the one that is open is dark. */
export function NavTab({ to, text, here }: { to: string; text: string; here: boolean }) {
  return (
    <Box
      component={Link}
      to={to}
      aria-current={here ? 'page' : undefined}
      sx={{
        px: 0.75,
        py: 0.5,
        borderRadius: '5px',
        textDecoration: 'none',
        fontWeight: 600,
        color: here ? colours.paper : colours.ink,
        background: here ? colours.ink : 'none',
      }}
    >
      {text}
    </Box>
  );
}

/** The head of every screen but the shelf: the way back to it, then what the screen puts there. */
export function PageHead({ children }: { children: ReactNode }) {
  return (
    <Stack
      component="header"
      data-noprint
      direction="row"
      useFlexGap
      spacing={1.25}
      sx={{
        alignItems: 'center',
        px: 2,
        py: 0.75,
        background: colours.paper,
        borderBottom: `1px solid ${colours.line}`,
        flexWrap: 'wrap',
      }}
    >
      <Box
        component={Link}
        to="/"
        sx={{ fontFamily: fonts.title, fontSize: '1.6rem', color: colours.oxide, textDecoration: 'none' }}
        aria-label="Retablo: back to the shelf"
      >
        Retablo
      </Box>
      {children}
    </Stack>
  );
}
