import { useServerChange } from '../../document/useServerChange.ts';
import { FiguresTable } from '../../ui/FiguresTable.tsx';
import { rackBarSchema } from '../../../../core/stock/rackBar.ts';
import DeleteOutlineIcon from '@mui/icons-material/DeleteOutlined';
import { Alert, Box, Button, CircularProgress, IconButton, Typography } from '@mui/material';
import { useState } from 'react';
import { materialById } from '../../../../core/materials/material.ts';
import { massKg } from '../../../../core/materials/volumes.ts';
import type { RackBar } from '../../../../core/stock/rackBar.ts';
import { formatFineSizes, formatMass, quantitiesOf } from '../../../../core/units/index.ts';
import { fonts } from '../../ui/theme.ts';
import { MaterialChoice } from '../../editors/form/MaterialChoice.tsx';
import { QuantityField } from '../../ui/fields/QuantityField.tsx';
import { useShop } from '../../document/useEvaluation.ts';
import { handyNumbers } from '../../../../core/units/handy.ts';
import { Section } from '../../ui/Section.tsx';
import { Beside } from '../../ui/layout.tsx';
import { shopApi, useRack } from '../../document/shopApi.ts';

const of = quantitiesOf(rackBarSchema);

const FIRST = { material: '1084', widthMm: 40, thicknessMm: 6, lengthMm: 1000, count: 1 };

/** The bars that the shop has lying there: what a plan can take before anything is bought. */
export function Rack() {
  const { data: bars, error } = useRack();
  const shop = useShop();
  const [fresh, setFresh] = useState<Omit<RackBar, 'id'>>(() => handyNumbers(rackBarSchema, FIRST, shop));
  const act = useServerChange(['rack']);
  const put = (some: Partial<RackBar>) => setFresh({ ...fresh, ...some });
  return (
    <Beside second="330px">
      <Section title="On the rack">
        {(error ?? act.error) && <Alert severity="error">{(error ?? act.error)!.message}</Alert>}
        {!bars && !error && <CircularProgress aria-label="Loading the rack" />}
        {bars?.length === 0 && (
          <Typography>
            Nothing lies on the rack yet. Put bars on it, and the cut list takes from them first.
          </Typography>
        )}
        {bars && bars.length > 0 && (
          <FiguresTable heads={['Steel', 'Section', 'Length', 'Bars', 'Weight', '(Take off)']} tight>
            {bars.map((bar) => (
              <RackRow key={bar.id} bar={bar} act={act.mutate} />
            ))}
          </FiguresTable>
        )}
      </Section>
      <Section title="Put bars on">
        <MaterialChoice label="Steel" value={fresh.material} onChange={(material) => put({ material })} />
        <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.5 }}>
          <QuantityField of={of('widthMm')} value={fresh.widthMm} onChange={(widthMm) => put({ widthMm })} />
          <QuantityField
            of={of('thicknessMm')}
            value={fresh.thicknessMm}
            onChange={(thicknessMm) => put({ thicknessMm })}
          />
          <QuantityField
            of={of('lengthMm')}
            value={fresh.lengthMm}
            onChange={(lengthMm) => put({ lengthMm })}
          />
          <QuantityField of={of('count')} value={fresh.count} onChange={(count) => put({ count })} />
        </Box>
        <Button
          variant="contained"
          disabled={act.isPending}
          onClick={() => act.mutate(() => shopApi.putOnRack(fresh))}
        >
          Put on the rack
        </Button>
      </Section>
    </Beside>
  );
}

function RackRow({ bar, act }: { bar: RackBar; act(work: () => Promise<unknown>): void }) {
  const shop = useShop();
  const name = materialById(shop.materials, bar.material)?.name ?? bar.material;
  const kg = massKg(
    { [bar.material]: bar.widthMm * bar.thicknessMm * bar.lengthMm * bar.count },
    shop.materials,
  );
  const size = formatFineSizes([bar.widthMm, bar.thicknessMm], shop.lengths);
  const [length, setLength] = useState(bar.lengthMm);
  const [count, setCount] = useState(bar.count);
  const [kept, setKept] = useState(bar);
  // What the server keeps now is shown in the same row: a new one would take the press away that is under way.
  if (kept !== bar) {
    setKept(bar);
    if (kept.lengthMm !== bar.lengthMm) setLength(bar.lengthMm);
    if (kept.count !== bar.count) setCount(bar.count);
  }
  // Sent when the field is left: a number half typed is not what lies there.
  const keep = () => {
    if (length !== bar.lengthMm || count !== bar.count)
      act(() => shopApi.changeRack({ ...bar, lengthMm: length, count }));
  };
  return (
    <Box component="tr" onBlur={keep}>
      <td>{name}</td>
      <td style={{ fontFamily: fonts.numbers }}>{size}</td>
      <td>
        <QuantityField
          of={of('lengthMm')}
          label={`Length of ${name} ${size}`}
          hideLabel
          width={130}
          value={length}
          onChange={setLength}
        />
      </td>
      <td>
        <QuantityField
          of={of('count')}
          label={`Bars of ${name} ${size}`}
          hideLabel
          width={80}
          value={count}
          onChange={setCount}
        />
      </td>
      <td style={{ fontFamily: fonts.numbers }}>{formatMass(kg, shop.masses)}</td>
      <td>
        <IconButton
          aria-label={`Take ${name} ${size} off the rack`}
          onClick={() => act(() => shopApi.takeOffRack(bar.id))}
        >
          <DeleteOutlineIcon />
        </IconButton>
      </td>
    </Box>
  );
}
