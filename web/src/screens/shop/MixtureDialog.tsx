import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { type Material, mixed, mixedShare } from '../../../../core/materials/material.ts';
import { quantityOf } from '../../../../core/units/index.ts';
import { useShop } from '../../document/useEvaluation.ts';
import { Choice } from '../../ui/fields/Choice.tsx';
import { QuantityField } from '../../ui/fields/QuantityField.tsx';
import { Popup } from '../../ui/Popup.tsx';
import { ToneSwatch } from '../../ui/ToneSwatch.tsx';
import { compositionText } from './composition.ts';

interface MixtureDialogProps {
  /** The id that the mixture would have. */
  id: string;
  onClose(): void;
  onMixed(material: Material): void;
}

/** Two powders and how much of the second: what they come to is looked over, and changed, as any other material. */
export function MixtureDialog({ id, onClose, onMixed }: MixtureDialogProps) {
  const { materials } = useShop();
  const [[one, other], setPowders] = useState(['1084', 'nickel']);
  const [part, setPart] = useState(0.03);
  const [first, second] = [one, other].map((name) => materials.find((m) => m.id === name) ?? materials[0]);
  const made = mixed(first, second, part, id);
  const options = materials.map((m) => [m.id, m.name] as const);
  return (
    <Popup
      title="A mixture of two powders"
      width="sm"
      onClose={onClose}
      onSubmit={() => onMixed(made)}
      actions={
        <>
          <Button onClick={onClose}>Leave it</Button>
          <Button type="submit" variant="contained" disabled={first === second}>
            Look it over
          </Button>
        </>
      }
    >
      <Choice
        label="First powder"
        value={first.id}
        options={options}
        onChange={(name) => setPowders([name, other])}
      />
      <Choice
        label="Second powder"
        value={second.id}
        options={options}
        onChange={(name) => setPowders([one, name])}
        problem={first === second ? 'Take another one than the first.' : undefined}
      />
      <QuantityField of={quantityOf(mixedShare)} value={part} onChange={setPart} />
      <Box role="group" aria-label="What it comes to" sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
        <ToneSwatch material={made} />
        <Typography>
          {made.name}: {compositionText(made)}; {made.etches}
        </Typography>
      </Box>
    </Popup>
  );
}
