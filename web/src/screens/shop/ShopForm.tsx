import AddIcon from '@mui/icons-material/Add';
import CloseIcon from '@mui/icons-material/Close';
import { Box, Button, IconButton, TextField, Typography } from '@mui/material';
import type { ReactNode } from 'react';
import type { ShopSettings } from '../../../../core/shop/shop.ts';
import { colours } from '../../ui/theme.ts';
import { Choice } from '../../ui/fields/Choice.tsx';
import {
  ForceField,
  LengthField,
  NumberField,
  RateField,
  ShareField,
  TemperatureField,
} from '../../ui/fields/numberFields.tsx';
import { UnitChoices } from '../../editors/UnitChoices.tsx';

interface ShopFormProps {
  shop: ShopSettings;
  change(some: Partial<ShopSettings>): void;
}

/** What the shop's machines take and can do: every number that a plan is reckoned with. */
export function ShopForm({ shop, change }: ShopFormProps) {
  const press = (some: Partial<ShopSettings['press']>) => change({ press: { ...shop.press, ...some } });
  const forge = (some: Partial<ShopSettings['forge']>) => change({ forge: { ...shop.forge, ...some } });
  const kiln = (some: Partial<ShopSettings['kiln']>) => change({ kiln: { ...shop.kiln, ...some } });
  const isPress = shop.press.kind === 'press';
  return (
    <Box
      sx={{
        columnCount: { xs: 1, sm: 2, md: 4 },
        columnGap: 2,
        '& > section': { mb: 2, breakInside: 'avoid' },
      }}
    >
      <Section title="Units">
        <UnitChoices shop={shop} change={change} />
      </Section>
      <Section title="Saw and grinder">
        <Choice
          label="Saw"
          value={shop.saw}
          options={[
            ['band saw', 'Band saw'],
            ['abrasive saw', 'Abrasive saw'],
            ['hacksaw', 'Hacksaw'],
          ]}
          onChange={(saw) => change({ saw })}
        />
        <LengthField
          label="Kerf"
          fine
          mayBeNone
          mostMm={10}
          value={shop.kerfMm}
          onChange={(kerfMm) => change({ kerfMm })}
        />
        <Choice
          label="Grinder"
          value={shop.grinder}
          options={[
            ['disc', 'Disc'],
            ['belt', 'Belt'],
            ['surface grinder', 'Surface grinder'],
            ['mill', 'Mill'],
          ]}
          onChange={(grinder) => change({ grinder })}
        />
        <LengthField
          label="Off a faying face"
          fine
          mayBeNone
          mostMm={5}
          value={shop.fayingMm}
          onChange={(fayingMm) => change({ fayingMm })}
        />
      </Section>
      <Section title="Losses and looking">
        <LengthField
          label="End crop"
          mayBeNone
          mostMm={100}
          value={shop.cropMm}
          onChange={(cropMm) => change({ cropMm })}
        />
        <ShareField
          label="Scale each heat"
          least={0}
          most={0.2}
          value={shop.scalePerHeat}
          onChange={(scalePerHeat) => change({ scalePerHeat })}
        />
        <LengthField
          label="Looked at from"
          mostMm={5000}
          value={shop.viewingMm}
          onChange={(viewingMm) => change({ viewingMm })}
        />
      </Section>
      <Section title="Press, hammer or mill">
        <Choice
          label="Machine"
          value={shop.press.kind}
          options={[
            ['press', 'Hydraulic press'],
            ['power hammer', 'Power hammer'],
            ['rolling mill', 'Rolling mill'],
          ]}
          onChange={(kind) => press({ kind })}
        />
        {isPress && (
          <ForceField
            label="Force"
            least={10}
            most={20_000}
            value={shop.press.ratingKN}
            onChange={(ratingKN) => press({ ratingKN })}
          />
        )}
        <LengthField
          label="Dies, along the bar"
          mostMm={1500}
          value={shop.press.dieLengthMm}
          onChange={(dieLengthMm) => press({ dieLengthMm })}
        />
        <LengthField
          label="Bite"
          mostMm={500}
          value={shop.biteMm}
          onChange={(biteMm) => change({ biteMm })}
        />
        <ShareField
          label="Taken in a pass"
          least={0.01}
          most={0.6}
          value={shop.reductionPerPass}
          onChange={(reductionPerPass) => change({ reductionPerPass })}
        />
        {isPress && (
          <>
            <LengthField
              label="Ram, a second"
              mostMm={2000}
              value={shop.press.ramMmPerS}
              onChange={(ramMmPerS) => press({ ramMmPerS })}
            />
            <NumberField
              label="Friction at the dies"
              least={0}
              most={0.577}
              value={shop.press.friction}
              onChange={(friction) => press({ friction })}
            />
          </>
        )}
      </Section>
      <Section title="Forge">
        <TemperatureField
          label="Welding heat"
          least={900}
          most={1350}
          value={shop.forge.weldingC}
          onChange={(weldingC) => forge({ weldingC })}
        />
        <TemperatureField
          label="Forging heat"
          least={700}
          most={1300}
          value={shop.forge.forgingC}
          onChange={(forgingC) => forge({ forgingC })}
        />
        <TemperatureField
          label="Stop forging at"
          least={600}
          most={1000}
          value={shop.forge.stopC}
          onChange={(stopC) => forge({ stopC })}
        />
        <NumberField
          label="Fire to dies"
          unit="s"
          least={1}
          most={120}
          value={shop.forge.carryS}
          onChange={(carryS) => forge({ carryS })}
        />
        <NumberField
          label="Heat from the fire"
          unit="W/m²K"
          least={50}
          most={1000}
          value={shop.forge.surfaceWm2K}
          onChange={(surfaceWm2K) => forge({ surfaceWm2K })}
        />
        <NumberField
          label="Hot through, within"
          unit="K"
          least={2}
          most={200}
          value={shop.forge.withinK}
          onChange={(withinK) => forge({ withinK })}
        />
      </Section>
      <Section title="Kiln">
        <TemperatureField
          label="Hottest"
          least={300}
          most={1400}
          value={shop.kiln.maxC}
          onChange={(maxC) => kiln({ maxC })}
        />
        <RateField
          label="Full power, from cold"
          least={50}
          most={5000}
          value={shop.kiln.fullRateKPerH}
          onChange={(fullRateKPerH) => kiln({ fullRateKPerH })}
        />
        <NumberField
          label="Thermocouple lags"
          unit="s"
          least={0}
          most={600}
          value={shop.kiln.lagS}
          onChange={(lagS) => kiln({ lagS })}
        />
      </Section>
      <Section title="Stock">
        <LengthField
          label="Bars are sold in"
          mostMm={10_000}
          value={shop.stockLengthMm}
          onChange={(stockLengthMm) => change({ stockLengthMm })}
        />
        <LengthField
          label="Offcuts kept from"
          mayBeNone
          mostMm={2000}
          value={shop.keepMm}
          onChange={(keepMm) => change({ keepMm })}
        />
        <TextField
          label="Money is written"
          value={shop.currency}
          onChange={(e) => change({ currency: e.target.value.slice(0, 6) })}
          slotProps={{ htmlInput: { maxLength: 6 } }}
        />
      </Section>
      <Section title="Handles">
        <Handles shop={shop} change={change} />
      </Section>
    </Box>
  );
}

