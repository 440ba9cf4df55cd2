import { Box, Button, Stack, ToggleButton, ToggleButtonGroup, Typography } from '@mui/material';
import { useState } from 'react';
import type { SeamFigures } from '../../../../core/assembly/index.ts';
import { formatLength } from '../../../../core/units/index.ts';
import { colours, fonts } from '../../ui/theme.ts';
import { useEvaluation } from '../../document/useEvaluation.ts';

/** Share of a seam that may differ before it is called a near match, and a mismatch. */
const MATCH = 0.01;
const NEAR = 0.08;

const seamColour = (share: number): string =>
  share <= MATCH ? colours.verdigris : share <= NEAR ? colours.gilding : colours.alarm;

const percent = (share: number): string =>
  `${share < 0.1 && share > 0 ? (100 * share).toFixed(1) : Math.round(100 * share)} %`;

interface SeamMarkProps {
  seam: SeamFigures;
  scale: number;
  between: number;
  left: number;
  top: number;
  width: number;
  height: number;
}

/** A bead on the seam: its left half tells of the front end, its right half of the back, with the worse in figures. */
export function SeamMark({ seam, scale, between, left, top, width, height }: SeamMarkProps) {
  const upright = seam.way === 'upright';
  const x = (upright ? left + width + between / 2 : left + width / 2) * scale;
  const y = (upright ? top + height / 2 : top + height + between / 2) * scale;
  const worst = Math.max(seam.frontMismatch, seam.backMismatch);
  const unlike = seam.meantToClash;
  const room = (upright ? width : height) * scale;
  // Between two bars a seam seldom has to match: its colour says enough.
  const wordy = room > 80 && !unlike && seam.frontMm !== null;
  const colour = (share: number) => (unlike ? colours.line : seamColour(share));
  const halfPx = room > 80 ? 8 : 5;
  return (
    <Box
      aria-hidden
      title={`${seam.names.join(' | ')}: ${percent(seam.frontMismatch)} off in front, ${percent(seam.backMismatch)} at the back`}
      sx={{
        position: 'absolute',
        left: x,
        top: y,
        transform: 'translate(-50%, -50%)',
        zIndex: 3,
        display: 'flex',
        alignItems: 'center',
        gap: 0.5,
        px: wordy ? 0.75 : 0.4,
        py: 0.25,
        borderRadius: 3,
        background: colours.paper,
        border: `1px solid ${colours.faded}`,
        fontFamily: fonts.numbers,
        fontSize: 13,
        fontWeight: 700,
        color: colours.ink,
        pointerEvents: 'none',
        whiteSpace: 'nowrap',
      }}
    >
      <Half colour={colour(seam.frontMismatch)} px={halfPx} left />
      <Half colour={colour(seam.backMismatch)} px={halfPx} />
      {wordy && (worst <= MATCH ? '✓' : percent(worst))}
    </Box>
  );
}

const Half = ({ colour, px, left }: { colour: string; px: number; left?: boolean }) => (
  <Box
    component="span"
    sx={{
      width: px,
      height: 1.9 * px,
      background: colour,
      borderRadius: left ? '8px 0 0 8px' : '0 8px 8px 0',
      ml: left ? 0 : -0.5,
    }}
  />
);

interface SeamWordsProps {
  figures: readonly SeamFigures[];
  /** Why the seams of this layout are not judged, where they are not. */
  unjudged: string | null;
  /** Says whether the pictures are meant to meet at some seams. */
  onClash(seams: readonly SeamFigures[], clash: boolean): void;
}

/** The seams in words: all of them matching, or the worst; and what was not judged. */
export function SeamWords({ figures, unjudged, onClash }: SeamWordsProps) {
  const { shop } = useEvaluation();
  const [end, setEnd] = useState<'front' | 'back'>('front');
  const alike = figures.filter((f) => !f.meantToClash);
  const clashing = figures.filter((f) => f.meantToClash);
  if (unjudged)
    return (
      <Typography variant="body2" color="text.secondary" role="status">
        {unjudged}
      </Typography>
    );
  if (figures.length === 0) return null;
  const meet = clashing.length > 0 && (
    <Button size="small" onClick={() => onClash(clashing, false)}>
      {clashing.length === 1 ? 'One seam is' : `${clashing.length} seams are`} meant to clash: judge{' '}
      {clashing.length === 1 ? 'it' : 'them'} again
    </Button>
  );
  if (alike.length === 0)
    return (
      <Box role="status">
        <Typography variant="body2" color="text.secondary">
          No seam is judged.
        </Typography>
        {meet}
      </Box>
    );
  const of = (f: SeamFigures) => (end === 'front' ? f.frontMismatch : f.backMismatch);
  const apart = (f: SeamFigures) => (end === 'front' ? f.frontMm : f.backMm);
  const worst = alike.reduce((a, b) => (of(b) > of(a) ? b : a));
  const mm = apart(worst);
  const betweenBars = alike.filter((f) => f.frontMm === null);
  return (
    <Stack
      direction="row"
      useFlexGap
      spacing={1}
      sx={{ flexWrap: 'wrap', alignItems: 'center' }}
      role="status"
    >
      <ToggleButtonGroup
        size="small"
        exclusive
        value={end}
        onChange={(_, chosen: 'front' | 'back' | null) => chosen && setEnd(chosen)}
        aria-label="Seams at which end"
      >
        <ToggleButton value="front" sx={{ py: 0, textTransform: 'none', color: colours.ink }}>
          front
        </ToggleButton>
        <ToggleButton value="back" sx={{ py: 0, textTransform: 'none', color: colours.ink }}>
          back
        </ToggleButton>
      </ToggleButtonGroup>
      <Typography variant="body2" sx={{ color: of(worst) <= MATCH ? colours.verdigris : colours.ink }}>
        {of(worst) <= MATCH
          ? `Every seam ${clashing.length > 0 ? 'that is judged ' : ''}matches at the ${end}.`
          : `Worst seam at the ${end}: ${worst.names.join(' | ')}, ${percent(of(worst))} of it differs${mm === null ? '' : `; the two faces stood ${formatLength(mm, shop.lengths)} apart in the bar`}.`}
      </Typography>
      {of(worst) > MATCH && (
        <Button size="small" onClick={() => onClash([worst], true)}>
          It is meant to clash
        </Button>
      )}
      {of(worst) > MATCH && betweenBars.length > 1 && (
        <Button size="small" onClick={() => onClash(betweenBars, true)}>
          All between two bars are
        </Button>
      )}
      {meet}
    </Stack>
  );
}
