import BookmarkIcon from '@mui/icons-material/Bookmark';
import BookmarkBorderIcon from '@mui/icons-material/BookmarkBorder';
import { Box, IconButton, Stack, Tooltip, Typography } from '@mui/material';
import { plural } from '../../../../core/instruct/said.ts';
import { isNear, recipeOf } from '../../../../core/recipes/index.ts';
import { formatMass, formatSizes } from '../../../../core/units/index.ts';
import { useShop } from '../../document/useEvaluation.ts';
import { useRoughChance } from '../../document/learning.ts';
import { type Found, keep } from '../../document/wishes.ts';
import { PaintedView } from '../../benches/steel/PaintedView.tsx';
import { colours } from '../../ui/theme.ts';
import { useSize } from '../../ui/useSize.ts';

interface CandidateCardProps {
  one: Found;
  isKept: boolean;
  /** Whether it is to be run forward: not while others are still looked for. */
  isAsked: boolean;
  /** How many more of its kind were found. */
  alike: number;
  open(): void;
}

/** px. A picture that was looked for, and what came near it. */
const LIKE_PX = 84;

/** A plan that was found: the blade as it would look, what it takes, what is amiss. */
export function CandidateCard({ one, isKept, isAsked, alike, open }: CandidateCardProps) {
  const shop = useShop();
  const [ref, { width }] = useSize();
  const { offer, picture, likePicture } = one;
  const { name } = recipeOf(offer.spec.recipe);
  const title = `${name}, ${one.id}`;
  const tenths = useRoughChance(offer.plan, isAsked);
  return (
    <Box
      component="li"
      sx={{
        listStyle: 'none',
        position: 'relative',
        border: `1px solid ${colours.line}`,
        borderRadius: '6px',
        background: colours.gesso,
        '&:hover': { borderColor: colours.gilding },
      }}
    >
      <Box
        component="button"
        onClick={open}
        aria-label={`Look closer: ${title}`}
        sx={{
          display: 'block',
          width: '100%',
          p: 1,
          font: 'inherit',
          color: 'inherit',
          textAlign: 'left',
          border: 0,
          background: 'none',
          cursor: 'pointer',
        }}
      >
        <div ref={ref}>{width > 0 && <PaintedView picture={picture} label={title} width={width} />}</div>
        <Typography component="span" sx={{ display: 'block', fontWeight: 700, mt: 0.5, pr: 4 }}>
          {name}
          {alike > 0 && (
            <Typography component="span" color="text.secondary">
              {' '}
              and {alike} like it
            </Typography>
          )}
        </Typography>
        <Typography component="span" sx={{ display: 'block' }}>
          {offer.element &&
            `${formatSizes([offer.element.alongMm, offer.element.acrossMm], shop.lengths)} · `}
          {formatMass(offer.steelKg, shop.masses)} · {offer.heats} heats · {offer.hours.toFixed(0)} h
        </Typography>
        <Typography component="span" color="text.secondary" sx={{ display: 'block', minHeight: 24 }}>
          {tenths !== null && `reached about ${plural(tenths, 'time')} in 10`}
        </Typography>
        {likePicture && (
          <Stack component="span" direction="row" spacing={1} sx={{ alignItems: 'center', mt: 0.5 }}>
            <PaintedView picture={likePicture.wanted} label="The picture" width={LIKE_PX} />
            <PaintedView
              picture={likePicture.apart}
              label="As this plan shows it, where it differs in red"
              width={LIKE_PX}
            />
            <span>
              {isNear(likePicture) ? 'Near the picture' : 'Not near'}: {likePicture.correlation.toFixed(2)},
              its lines {likePicture.directions.toFixed(2)}
            </span>
          </Stack>
        )}
        {offer.remaining.length > 0 && (
          <Typography component="span" sx={{ display: 'block', color: colours.oxide }}>
            {offer.remaining.length === 1 ? 'One thing' : `${offer.remaining.length} things`} to live with
          </Typography>
        )}
      </Box>
      <Tooltip title={isKept ? 'Kept: let it go' : 'Keep it, to compare'}>
        <IconButton
          size="small"
          aria-label={`Keep ${title}`}
          aria-pressed={isKept}
          onClick={() => keep(one.id)}
          sx={{ position: 'absolute', right: 6, bottom: 6 }}
        >
          {isKept ? <BookmarkIcon /> : <BookmarkBorderIcon />}
        </IconButton>
      </Tooltip>
    </Box>
  );
}
