import {
  Alert,
  Box,
  Button,
  Checkbox,
  CircularProgress,
  FormControlLabel,
  Stack,
  Typography,
} from '@mui/material';
import { useConfirm } from 'material-ui-confirm';
import { useSnackbar } from 'notistack';
import { useEffect, useRef, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { type Wish, nameWith, wishSchema } from '../../../../core/plan/index.ts';
import { isNear, recipeOf } from '../../../../core/recipes/index.ts';
import { api } from '../../document/api.ts';
import { editPlan, select, usePlanStore } from '../../document/planStore.ts';
import { useRecords } from '../../document/records.ts';
import { useEvaluation } from '../../document/useEvaluation.ts';
import {
  type Found,
  keep,
  lookAnew,
  lookBeside,
  lookFor,
  lookLike,
  more,
  pieceOf,
  stopLooking,
  useWishes,
  wishKey,
} from '../../document/wishes.ts';
import { SteelAndNumbers } from '../../ui/layout.tsx';
import { Choice } from '../../ui/fields/Choice.tsx';
import { CandidateCard } from './CandidateCard.tsx';
import { Closer } from './Closer.tsx';
import { Compare } from './Compare.tsx';
import { ElementOnBlade } from './ElementOnBlade.tsx';
import { FromPicture } from './FromPicture.tsx';
import { FAMILIES, type Filters, ORDERS, TAKES, TURNS, passing } from './filters.ts';
import { Recipes } from './Recipes.tsx';
import { Reasons } from './Reasons.tsx';
import { WishForm } from './WishForm.tsx';

/** ms that a wish is left alone before plans are looked for. */
const QUIET_MS = 700;

/** Which plan of which gallery is looked at closely, and of which kind more are. */
interface LookingAt {
  readonly key: string;
  readonly opened: number | null;
  readonly kindOf: number | null;
}
const NOWHERE = { opened: null, kindOf: null } as const;

/** What the maker wishes for, and the plans that come near it, as blades. */
export default function WishView() {
  const { id = '' } = useParams();
  const { plan } = useEvaluation();
  const wish = plan.wish ?? wishSchema.parse({});
  const gallery = useWishes();
  const [chosen, setFilters] = useState<Filters>({
    group: 'all',
    turns: 'any',
    takes: 'any',
    order: 'unlike',
    isClean: false,
  });
  const [looking, setLooking] = useState<LookingAt>({ key: '', ...NOWHERE });
  const [comparing, setComparing] = useState(false);
  const [isBrowsing, setBrowsing] = useState(false);
  const key = wishKey(id, plan, wish);
  const isPresent = gallery.key === key;
  // Numbers of another gallery say nothing in this one.
  const { opened, kindOf } = looking.key === key ? looking : NOWHERE;
  const setOpened = (to: number | null) => setLooking({ key, kindOf, opened: to });
  const setKindOf = (to: number | null) => setLooking({ key, kindOf: to, opened: null });
  const looked = useRef<string | null>(null);
  useEffect(() => {
    if (useWishes.getState().key === key) return;
    // What is opened is looked for at once; what is still being said, when it is left alone.
    const isOpened = looked.current !== id;
    looked.current = id;
    const later = setTimeout(() => lookAnew(key, pieceOf(plan), wish), isOpened ? 0 : QUIET_MS);
    return () => clearTimeout(later);
    // The key says all that decides what is found.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  useEffect(() => stopLooking, []);
  const begin = useBeginning();
  const change = (some: Partial<Wish>) =>
    editPlan((p) => ({ ...p, wish: { ...(p.wish ?? wish), ...some } }), 'wish');
  const found = isPresent ? gallery.found : [];
  // By a picture only while one is looked for, or was.
  const isByPicture = isPresent && (gallery.progress !== null || found.some((f) => f.likePicture));
  const filters: Filters = {
    ...chosen,
    order: chosen.order === 'picture' && !isByPicture ? 'unlike' : chosen.order,
  };
  const passed = passing(found, filters);
  const shown =
    kindOf === null
      ? passed.filter((one) => one.like === null)
      : passed.filter((one) => one.id === kindOf || one.like === kindOf);
  const one = found.find((f) => f.id === opened);
  const kept = found.filter((f) => gallery.kept.includes(f.id));
  const beside = (how: 'vary' | 'more of a kind') => {
    if (!one) return;
    lookBeside(key, pieceOf(plan), wish, { id: one.like ?? one.id, spec: one.offer.spec }, how);
    setKindOf(one.like ?? one.id);
  };
  return (
    <>
      <SteelAndNumbers
        leastSteelPx={640}
        steelScrolls
        steel={
          <Stack spacing={1.5}>
            <ElementOnBlade plan={plan} wish={wish} change={change} />
            <Stack direction="row" useFlexGap spacing={1.5} sx={{ flexWrap: 'wrap', alignItems: 'center' }}>
              <Choice
                label="Family"
                width={170}
                value={filters.group}
                options={Object.entries(FAMILIES) as [Filters['group'], string][]}
                onChange={(group) => setFilters({ ...filters, group })}
              />
              <Choice
                label="The face"
                width={160}
                value={filters.turns}
                options={Object.entries(TURNS) as [Filters['turns'], string][]}
                onChange={(turns) => setFilters({ ...filters, turns })}
              />
              <Choice
                label="Steel and work"
                width={160}
                value={filters.takes}
                options={Object.entries(TAKES) as [Filters['takes'], string][]}
                onChange={(takes) => setFilters({ ...filters, takes })}
              />
              <Choice
                label="Order"
                width={170}
                value={filters.order}
                options={(Object.entries(ORDERS) as [Filters['order'], string][]).filter(
                  ([order]) => order !== 'picture' || isByPicture,
                )}
                onChange={(order) => setFilters({ ...filters, order })}
              />
              {kept.length > 0 && (
                <Button onClick={() => setComparing(true)}>Compare {kept.length} kept</Button>
              )}
            </Stack>
            <Stack
              direction="row"
              useFlexGap
              spacing={1.5}
              sx={{ alignItems: 'center', flexWrap: 'wrap', minHeight: 40 }}
            >
              <FormControlLabel
                control={
                  <Checkbox
                    size="small"
                    checked={filters.isClean}
                    onChange={() => setFilters({ ...filters, isClean: !filters.isClean })}
                  />
                }
                label="Nothing to live with"
              />
              <FromPicture
                look={(picture) => {
                  setFilters({ ...filters, order: 'picture' });
                  setLooking({ key, ...NOWHERE });
                  lookLike(key, pieceOf(plan), wish, picture);
                }}
              />
              <Button onClick={() => setBrowsing(true)}>Ways to a pattern</Button>
              {filters.recipe && (
                <Button onClick={() => setFilters({ ...filters, recipe: undefined })}>
                  {recipeOf(filters.recipe).name} alone: show all
                </Button>
              )}
              {kindOf !== null && <Button onClick={() => setKindOf(null)}>Back to all kinds</Button>}
              <Typography role="status">
                {isPresent ? foundSaid(found, passed, isByPicture) : 'The wish has changed: looking anew …'}
              </Typography>
              {gallery.looking && isPresent && (
                <>
                  <CircularProgress
                    size={20}
                    aria-label="Looking"
                    {...(gallery.progress !== null && {
                      variant: 'determinate',
                      value: 100 * gallery.progress,
                    })}
                  />
                  <Button onClick={stopLooking}>Stop looking</Button>
                </>
              )}
              {!gallery.looking && isPresent && (
                <Button variant="outlined" onClick={() => more(key, pieceOf(plan), wish)}>
                  Look for more
                </Button>
              )}
            </Stack>
            {gallery.error && <Alert severity="error">{gallery.error}</Alert>}
            {isPresent && !gallery.looking && (
              <NothingNear
                found={found}
                draw={() => {
                  setFilters({ ...filters, order: 'unlike', group: 'can' });
                  lookFor(key, pieceOf(plan), wish, 'drawing');
                }}
              />
            )}
            <Box
              component="ul"
              aria-label="Plans found"
              sx={{
                m: 0,
                p: 0,
                display: 'grid',
                gap: 1.5,
                gridTemplateColumns: 'repeat(auto-fill, minmax(min(100%, 370px), 1fr))',
              }}
            >
              {shown.map((f) => (
                <CandidateCard
                  key={f.id}
                  one={f}
                  isKept={gallery.kept.includes(f.id)}
                  isAsked={isPresent && !gallery.looking}
                  alike={kindOf === null ? passed.filter((o) => o.like === f.id).length : 0}
                  open={() => setOpened(f.id)}
                />
              ))}
            </Box>
            {isPresent && !gallery.looking && <Reasons found={found} recipe={filters.recipe} />}
          </Stack>
        }
        numbers={<WishForm wish={wish} change={change} />}
      />
      {one && (
        <Closer
          one={one}
          isKept={gallery.kept.includes(one.id)}
          close={() => setOpened(null)}
          keep={() => keep(one.id)}
          begin={() => void begin(one)}
          vary={() => beside('vary')}
          moreOfAKind={() => beside('more of a kind')}
        />
      )}
      {isBrowsing && (
        <Recipes
          wish={wish}
          close={() => setBrowsing(false)}
          choose={(recipe) => {
            setBrowsing(false);
            setFilters({ ...filters, order: 'unlike', group: 'all', recipe });
            lookFor(key, pieceOf(plan), wish, recipe);
          }}
        />
      )}
      {comparing && (
        <Compare
          kept={kept}
          close={() => setComparing(false)}
          open={(which) => {
            setComparing(false);
            setOpened(which);
          }}
        />
      )}
    </>
  );
}

/** How many there are, how many of them are looked at, and of how many kinds all are. */
function foundSaid(found: readonly Found[], passed: readonly Found[], isByPicture: boolean): string {
  const some = passed.length === found.length ? '' : `${passed.length} ${isByPicture ? 'shown' : 'pass'}, `;
  return `${found.length} plans found, ${some}${found.filter((f) => f.like === null).length} kinds`;
}

/** Where nothing comes near the picture that was looked for. */
function NothingNear({ found, draw }: { found: readonly Found[]; draw(): void }) {
  const like = found.flatMap((one) => one.likePicture ?? []);
  if (like.length === 0 || like.some(isNear)) return null;
  return (
    <Alert severity="info" action={<Button onClick={draw}>Drawings in powders</Button>}>
      Nothing that is stacked, pressed and laid comes near this picture. In powders it can be had: begin with
      a drawing, and open the picture in its can.
    </Alert>
  );
}

/** Begins with a plan: it becomes the piece's own; where something stands already it is asked first, and what is at the bench is left alone. */
function useBeginning() {
  const ask = useConfirm();
  const navigate = useNavigate();
  const { id } = useParams();
  const { enqueueSnackbar } = useSnackbar();
  return async ({ offer }: Found) => {
    const { plan } = usePlanStore.getState();
    if (!plan) return;
    const { lanes, shop } = offer.plan;
    if (useRecords.getState().records.length > 0) {
      const { confirmed } = await ask({
        title: 'Work on this piece has begun. Begin a new piece with this plan?',
        confirmationText: 'Begin a new piece',
      });
      if (!confirmed) return;
      const made = await api.create({ ...offer.plan, name: nameWith(plan.name, ', another way') });
      return navigate(`/pieces/${made.id}`);
    }
    if (plan.lanes.some((l) => l.steps.length > 0)) {
      const { confirmed } = await ask({
        title: 'Put this plan in place of the moves that are there? Undo brings them back.',
        confirmationText: 'Put it in place',
      });
      if (!confirmed) return;
    }
    editPlan(
      (p) => ({
        ...p,
        free: undefined,
        lanes,
        shop: { ...p.shop, biteMm: shop.biteMm, handle: shop.handle },
      }),
      'begin with',
    );
    select(lanes.at(-1)?.steps.at(-1)?.id ?? null);
    enqueueSnackbar('It is the piece’s plan now: every move of it can be changed.');
    return navigate(`/pieces/${id}`);
  };
}
