import { useServerChange } from '../../document/useServerChange.ts';
import { Another } from '../../ui/Another.tsx';
import { WordField } from '../../ui/fields/WordField.tsx';
import { LevelField } from '../../ui/fields/LevelField.tsx';
import { mostIn, quantitiesOf } from '../../../../core/units/index.ts';
import CloseIcon from '@mui/icons-material/Close';
import { Alert, Box, Button, Checkbox, FormControlLabel, IconButton, Typography } from '@mui/material';
import { type ReactNode, useState } from 'react';
import {
  packageSchema,
  type Hardening,
  type Material,
  materialSchema,
  proposedTone,
  hardeningSchema,
} from '../../../../core/materials/material.ts';
import { handyNumbers } from '../../../../core/units/handy.ts';
import { OptionalField, QuantityField } from '../../ui/fields/QuantityField.tsx';
import { useShop } from '../../document/useEvaluation.ts';
import { ELEMENTS } from './composition.ts';
import { ToneSwatch } from '../../ui/ToneSwatch.tsx';
import { shopApi } from '../../document/shopApi.ts';
import { Popup } from '../../ui/Popup.tsx';

const of = quantitiesOf(materialSchema);
const MOST_PACKAGES = mostIn(materialSchema, 'packages');

/** A new material, with the numbers of a plain steel to begin from. */
export function freshMaterial(materials: readonly Material[]): Material {
  let n = 1;
  while (materials.some((m) => m.id === `ours-${n}`)) n++;
  return {
    id: `ours-${n}`,
    name: `New steel ${n}`,
    source: 'our own',
    composition: { C: 0.8, Mn: 0.6 },
    densityKgM3: 7850,
    tone: proposedTone({ C: 0.8, Mn: 0.6 }),
    etches: '',
    weldC: [1150, 1290],
    limitC: 1300,
  };
}

const FIRST_HARDENING: Hardening = {
  austenitiseC: [800, 820],
  quench: 'fast oil',
  temperC: [190, 210],
  temperHours: 1,
  temperTimes: 2,
  hrc: [59, 61],
  source: 'our own',
};

/** Everything about one material; kept for the whole shop, and refused with the field where a number is wrong. */
export function MaterialDialog({ material, onClose }: { material: Material; onClose(): void }) {
  const shop = useShop();
  const { currency } = shop;
  const [draft, setDraft] = useState(material);
  const { weldC } = draft;
  const put = (some: Partial<Material>) => setDraft({ ...draft, ...some });
  const keep = useServerChange(['materials']);
  const checked = materialSchema.safeParse(draft);
  const turned = draft.weldC && draft.weldC[0] >= draft.weldC[1];
  const wrong = turned
    ? 'The welding heat must begin lower than it ends.'
    : checked.success
      ? undefined
      : `${checked.error.issues[0].path.join(' ')}: ${checked.error.issues[0].message}`;
  const proposed = proposedTone(draft.composition);
  const packages = draft.packages ?? [];
  const pack = (i: number, some: Partial<(typeof packages)[number]>) =>
    put({ packages: packages.map((p, k) => (k === i ? { ...p, ...some } : p)) });
  return (
    <Popup
      title={<>{material.name}</>}
      onClose={onClose}
      width="md"
      actions={
        <>
          <Button onClick={onClose}>Leave it as it was</Button>
          <Button
            variant="contained"
            disabled={wrong !== undefined || keep.isPending}
            onClick={() => keep.mutate(() => shopApi.keepMaterial(draft), { onSuccess: onClose })}
          >
            Keep
          </Button>
        </>
      }
    >
      <Row>
        <WordField
          label="Name"
          schema={materialSchema.shape.name}
          value={draft.name}
          onChange={(name) => put({ name })}
        />
        <WordField
          label="Where its numbers come from"
          schema={materialSchema.shape.source}
          value={draft.source}
          onChange={(source) => put({ source })}
        />
      </Row>
      <Part title="Composition, mass %">
        <Row narrow>
          {ELEMENTS.map((e) => (
            <OptionalField
              key={e}
              of={of(`composition.${e}`)}
              value={draft.composition[e]}
              onChange={(n) => put({ composition: { ...draft.composition, [e]: n } })}
            />
          ))}
        </Row>
      </Part>
      <Part title="How it etches">
        <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', flexWrap: 'wrap' }}>
          <ToneSwatch material={draft} />
          <LevelField
            of={of('tone')}
            value={draft.tone}
            step={0.01}
            width={220}
            onChange={(tone) => put({ tone })}
          />
          <Button
            size="small"
            disabled={Math.abs(proposed - draft.tone) < 0.005}
            onClick={() => put({ tone: proposed })}
          >
            Rule of thumb: {proposed.toFixed(2)}
          </Button>
          <WordField
            label="In words"
            schema={materialSchema.shape.etches}
            value={draft.etches}
            onChange={(etches) => put({ etches })}
          />
        </Box>
      </Part>
      <Part title="In the fire">
        <Row>
          <QuantityField
            of={of('densityKgM3')}
            value={draft.densityKgM3}
            onChange={(densityKgM3) => put({ densityKgM3 })}
          />
          <QuantityField of={of('limitC')} value={draft.limitC} onChange={(limitC) => put({ limitC })} />
          <FormControlLabel
            control={
              <Checkbox
                checked={draft.weldC !== null}
                onChange={(_, welds) => put({ weldC: welds ? [1150, 1290] : null })}
              />
            }
            label="Welds to steel in the fire"
          />
          {weldC && (
            <>
              <QuantityField
                of={of('weldC.0')}
                value={weldC[0]}
                onChange={(c) => put({ weldC: [c, weldC[1]] })}
              />
              <QuantityField
                of={of('weldC.1')}
                value={weldC[1]}
                onChange={(c) => put({ weldC: [weldC[0], c] })}
              />
            </>
          )}
        </Row>
      </Part>
      <Part title="Sold in">
        {packages.map((p, i) => (
          <Box
            key={i}
            sx={{
              display: 'grid',
              gridTemplateColumns: 'repeat(4, 1fr) 34px',
              gap: 1,
              alignItems: 'start',
            }}
          >
            <QuantityField
              of={of('packages.widthMm')}
              label={`Width, size ${i + 1}`}
              value={p.widthMm}
              onChange={(widthMm) => pack(i, { widthMm })}
            />
            <QuantityField
              of={of('packages.thicknessMm')}
              label={`Thickness, size ${i + 1}`}
              value={p.thicknessMm}
              onChange={(thicknessMm) => pack(i, { thicknessMm })}
            />
            <QuantityField
              of={of('packages.lengthMm')}
              label={`Length, size ${i + 1}`}
              value={p.lengthMm}
              onChange={(lengthMm) => pack(i, { lengthMm })}
            />
            <QuantityField
              of={{ ...of('packages.price'), ...(currency && { unit: currency }) }}
              label={`Price, size ${i + 1}`}
              value={p.price ?? 0}
              onChange={(price) => pack(i, { price: price === 0 ? undefined : price })}
            />
            <IconButton
              aria-label={`Take size ${i + 1} out`}
              size="small"
              onClick={() => put({ packages: packages.filter((_, k) => k !== i) })}
            >
              <CloseIcon fontSize="small" />
            </IconButton>
          </Box>
        ))}
        <Another
          has={packages.length}
          most={MOST_PACKAGES}
          act={() =>
            put({
              packages: [
                ...packages,
                packages.at(-1) ??
                  handyNumbers(packageSchema, { widthMm: 40, thicknessMm: 6, lengthMm: 1000 }, shop),
              ],
            })
          }
        >
          Another size
        </Another>
      </Part>
      <Part title="Hardening">
        <FormControlLabel
          control={
            <Checkbox
              checked={draft.hardening !== undefined}
              onChange={(_, hardens) => put({ hardening: hardens ? FIRST_HARDENING : undefined })}
            />
          }
          label="It hardens for an edge; the data sheet of its maker comes before these numbers"
        />
        {draft.hardening && (
          <HardeningFields hardening={draft.hardening} put={(hardening) => put({ hardening })} />
        )}
      </Part>
      {(wrong ?? keep.error?.message) && <Alert severity="error">{wrong ?? keep.error?.message}</Alert>}
    </Popup>
  );
}

