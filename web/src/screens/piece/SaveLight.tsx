import CheckIcon from '@mui/icons-material/Check';
import CloudOffIcon from '@mui/icons-material/CloudOff';
import ErrorIcon from '@mui/icons-material/Error';
import SyncIcon from '@mui/icons-material/Sync';
import { Stack } from '@mui/material';
import { colours } from '../../ui/theme.ts';
import { type SaveState, usePlanStore } from '../../document/planStore.ts';
import { useWaiting } from '../../document/unsaved.ts';

function words(save: SaveState, kept: boolean): string {
  switch (save.kind) {
    case 'saved':
      return 'Saved';
    case 'unsaved':
      return 'Unsaved';
    case 'saving':
      return 'Saving…';
    case 'offline':
      return kept
        ? `${save.message.split(/[.:;]/)[0]}: kept here`
        : `Not saved: ${save.message} Trying again.`;
    case 'refused':
      return `Not saved: ${save.message}`;
    case 'conflict':
      return 'Changed elsewhere: choose which to keep';
  }
}

function titleOf(save: SaveState): string | undefined {
  if (save.kind === 'saved' && save.at) return `at ${save.at.toLocaleTimeString([], { hourCycle: 'h23' })}`;
  return save.kind === 'offline'
    ? 'What you change is kept in this browser and sent when the server is back.'
    : undefined;
}

const ICONS = {
  saved: CheckIcon,
  unsaved: SyncIcon,
  saving: SyncIcon,
  offline: CloudOffIcon,
  refused: ErrorIcon,
  conflict: ErrorIcon,
};

/** Whether what is on screen is safe, always visible. */
export function SaveLight() {
  const save = usePlanStore((state) => state.save);
  const kept = useWaiting((state) => state.kept);
  const Icon = ICONS[save.kind];
  const trouble = save.kind === 'offline' || save.kind === 'refused' || save.kind === 'conflict';
  return (
    <Stack
      direction="row"
      spacing={0.5}
      role="status"
      aria-label="Saving"
      title={titleOf(save)}
      sx={{
        alignItems: 'center',
        color: trouble ? colours.alarm : save.kind === 'saved' ? colours.verdigris : colours.faded,
        // As wide as the longest of the usual words: what stands beside it must not move while a piece is saved.
        minWidth: 96,
        whiteSpace: trouble ? 'normal' : 'nowrap',
      }}
    >
      <Icon fontSize="small" />
      <span>{words(save, kept)}</span>
    </Stack>
  );
}
