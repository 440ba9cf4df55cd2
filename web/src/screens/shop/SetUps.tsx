import { type StoredSetup } from '../../../../core/plan/index.ts';
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
import { useConfirm } from 'material-ui-confirm';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { type ShopSettings, makeShop, shopSchema } from '../../../../core/shop/shop.ts';
import { colours } from '../../ui/theme.ts';
import { InShop } from '../../editors/form/InShop.tsx';
import { inUnit } from '../../../../core/shop/units.ts';
import { ShopForm } from './ShopForm.tsx';
import { shopApi, useOwnMaterials, useSetups } from '../../document/shopApi.ts';

/** Quiet after the last change before a set-up is kept, ms. */
const QUIET_MS = 600;

/** Named set-ups of the shop's machines; a piece takes a copy of one. */
export function SetUps() {
  const { data: setups, error } = useSetups();
  const [chosen, setChosen] = useState<string | null>(null);
  // Set with the press itself: until the new one is there, nothing can be typed into the old one.
  const [adding, setAdding] = useState(false);
  const [made, setMade] = useState<string | null>(null);
  const client = useQueryClient();
  const refresh = () => client.invalidateQueries({ queryKey: ['setups'] });
  const add = useMutation({
    mutationFn: (others: StoredSetup[]) => {
      const names = new Set(others.map((s) => s.name));
      let n = 1;
      while (names.has(`Set-up ${n}`)) n++;
      return shopApi.keepSetup(shopSchema.parse({ ...others[0]?.settings, name: `Set-up ${n}` }));
    },
    onSuccess: async ({ id }) => {
      await refresh();
      setChosen(id);
      setMade(id);
    },
    onSettled: () => setAdding(false),
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
        <Button
          disabled={adding}
          onClick={() => {
            setAdding(true);
            add.mutate(setups);
          }}
        >
          Another set-up
        </Button>
      </Stack>
      {add.error && <Alert severity="error">{add.error.message}</Alert>}
      {adding && <CircularProgress aria-label="Adding a set-up" />}
      {current && !adding && (
        <OneSetup
          key={current.id}
          setup={current}
          others={setups.filter((s) => s !== current).map((s) => s.name)}
          isNew={current.id === made}
          onChanged={refresh}
        />
      )}
    </>
  );
}

interface OneSetupProps {
  setup: StoredSetup;
  /** Names that are taken. */
  others: string[];
  /** Just made: its name is what to type first. */
  isNew: boolean;
  onChanged(): Promise<unknown>;
}

function OneSetup({ setup, others, isNew, onChanged }: OneSetupProps) {
  const [settings, setSettings] = useState(setup.settings);
  const [name, setName] = useState(setup.name);
  const { data: own } = useOwnMaterials();
  const client = useQueryClient();
  const keep = useMutation({
    mutationFn: ({ some, leaving }: { some: ShopSettings; leaving: boolean }) =>
      shopApi.changeSetup(setup.id, some, leaving),
    onSuccess: onChanged,
    scope: { id: `set-up ${setup.id}` },
  });
  const { mutate } = keep;
  const unsaved = useRef<ShopSettings | null>(null);
  const change = (some: Partial<ShopSettings>) => {
    const now = unsaved.current ?? settings;
    const { masses, temperatures } = now;
    // No plan goes by a set-up once it has begun: what was never set is proposed anew in the other unit.
    const turned =
      some.lengths && some.lengths.unit !== now.lengths.unit
        ? { ...inUnit(now, some.lengths.unit), masses, temperatures }
        : now;
    unsaved.current = { ...turned, ...some };
    setSettings(unsaved.current);
  };
  const save = useCallback(
    (leaving = false) => {
      const some = unsaved.current;
      if (!some) return;
      unsaved.current = null;
      // Whoever comes back before the server has answered finds what was typed.
      void client.cancelQueries({ queryKey: ['setups'] });
      client.setQueryData<StoredSetup[]>(['setups'], (all) =>
        all?.map((s) => (s.id === setup.id ? { ...s, name: some.name, settings: some } : s)),
      );
      mutate({ some, leaving });
    },
    [client, mutate, setup.id],
  );
  useEffect(() => {
    const timer = setTimeout(save, QUIET_MS);
    return () => clearTimeout(timer);
  }, [settings, save]);
  // Another set-up, screen or page: what was changed a moment ago is kept first.
  useEffect(() => {
    const leave = () => save(true);
    window.addEventListener('pagehide', leave);
    return () => {
      window.removeEventListener('pagehide', leave);
      save();
    };
  }, [save]);
  const remove = useMutation({
    mutationFn: () => shopApi.removeSetup(setup.id),
    onMutate: () => {
      unsaved.current = null;
    },
    onSuccess: onChanged,
  });
  const ask = useConfirm();
  const shop = useMemo(() => makeShop(settings, own), [settings, own]);
  const error = keep.error ?? remove.error;
  const trimmed = name.trim();
  const allowed = shopSchema.shape.name.safeParse(name);
  const taken = others.includes(trimmed);
  const takeOff = async () => {
    const { confirmed } = await ask({ title: `Take the set-up “${setup.name}” off the list?` });
    if (confirmed) remove.mutate();
  };
  const commit = () => {
    if (!allowed.success) setName(settings.name);
    else if (!taken && trimmed !== settings.name) change({ name: trimmed });
  };
  return (
    <InShop shop={shop}>
      <Stack direction="row" useFlexGap spacing={1.5} sx={{ mb: 2, alignItems: 'center', flexWrap: 'wrap' }}>
        <TextField
          label="Name of the set-up"
          value={name}
          error={taken}
          helperText={taken && `Another set-up is named so; this one is still “${settings.name}”.`}
          autoFocus={isNew}
          onFocus={(e) => isNew && name === setup.name && e.target.select()}
          onChange={(e) => setName(e.target.value)}
          onBlur={commit}
          onKeyDown={(e) => e.key === 'Enter' && (e.target as HTMLElement).blur()}
          sx={{ width: 300 }}
        />
        <Button onClick={() => void takeOff()}>Remove this set-up…</Button>
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
        <ShopForm shop={settings} change={change} />
      </Box>
    </InShop>
  );
}