function HardeningFields({ hardening: h, put }: { hardening: Hardening; put(hardening: Hardening): void }) {
  return (
    <Row>
      <QuantityField
        of={of('hardening.austenitiseC.0')}
        value={h.austenitiseC[0]}
        onChange={(c) => put({ ...h, austenitiseC: [c, h.austenitiseC[1]] })}
      />
      <QuantityField
        of={of('hardening.austenitiseC.1')}
        value={h.austenitiseC[1]}
        onChange={(c) => put({ ...h, austenitiseC: [h.austenitiseC[0], c] })}
      />
      <WordField
        label="Quench in"
        schema={hardeningSchema.shape.quench}
        value={h.quench}
        onChange={(quench) => put({ ...h, quench })}
      />
      <QuantityField
        of={of('hardening.temperC.0')}
        value={h.temperC[0]}
        onChange={(c) => put({ ...h, temperC: [c, h.temperC[1]] })}
      />
      <QuantityField
        of={of('hardening.temperC.1')}
        value={h.temperC[1]}
        onChange={(c) => put({ ...h, temperC: [h.temperC[0], c] })}
      />
      <QuantityField
        of={of('hardening.temperHours')}
        value={h.temperHours}
        onChange={(temperHours) => put({ ...h, temperHours })}
      />
      <QuantityField
        of={of('hardening.temperTimes')}
        value={h.temperTimes}
        onChange={(temperTimes) => put({ ...h, temperTimes })}
      />
      <QuantityField
        of={of('hardening.hrc.0')}
        value={h.hrc[0]}
        onChange={(n) => put({ ...h, hrc: [n, h.hrc[1]] })}
      />
      <QuantityField
        of={of('hardening.hrc.1')}
        value={h.hrc[1]}
        onChange={(n) => put({ ...h, hrc: [h.hrc[0], n] })}
      />
    </Row>
  );
}

const Row = ({ narrow, children }: { narrow?: boolean; children: ReactNode }) => (
  <Box
    sx={{
      display: 'grid',
      gridTemplateColumns: `repeat(auto-fill, minmax(${narrow ? 90 : 170}px, 1fr))`,
      gap: 1.5,
      alignItems: 'start',
    }}
  >
    {children}
  </Box>
);

const Part = ({ title, children }: { title: string; children: ReactNode }) => (
  <Box component="section" aria-label={title} sx={{ display: 'grid', gap: 1 }}>
    <Typography variant="h3">{title}</Typography>
    {children}
  </Box>
);
