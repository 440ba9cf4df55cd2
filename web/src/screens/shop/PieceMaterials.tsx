import { FiguresTable } from '../../ui/FiguresTable.tsx';
import { Box, Button, Typography } from '@mui/material';
import { materialById } from '../../../../core/materials/material.ts';
import { MATERIALS } from '../../../../core/materials/table.ts';
import { addVolumes } from '../../../../core/materials/volumes.ts';
import { formatTemperature } from '../../../../core/units/index.ts';
import { takeMaterial } from '../../document/planStore.ts';
import { useEvaluation } from '../../document/useEvaluation.ts';
import { Section } from '../../ui/Section.tsx';
import { ToneSwatch } from '../../ui/ToneSwatch.tsx';
import { useOwnMaterials } from '../../document/shopApi.ts';

/** What this piece is made of. A plan keeps its own copy of every material; the shop's newer numbers are taken when asked. */
export function PieceMaterials() {
  const evaluation = useEvaluation();
  const { plan, shop } = evaluation;
  const { data: own } = useOwnMaterials();
  const used = Object.keys(addVolumes(...evaluation.lanes.flatMap((l) => l.steps.map((s) => s.added))));
  if (used.length === 0) return null;
  return (
    <Box sx={{ mt: 2 }}>
      <Section title="Materials in this piece">
        <FiguresTable heads={['Etched', 'Steel', 'Welds at', 'Never above', '(The shop’s numbers)']} tight>
          {used.map((id) => {
            const m = materialById(shop.materials, id)!;
            const newer = own?.find((o) => o.id === id) ?? MATERIALS.find((o) => o.id === id);
            const differs = newer !== undefined && JSON.stringify(newer) !== JSON.stringify(m);
            const degrees = (c: number) => formatTemperature(c, shop.temperatures);
            return (
              <tr key={id}>
                <td>
                  <ToneSwatch material={m} />
                </td>
                <td>{m.name}</td>
                <td>{m.weldC ? m.weldC.map(degrees).join(' to ') : 'does not weld in the fire'}</td>
                <td>{degrees(m.limitC)}</td>
                <td>
                  {differs && (
                    <Button size="small" onClick={() => takeMaterial(newer)}>
                      Take the shop’s newer numbers
                    </Button>
                  )}
                </td>
              </tr>
            );
          })}
        </FiguresTable>
        {plan.materials.length > 0 && (
          <Typography variant="body2" color="text.secondary">
            The plan carries its own copy of{' '}
            {plan.materials.length === 1 ? 'one material' : `${plan.materials.length} materials`}: changing
            the shop’s table does not change it behind your back.
          </Typography>
        )}
      </Section>
    </Box>
  );
}
