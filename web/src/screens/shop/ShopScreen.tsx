import { Box, Stack, Typography } from '@mui/material';
import { useEffect, useMemo } from 'react';
import { Navigate, useParams } from 'react-router';
import { makeShop } from '../../../../core/shop/shop.ts';
import { NavTab, PageHead } from '../../ui/layout.tsx';
import { fonts } from '../../ui/theme.ts';
import { InShop } from '../../editors/form/InShop.tsx';
import { Copies } from './Copies.tsx';
import { Devices } from './Devices.tsx';
import { Learned } from './Learned.tsx';
import { Log } from './Log.tsx';
import { Materials } from './Materials.tsx';
import { Rack } from './Rack.tsx';
import { SetUps } from './SetUps.tsx';
import { useRole } from '../../document/door.ts';
import { useOwnMaterials, useSetups } from '../../document/shopApi.ts';

const PARTS = [
  ['setups', 'Set-ups', SetUps],
  ['materials', 'Materials', Materials],
  ['rack', 'Rack', Rack],
  ['log', 'Log', Log],
  ['learned', 'Learned', Learned],
  ['devices', 'Devices', Devices],
  ['copies', 'Copies', Copies],
] as const;

/** What the shop has beside its pieces: set-ups of its machines, materials, bars on the rack, the log of all pieces and what was learned from it, devices; and copies of all of it. */
export function Component() {
  const { what = 'setups' } = useParams();
  const { data: setups } = useSetups();
  const { data: own } = useOwnMaterials();
  useEffect(() => {
    document.title = 'Shop · Retablo';
  }, []);
  // Units as in the first set-up; pieces have their own.
  const [, , Part] = PARTS.find(([id]) => id === what) ?? PARTS[0];
  const shop = useMemo(() => makeShop(setups?.[0]?.settings, own), [setups, own]);
  if (useRole() === 'bench') return <Navigate to="/" replace />;
  return (
    <InShop shop={shop}>
      <PageHead>
        <Typography component="h1" sx={{ fontFamily: fonts.title, fontSize: '1.25rem' }}>
          The shop
        </Typography>
        <Stack component="nav" aria-label="Parts of the shop" direction="row" spacing={0.5}>
          {PARTS.map(([id, text]) => (
            <NavTab key={id} to={`/shop/${id}`} text={text} here={what === id} />
          ))}
        </Stack>
      </PageHead>
      <Box component="main" sx={{ px: 2.5, py: 2, maxWidth: 1300 }}>
        <Part />
      </Box>
    </InShop>
  );
}
