import AddIcon from '@mui/icons-material/Add';
import CloseIcon from '@mui/icons-material/Close';
import { Box, Button, IconButton } from '@mui/material';
import { Link } from 'react-router';
import type { z } from 'zod';
import {
  type ShopSettings,
  forgeSchema,
  hotSchema,
  handleSchema,
  kilnSchema,
  measuringSchema,
  pressSchema,
  shopSchema,
} from '../../../../core/shop/shop.ts';
import { quantitiesOf } from '../../../../core/units/index.ts';
import { Column, Columns } from '../../ui/layout.tsx';
import { UnitChoices } from '../../editors/form/UnitChoices.tsx';
import { SchemaForm } from '../../editors/form/form.tsx';
import { Section } from '../../ui/Section.tsx';
import { Choice } from '../../ui/fields/Choice.tsx';
import { QuantityField } from '../../ui/fields/QuantityField.tsx';
import { WordField } from '../../ui/fields/WordField.tsx';

interface ShopFormProps {
  shop: ShopSettings;
  change(some: Partial<ShopSettings>): void;
}

const of = quantitiesOf(shopSchema);

/** Only a hydraulic press has a force and a speed of its own. */
const isPress = ({ kind }: ShopSettings['press']): boolean => kind === 'press';
const PRESS_ONLY = { ratingKN: isPress, ramMmPerS: isPress, friction: isPress } as const;

const PARTS = {
  press: pressSchema,
  forge: forgeSchema,
  kiln: kilnSchema,
  hot: hotSchema,
  measuring: measuringSchema,
};

/** What the shop's machines take and can do: every number that a plan is worked out with. */
export function ShopForm({ shop, change }: ShopFormProps) {
  const own = (only: (keyof ShopSettings & string)[]) => (
    <SchemaForm
      schema={shopSchema as unknown as z.ZodType<ShopSettings>}
      values={shop}
      change={change}
      only={only}
      oneAbreast
    />
  );
  /** A part of the shop that has a schema of its own. */
  const part = <K extends keyof typeof PARTS>(
    key: K,
    when?: Parameters<typeof SchemaForm<ShopSettings[K]>>[0]['when'],
  ) => (
    <SchemaForm
      schema={PARTS[key] as unknown as z.ZodType<ShopSettings[K]>}
      values={shop[key]}
      change={(some: Partial<ShopSettings[K]>) => change({ [key]: { ...shop[key], ...some } })}
      {...(when && { when })}
      oneAbreast
    />
  );
  return (
    <Columns>
      <Column>
        <Section title="Units">
          <UnitChoices shop={shop} change={change} />
        </Section>
        <Section title="Saw and grinder">{own(['saw', 'kerfMm', 'grinder', 'fayingMm'])}</Section>
        <Section title="Losses and looking">{own(['cropMm', 'scalePerHeat', 'viewingMm'])}</Section>
      </Column>
      <Column>
        <Section title="Press, hammer or mill">
          {part('press', PRESS_ONLY)}
          {own(['biteMm', 'reductionPerPass', 'spread'])}
        </Section>
        <Section title="How strong steels are hot">{part('hot')}</Section>
      </Column>
      <Column>
        <Section title="Forge">{part('forge')}</Section>
        <Section title="Measuring">
          {part('measuring')}
          <Button size="small" component={Link} to="/instruments" sx={{ justifySelf: 'start' }}>
            Simulated instruments
          </Button>
        </Section>
        <Section title="Stock and prices">
          {own(['stockLengthMm', 'keepMm', 'hourPrice', 'abrasivePrice'])}
          <WordField
            label="Money is written"
            schema={shopSchema.shape.currency}
            value={shop.currency}
            onChange={(currency) => change({ currency })}
          />
        </Section>
      </Column>
      <Column>
        <Section title="Kiln">{part('kiln')}</Section>
        <Section title="Handles">
          <Handles shop={shop} change={change} />
        </Section>
      </Column>
    </Columns>
  );
}

function Handles({ shop, change }: ShopFormProps) {
  const put = (i: number, some: Partial<ShopSettings['handles'][number]>) =>
    change({
      handles: shop.handles.map((h, k) => (k === i ? { ...h, ...some } : h)),
      // The one in use keeps its place when it is renamed.
      ...(some.name !== undefined && shop.handles[i].name === shop.handle ? { handle: some.name } : {}),
    });
  const fresh = () => {
    let n = shop.handles.length + 1;
    while (shop.handles.some((h) => h.name === `Handle ${n}`)) n++;
    return { name: `Handle ${n}`, shape: 'round' as const, sizeMm: 20 };
  };
  const known = shop.handles.some((h) => h.name === shop.handle);
  return (
    <>
      <Choice
        label="In use"
        value={shop.handle}
        options={[
          ...shop.handles.map((h) => [h.name, h.name] as const),
          ...(known ? [] : [[shop.handle, `${shop.handle} (gone)`] as const]),
        ]}
        onChange={(handle) => change({ handle })}
      />
      <QuantityField
        of={of('handleRootC')}
        value={shop.handleRootC}
        onChange={(handleRootC) => change({ handleRootC })}
      />
      {shop.handles.map((handle, i) => (
        <Box
          key={i}
          sx={{ display: 'grid', gridTemplateColumns: '1fr 34px', gap: 0.75, alignItems: 'start' }}
        >
          <WordField
            label={`Handle ${i + 1}`}
            schema={handleSchema.shape.name}
            value={handle.name}
            onChange={(name) => put(i, { name })}
          />
          <IconButton
            aria-label={`Take ${handle.name} off the list`}
            size="small"
            disabled={shop.handles.length === 1}
            onClick={() => change({ handles: shop.handles.filter((_, k) => k !== i) })}
          >
            <CloseIcon fontSize="small" />
          </IconButton>
          <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 0.75 }}>
            <Choice
              label={`Shape ${i + 1}`}
              value={handle.shape}
              options={[
                ['round', 'round'],
                ['square', 'square'],
              ]}
              onChange={(shape) => put(i, { shape })}
            />
            <QuantityField
              of={of('handles.sizeMm')}
              label={`Size ${i + 1}`}
              value={handle.sizeMm}
              onChange={(sizeMm) => put(i, { sizeMm })}
            />
          </Box>
        </Box>
      ))}
      <Box>
        <Button
          size="small"
          startIcon={<AddIcon />}
          onClick={() => change({ handles: [...shop.handles, fresh()] })}
        >
          Another handle
        </Button>
      </Box>
    </>
  );
}