export function Section({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Box
      component="section"
      aria-label={title}
      sx={{
        background: colours.paper,
        border: `1px solid ${colours.line}`,
        borderRadius: '6px',
        p: 2,
        display: 'grid',
        gap: 1.5,
        minWidth: 0,
      }}
    >
      <Typography variant="h2">{title}</Typography>
      {children}
    </Box>
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
  return (
    <>
      <Choice
        label="In use"
        value={shop.handle}
        options={[
          ...shop.handles.map((h) => [h.name, h.name] as const),
          ...(shop.handles.some((h) => h.name === shop.handle)
            ? []
            : [[shop.handle, `${shop.handle} (gone)`] as const]),
        ]}
        onChange={(handle) => change({ handle })}
      />
      <TemperatureField
        label="Its root gets"
        least={20}
        most={1100}
        value={shop.handleRootC}
        onChange={(handleRootC) => change({ handleRootC })}
      />
      {shop.handles.map((handle, i) => (
        <Box
          key={i}
          sx={{ display: 'grid', gridTemplateColumns: '1fr 34px', gap: 0.75, alignItems: 'start' }}
        >
          <TextField
            label={`Handle ${i + 1}`}
            value={handle.name}
            error={handle.name.trim() === ''}
            helperText={handle.name.trim() === '' ? 'A handle needs a name' : undefined}
            onChange={(e) => e.target.value.trim() !== '' && put(i, { name: e.target.value.slice(0, 60) })}
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
            <LengthField
              label={`Size ${i + 1}`}
              mostMm={80}
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
