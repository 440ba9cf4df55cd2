import SaveAltIcon from '@mui/icons-material/SaveAlt';
import { Alert, Box, Button, CircularProgress, Typography } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useSnackbar } from 'notistack';
import { useState } from 'react';
import type { CopyOnDisk, TakenIn } from '../../../../core/copies/standing.ts';
import { type LookedInto, copiesApi } from '../../document/copiesApi.ts';
import { useServerChange } from '../../document/useServerChange.ts';
import { FiguresTable } from '../../ui/FiguresTable.tsx';
import { FileButton } from '../../ui/FileButton.tsx';
import { Section } from '../../ui/Section.tsx';
import { Beside } from '../../ui/layout.tsx';
import { fonts } from '../../ui/theme.ts';
import { CopyInside, moment } from './CopyInside.tsx';

const WHY: Readonly<Record<CopyOnDisk['why'], string>> = {
  daily: 'of the day',
  'before an update': 'before an update of Retablo',
  'before a restore': 'before a copy was restored',
};

const size = (bytes: number): string =>
  bytes < 999_500 ? `${Math.ceil(bytes / 1000)} kB` : `${(bytes / 1e6).toFixed(1)} MB`;

function said({ added, wentOn, beside, parts }: TakenIn): string {
  const of = [
    [added, 'new'],
    [wentOn, 'went on'],
    [beside, 'put beside'],
    [parts, 'of the shop'],
  ] as const;
  const told = of.filter(([n]) => n > 0).map(([n, what]) => `${n} ${what}`);
  return told.length > 0 ? `Taken in: ${told.join(', ')}.` : 'There was nothing to take in.';
}

/** Everything in one file, out and in, and the copies that are made by themselves. */
export function Copies() {
  const { data: copies, error } = useQuery({ queryKey: ['copies'], queryFn: copiesApi.list, staleTime: 0 });
  const [looked, setLooked] = useState<LookedInto | null>(null);
  const { enqueueSnackbar } = useSnackbar();
  const act = useServerChange(['projects'], ['setups'], ['materials'], ['rack'], ['copies']);
  const look = (work: () => Promise<LookedInto>) =>
    act.mutate(async () => {
      setLooked(null);
      setLooked(await work());
    });
  const leave = (token: string) => {
    setLooked(null);
    void copiesApi.forget(token).catch(() => undefined);
  };
  return (
    <Beside second="minmax(340px, 0.8fr)">
      <Box sx={{ display: 'grid', gap: 2 }}>
        <Section title="Everything in one file">
          <Typography sx={{ maxWidth: '62ch' }}>
            Every piece with its history and picture, the set-ups, the materials and the rack, in one zip of
            open formats: to put in a safe place, or to take to another machine.
          </Typography>
          <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', my: 1.5 }}>
            <Button variant="contained" startIcon={<SaveAltIcon />} href={copiesApi.nowUrl} download>
              Save everything to a file
            </Button>
            <FileButton
              text="Look into such a file"
              variant="outlined"
              accept=".zip,application/zip"
              take={(file) => Promise.resolve(look(() => copiesApi.look(file)))}
            />
          </Box>
          <Typography color="text.secondary">
            Looking changes nothing: it shows what in the file is new, the same or different, and you choose.
          </Typography>
        </Section>
        {act.isPending && !looked && <CircularProgress aria-label="Looking into the copy" />}
        {act.error && <Alert severity="error">{act.error.message}</Alert>}
        {looked && (
          <CopyInside
            key={looked.token}
            contents={looked.contents}
            busy={act.isPending}
            onLeave={() => leave(looked.token)}
            onTake={(choice) =>
              act.mutate(async () => {
                const taken = await copiesApi.takeIn(looked.token, choice);
                setLooked(null);
                enqueueSnackbar(said(taken), { variant: 'success' });
              })
            }
          />
        )}
      </Box>
      <Section title="Made by themselves">
        {error && <Alert severity="error">{error.message}</Alert>}
        <Typography color="text.secondary" sx={{ mb: 1 }}>
          Once a day, the last 14, and before every update, beside the data on this machine. A copy on another
          machine or a stick is the one that outlives this one.
        </Typography>
        {copies?.length === 0 && <Typography>None has been made yet.</Typography>}
        {copies && copies.length > 0 && (
          <FiguresTable heads={['Made', 'Size', '(Look into it)', '(Save it)']} right={['Size']} tight>
            {copies.map(({ name, madeAt, bytes, why }) => (
              <tr key={name}>
                <td>
                  {moment(madeAt)}
                  {why !== 'daily' && <Box sx={{ color: 'text.secondary' }}>{WHY[why]}</Box>}
                </td>
                <td style={{ fontFamily: fonts.numbers, textAlign: 'right', whiteSpace: 'nowrap' }}>
                  {size(bytes)}
                </td>
                <td>
                  <Button
                    aria-label={`Look into the copy of ${moment(madeAt)}`}
                    onClick={() => look(() => copiesApi.lookKept(name))}
                  >
                    Look
                  </Button>
                </td>
                <td>
                  <Button
                    href={copiesApi.keptUrl(name)}
                    download
                    aria-label={`Save the copy of ${moment(madeAt)} to a file`}
                  >
                    Save
                  </Button>
                </td>
              </tr>
            ))}
          </FiguresTable>
        )}
      </Section>
    </Beside>
  );
}
