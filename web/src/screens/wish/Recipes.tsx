import { Box, Typography } from '@mui/material';
import { useEffect } from 'react';
import type { Wish } from '../../../../core/plan/index.ts';
import { GROUPS, type Group, type Recipe, RECIPES, lacking } from '../../../../core/recipes/index.ts';
import { PaintedView } from '../../benches/steel/PaintedView.tsx';
import { paintRecipes, useRecipePictures } from '../../document/wishes.ts';
import { colours } from '../../ui/theme.ts';
import { WholeScreen } from '../../ui/WholeScreen.tsx';

/** px. */
const PICTURE_PX = 150;

interface RecipesProps {
  wish: Wish;
  close(): void;
  /** Plans of one are wanted. */
  choose(recipe: string): void;
}

/** Every way to a pattern, by its picture and in words. */
export function Recipes({ wish, close, choose }: RecipesProps) {
  useEffect(paintRecipes, []);
  return (
    <WholeScreen title="Ways to a pattern" onClose={close}>
      {(Object.entries(GROUPS) as [Group, string][]).map(([group, name]) => (
        <Box key={group} component="section">
          <Typography variant="h3" sx={{ mb: 1 }}>
            {name}
          </Typography>
          <Box
            sx={{
              display: 'grid',
              gap: 1.5,
              gridTemplateColumns: 'repeat(auto-fill, minmax(min(100%, 370px), 1fr))',
            }}
          >
            {RECIPES.filter((r) => r.group === group).map((recipe) => (
              <OneOfThem
                key={recipe.id}
                recipe={recipe}
                lacks={lacking(recipe, wish)}
                choose={() => choose(recipe.id)}
              />
            ))}
          </Box>
        </Box>
      ))}
    </WholeScreen>
  );
}

interface OneOfThemProps {
  recipe: Recipe;
  /** What the wish says the shop has not. */
  lacks: string | null;
  choose(): void;
}

function OneOfThem({ recipe, lacks, choose }: OneOfThemProps) {
  const picture = useRecipePictures((pictures) => pictures[recipe.id]);
  return (
    <Box
      component="button"
      onClick={choose}
      disabled={lacks !== null}
      aria-label={`Plans of ${recipe.name}`}
      sx={{
        display: 'flex',
        gap: 1.5,
        p: 1,
        font: 'inherit',
        color: 'inherit',
        textAlign: 'left',
        border: `1px solid ${colours.line}`,
        borderRadius: '6px',
        background: colours.gesso,
        cursor: lacks ? 'default' : 'pointer',
        '&:hover': { borderColor: lacks ? colours.line : colours.gilding },
      }}
    >
      <Box sx={{ width: PICTURE_PX, minHeight: PICTURE_PX, flex: 'none' }}>
        {picture && <PaintedView picture={picture} label={recipe.name} width={PICTURE_PX} />}
      </Box>
      <span>
        <Typography component="span" sx={{ display: 'block', fontWeight: 700 }}>
          {recipe.name}
        </Typography>
        <Typography component="span">{recipe.text}</Typography>
        {lacks && (
          <Typography component="span" sx={{ display: 'block', color: colours.oxide }}>
            Needs {lacks}, which the wish leaves out.
          </Typography>
        )}
      </span>
    </Box>
  );
}
