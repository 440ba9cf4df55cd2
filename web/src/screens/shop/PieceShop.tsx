import { useServerChange } from '../../document/useServerChange.ts';
import { WordField } from '../../ui/fields/WordField.tsx';
import { Alert, Box, Button, Menu, MenuItem, Stack, Typography } from '@mui/material';
import { useState } from 'react';
import { useSnackbar } from 'notistack';
import { Link } from 'react-router';
import { type ShopSettings, shopSchema } from '../../../../core/shop/shop.ts';
import { proposalsFor } from '../../../../core/learning/index.ts';
import { useShopLearned } from '../../document/learning.ts';
import { editPlan } from '../../document/planStore.ts';
import { useEvaluation } from '../../document/useEvaluation.ts';
import { PieceMaterials } from './PieceMaterials.tsx';
import { ShopForm } from './ShopForm.tsx';
import { shopApi, useSetups } from '../../document/shopApi.ts';

/** The shop that this piece is planned for: its own copy, taken from a set-up or kept as one. */
export default function PieceShop() {
  const { plan } = useEvaluation();
  const change = (some: Partial<ShopSettings>) =>
    editPlan((p) => ({ ...p, shop: { ...p.shop, ...some } }), `shop ${Object.keys(some).join()}`);
  return (
    <Box component="main" sx={{ px: 2.5, py: 1.5, flex: 1, minHeight: 0, overflowY: { md: 'auto' } }}>
      <Stack
        direction="row"
        useFlexGap
        spacing={1.5}
        sx={{ alignItems: 'center', flexWrap: 'wrap', mb: 1.75 }}
      >
        <Typography variant="h1">The shop for this piece</Typography>
        <WordField
          label="Set-up"
          schema={shopSchema.shape.name.unwrap()}
          value={plan.shop.name}
          width={260}
          onChange={(name) => change({ name })}
        />
        <TakeSetup change={change} />
        <KeepSetup settings={plan.shop} />
        <Button component={Link} to="/shop" sx={{ ml: 'auto' }}>
          All set-ups, materials, the rack
        </Button>
      </Stack>
      <NewerNumbers shop={plan.shop} change={change} />
      <ShopForm shop={plan.shop} change={change} />
      <PieceMaterials />
    </Box>
  );
}

/** What the shop learned since, where it is other than what this piece was planned with. */
function NewerNumbers({ shop, change }: { shop: ShopSettings; change(some: Partial<ShopSettings>): void }) {
  const { data } = useShopLearned();
  const newer = data ? proposalsFor(shop, data.learned) : [];
  if (newer.length === 0) return null;
  return (
    <Alert
      severity="info"
      sx={{ mb: 1.75 }}
      action={
        <Button
          sx={{ whiteSpace: 'nowrap' }}
          onClick={() => change(Object.fromEntries(newer.map((p) => [p.field, p.to])))}
        >
          Take all {newer.length}
        </Button>
      }
    >
      The shop’s records say otherwise than this piece was planned with: {newer.map((p) => p.text).join('; ')}
      .
    </Alert>
  );
}

function TakeSetup({ change }: { change(some: Partial<ShopSettings>): void }) {
  const { data } = useSetups();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  return (
    <>
      <Button variant="outlined" disabled={!data?.length} onClick={(e) => setAnchor(e.currentTarget)}>
        Take a set-up…
      </Button>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)}>
        {data?.map((setup) => (
          <MenuItem
            key={setup.id}
            onClick={() => {
              setAnchor(null);
              change(setup.settings);
            }}
          >
            {setup.name}
          </MenuItem>
        ))}
      </Menu>
    </>
  );
}

function KeepSetup({ settings }: { settings: ShopSettings }) {
  const { enqueueSnackbar } = useSnackbar();
  const { data } = useSetups();
  const change = useServerChange(['setups']);
  const keep = async () => {
    const kept = await shopApi.keepSetup(shopSchema.parse(settings));
    enqueueSnackbar(`Kept as “${kept.name}”.`, { variant: 'success' });
  };
  const there = data?.some((s) => s.name === settings.name);
  return (
    <>
      <Button variant="outlined" disabled={change.isPending} onClick={() => change.mutate(keep)}>
        {there ? 'Change the set-up of this name' : 'Keep as a set-up'}
      </Button>
      {change.error && <Alert severity="error">{change.error.message}</Alert>}
    </>
  );
}
