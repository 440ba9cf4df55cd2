import { Button } from '@mui/material';
import { useConfirm } from 'material-ui-confirm';
import { doorApi, useAsker } from '../../document/door.ts';
import { useServerChange } from '../../document/useServerChange.ts';

/** On a device for the bench: what it is called, and how it leaves. */
export function Leave() {
  const name = useAsker()?.device?.name;
  const act = useServerChange();
  const ask = useConfirm();
  const leave = async () => {
    const { confirmed } = await ask({
      title: 'Let this device out? It is let in again by the passphrase.',
      confirmationText: 'Let it out',
    });
    if (confirmed)
      act.mutate(async () => {
        await doorApi.leave();
        location.assign('/door');
      });
  };
  return (
    <Button sx={{ ml: 'auto' }} onClick={() => void leave()}>
      {name}: let it out
    </Button>
  );
}
