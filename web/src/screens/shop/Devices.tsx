import { Alert, Box, Button, CircularProgress, Typography } from '@mui/material';
import { useConfirm } from 'material-ui-confirm';
import { useState } from 'react';
import type { Device, Role } from '../../../../core/shop/devices.ts';
import { doorApi, useAsker, useDevices } from '../../document/door.ts';
import { useServerChange } from '../../document/useServerChange.ts';
import { FiguresTable } from '../../ui/FiguresTable.tsx';
import { Section } from '../../ui/Section.tsx';
import { Toggles } from '../../ui/fields/Toggles.tsx';
import { Beside } from '../../ui/layout.tsx';
import { fonts } from '../../ui/theme.ts';
import { moment } from './CopyInside.tsx';

const MAY: readonly (readonly [Role, string])[] = [
  ['bench', 'The bench'],
  ['whole', 'Everything'],
];

/** Tablets in the shop's network: how one is let in, what each may, and how it is shut out. */
export function Devices() {
  const { data, error } = useDevices();
  const act = useServerChange(['devices']);
  if (!data)
    return error ? (
      <Alert severity="error">{error.message}</Alert>
    ) : (
      <CircularProgress aria-label="Loading the devices" />
    );
  return (
    <Beside second="minmax(340px, 0.6fr)">
      <Section title="Devices that were let in">
        {(error ?? act.error) && <Alert severity="error">{(error ?? act.error)!.message}</Alert>}
        {data.devices.length === 0 ? (
          <Typography>None yet. A tablet at the forge shows the bench and takes what came.</Typography>
        ) : (
          <FiguresTable heads={['Device', 'It may do', 'Let in', 'Seen', '(Shut it out)']} tight>
            {data.devices.map((device) => (
              <DeviceRow key={device.id} device={device} act={act.mutate} />
            ))}
          </FiguresTable>
        )}
        <Typography color="text.secondary" sx={{ mt: 1.5 }}>
          The bench: it reads plans, and writes what came, photographs and readings; it changes no plan and
          nothing of the shop. A device that is not used for thirty days has to be let in again.
        </Typography>
      </Section>
      <LetOneIn network={data.network} />
    </Beside>
  );
}

function DeviceRow({ device, act }: { device: Device; act(work: () => Promise<unknown>): void }) {
  const { id, name, role, letInAt, seenAt } = device;
  const own = useAsker()?.device?.id === id;
  const ask = useConfirm();
  const shutOut = async () => {
    const { confirmed } = await ask({
      title: `Shut “${name}” out? It has to be let in again by the passphrase.`,
      confirmationText: 'Shut it out',
    });
    if (confirmed) act(() => doorApi.shutOut(id));
  };
  return (
    <tr>
      <td style={{ overflowWrap: 'anywhere' }}>
        {name}
        {own && <Box sx={{ color: 'text.secondary' }}>this one</Box>}
      </td>
      <td>
        <Toggles
          label={`What “${name}” may do`}
          value={role}
          options={MAY}
          onChange={(to) => act(() => doorApi.change(id, { role: to }))}
        />
      </td>
      <td>{moment(letInAt)}</td>
      <td>{moment(seenAt)}</td>
      <td>
        <Button
          sx={{ whiteSpace: 'nowrap' }}
          aria-label={`Shut “${name}” out`}
          onClick={() => void shutOut()}
        >
          Shut out
        </Button>
      </td>
    </tr>
  );
}

function LetOneIn({ network }: Pick<NonNullable<ReturnType<typeof useDevices>['data']>, 'network'>) {
  const [passphrase, setPassphrase] = useState<string | null>(null);
  const act = useServerChange();
  const isHere = useAsker()?.device === null;
  if (!network)
    return (
      <Section title="Let one in">
        <Typography>
          Retablo answers on this machine alone just now. Stop it, and start it with{' '}
          <Box component="code">bin/start --shop</Box>: then tablets in the shop’s own network can be let in.
        </Typography>
      </Section>
    );
  const [first, ...others] = network.addresses;
  return (
    <Section title="Let one in">
      {!first && (
        <Typography>This machine is in no network just now: nothing but itself reaches it.</Typography>
      )}
      {first && (
        <>
          <Typography>
            Scan this with the tablet, or open the address on it; then type the passphrase.
          </Typography>
          <Box
            component="img"
            src={first.code}
            alt={`The address ${first.address} as a code to scan`}
            sx={{ width: 220, maxWidth: '100%', my: 1 }}
          />
          {[first, ...others].map(({ address }) => (
            <Typography key={address} sx={{ fontFamily: fonts.numbers, overflowWrap: 'anywhere' }}>
              {address}
            </Typography>
          ))}
        </>
      )}
      <Typography sx={{ mt: 1.5 }}>
        {passphrase ? (
          <>
            The passphrase is now <b style={{ fontFamily: fonts.numbers, fontSize: '1.3em' }}>{passphrase}</b>
          </>
        ) : (
          'The passphrase stands where Retablo was started; it is kept nowhere.'
        )}
      </Typography>
      {isHere && (
        <Button
          sx={{ alignSelf: 'start' }}
          variant="outlined"
          disabled={act.isPending}
          onClick={() => act.mutate(async () => setPassphrase(await doorApi.newPassphrase()))}
        >
          Make another passphrase
        </Button>
      )}
      {act.error && <Alert severity="error">{act.error.message}</Alert>}
      {!network.encrypted && (
        <Alert severity="info" sx={{ mt: 1.5 }}>
          What is sent in the network is not encrypted: whoever listens in it can read along. Keep it to the
          shop’s own network, or start it with a certificate (README.md).
        </Alert>
      )}
    </Section>
  );
}
