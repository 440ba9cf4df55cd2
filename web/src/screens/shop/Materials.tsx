import { useServerChange } from '../../document/useServerChange.ts';
import { FiguresTable } from '../../ui/FiguresTable.tsx';
import AddIcon from '@mui/icons-material/Add';
import { Alert, Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import type { Material } from '../../../../core/materials/material.ts';
import { MATERIALS } from '../../../../core/materials/table.ts';
import { formatTemperature } from '../../../../core/units/index.ts';
import { colours, fonts } from '../../ui/theme.ts';
import { useShop } from '../../document/useEvaluation.ts';
import { MaterialDialog, freshMaterial } from './MaterialDialog.tsx';
import { MixtureDialog } from './MixtureDialog.tsx';
import { compositionText } from './composition.ts';
import { ToneSwatch } from '../../ui/ToneSwatch.tsx';
import { shopApi, useOwnMaterials } from '../../document/shopApi.ts';

/** Every steel and other metal that the shop knows: the first table, changed where the shop knows better, and its own. */
export function Materials() {
  const { materials, temperatures } = useShop();
  const { data: own, error } = useOwnMaterials();
  const [open, setOpen] = useState<Material | null>(null);
  const [mixing, setMixing] = useState(false);
  const remove = useServerChange(['materials']);
  const degrees = (c: number) => formatTemperature(c, temperatures);
  const wrong = error ?? remove.error;
  return (
    <>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', mb: 1.5, flexWrap: 'wrap' }}>
        <Typography color="text.secondary" sx={{ flex: 1, minWidth: 300 }}>
          Compositions are nominal, tones our own reading of how each etches. What you know of the steel on
          your rack is better: change what you know. Plans keep the numbers they were made with.
        </Typography>
        <Button startIcon={<AddIcon />} onClick={() => setMixing(true)}>
          A mixture of powders
        </Button>
        <Button variant="contained" startIcon={<AddIcon />} onClick={() => setOpen(freshMaterial(materials))}>
          Another material
        </Button>
      </Box>
      {wrong && (
        <Alert severity="error" sx={{ mb: 1.5 }} onClose={() => remove.reset()}>
          {wrong.message}
        </Alert>
      )}
      <Box sx={{ overflowX: 'auto' }} tabIndex={0} role="region" aria-label="Table of materials">
        <FiguresTable
          heads={[
            'Material',
            'Etches',
            'Composition, %',
            'Welds at',
            'Never above',
            'Sold in',
            '(Change or remove)',
          ]}
          lined
        >
          {materials.map((m) => {
            const ours = own?.some((o) => o.id === m.id);
            const given = MATERIALS.some((g) => g.id === m.id);
            return (
              <tr key={m.id}>
                <td>
                  <b>{m.name}</b>
                  {ours && <span style={{ color: colours.faded }}> {given ? '· changed' : '· ours'}</span>}
                </td>
                <td>
                  <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
                    <ToneSwatch material={m} /> {m.etches}
                  </Box>
                </td>
                <td style={{ fontFamily: fonts.numbers, fontSize: '0.9rem' }}>{compositionText(m)}</td>
                <td style={{ whiteSpace: 'nowrap' }}>
                  {m.weldC ? m.weldC.map(degrees).join(' – ') : 'not in the fire'}
                </td>
                <td style={{ whiteSpace: 'nowrap' }}>{degrees(m.limitC)}</td>
                <td>{m.packages?.length ? `${m.packages.length} sizes` : ''}</td>
                <td style={{ whiteSpace: 'nowrap', textAlign: 'right' }}>
                  <Button size="small" aria-label={`Change ${m.name}`} onClick={() => setOpen(m)}>
                    Change
                  </Button>
                  {ours && (
                    <Button
                      size="small"
                      aria-label={given ? `Put ${m.name} back as it was` : `Remove ${m.name}`}
                      onClick={() => remove.mutate(() => shopApi.removeMaterial(m.id))}
                    >
                      {given ? 'As it was' : 'Remove'}
                    </Button>
                  )}
                </td>
              </tr>
            );
          })}
        </FiguresTable>
      </Box>
      {mixing && (
        <MixtureDialog
          id={freshMaterial(materials).id}
          onClose={() => setMixing(false)}
          onMixed={(made) => {
            setMixing(false);
            setOpen(made);
          }}
        />
      )}
      {open && <MaterialDialog key={open.id} material={open} onClose={() => setOpen(null)} />}
    </>
  );
}
