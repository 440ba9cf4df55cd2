import {
  Alert,
  Box,
  Button,
  CircularProgress,
  Stack,
  TextField,
  ToggleButton,
  ToggleButtonGroup,
  Typography,
} from '@mui/material';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useEffect, useMemo, useState } from 'react';
import { type ShopSettings, makeShop, shopSchema } from '../../../core/shop/shop.ts';
import { colours } from '../app/theme.ts';
import { ShopContext } from '../plan/useEvaluation.ts';
import { ShopForm } from './ShopForm.tsx';
import { type StoredSetup, shopApi, useOwnMaterials, useSetups } from './shopApi.ts';

/** Quiet after the last change before a set-up is kept, ms. */
const QUIET_MS = 600;

/** Named set-ups of the shop's machines; a piece takes a copy of one. */
export function SetUps() {
  const { data: setups, error } = useSetups();
  const [chosen, setChosen] = useState<string | null>(null);
  const client = useQueryClient();
  const refresh = () => client.invalidateQueries({ queryKey: ['setups'] });
  const add = useMutation({
    mutationFn: () => {
      const names = new Set(setups?.map((s) => s.name));
      let n = 1;
      while (names.has(`Set-up ${n}`)) n++;
      return shopApi.keepSetup(shopSchema.parse({ ...setups?.[0]?.settings, name: `Set-up ${n}` }));
    },
    onSuccess: async (made) => {
      await refresh();
      setChosen(made.id);
    },
  });
  if (error) return <Alert severity="error">{error.message}</Alert>;
  if (!setups) return <CircularProgress aria-label="Loading the set-ups" />;
  const current = setups.find((s) => s.id === chosen) ?? setups[0];
  return (
    <>
      <Typography color="text.secondary" sx={{ mb: 1.5 }}>
        A set-up is what the machines of a shop take and can do. A piece takes a copy of one, so that a new
        saw does not change a plan that hangs on the wall already.
      </Typography>
      <Stack direction="row" useFlexGap spacing={1} sx={{ flexWrap: 'wrap', mb: 2, alignItems: 'center' }}>
        <ToggleButtonGroup
          exclusive
          size="small"
          value={current?.id ?? null}
          onChange={(_, id: string | null) => id && setChosen(id)}
          aria-label="Set-up"
        >
          {setups.map((s) => (
            <ToggleButton key={s.id} value={s.id} sx={{ textTransform: 'none', color: colours.ink }}>
              {s.name}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
        <Button disabled={add.isPending} onClick={() => add.mutate()}>
          Another set-up
        </Button>
      </Stack>
      {add.error && <Alert severity="error">{add.error.message}</Alert>}
      {current && <OneSetup key={current.id} setup={current} onChanged={refresh} />}
    </>
  );
}

function OneSetup({ setup, onChanged }: { setup: StoredSetup; onChanged(): Promise<unknown> }) {
  const [settings, setSettings] = useState(setup.settings);
  const [name, setName] = useState(setup.name);
  const { data: own } = useOwnMaterials();
  const keep = useMutation({ mutationFn: shopApi.keepSetup, onSuccess: onChanged });
  const { mutate } = keep;
  useEffect(() => {
    if (settings === setup.settings) return;
    const timer = setTimeout(() => mutate(settings), QUIET_MS);
    return () => clearTimeout(timer);
    // The stored settings come back equal; only changes made here are sent.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [settings, mutate]);
  const rename = useMutation({
    mutationFn: async (to: string) => {
      await shopApi.keepSetup({ ...settings, name: to });
      await shopApi.removeSetup(setup.id);
    },
    onSuccess: onChanged,
  });
  const remove = useMutation({ mutationFn: () => shopApi.removeSetup(setup.id), onSuccess: onChanged });
  const shop = useMemo(() => makeShop(settings, own), [settings, own]);
  const error = keep.error ?? remove.error ?? rename.error;
  const commit = () => {
    const trimmed = name.trim();
    if (trimmed === '') setName(setup.name);
    else if (trimmed !== setup.name) rename.mutate(trimmed);
  };
  return (
    <ShopContext value={shop}>
      <Stack direction="row" useFlexGap spacing={1.5} sx={{ mb: 2, alignItems: 'center', flexWrap: 'wrap' }}>
        <TextField
          label="Name of the set-up"
          value={name}
          onChange={(e) => setName(e.target.value.slice(0, 60))}
          onBlur={commit}
          onKeyDown={(e) => e.key === 'Enter' && (e.target as HTMLElement).blur()}
          sx={{ width: 300 }}
        />
        <Button
          onClick={() => window.confirm(`Take the set-up “${setup.name}” off the list?`) && remove.mutate()}
        >
          Remove this set-up…
        </Button>
        <Typography role="status" color="text.secondary">
          {keep.isPending ? 'Keeping…' : keep.isSuccess ? 'Kept' : ''}
        </Typography>
      </Stack>
      {error && (
        <Alert severity="error" sx={{ mb: 2 }}>
          {error.message}
        </Alert>
      )}
      <Box>
        <ShopForm
          shop={settings}
          change={(some: Partial<ShopSettings>) => setSettings({ ...settings, ...some })}
        />
      </Box>
    </ShopContext>
  );
}
