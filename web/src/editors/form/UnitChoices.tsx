import type { ShopSettings } from '../../../../core/shop/shop.ts';
import { UNITS } from '../../../../core/shop/units.ts';
import type { LengthDisplay } from '../../../../core/units/index.ts';
import { Choice } from '../../ui/fields/Choice.tsx';

const DIVISIONS = {
  in: [
    ['64', '1/64"'],
    ['32', '1/32"'],
    ['16', '1/16"'],
  ],
  mm: [
    ['0.1', '0.1 mm'],
    ['0.5', '0.5 mm'],
    ['1', '1 mm'],
  ],
} as const;

interface UnitChoicesProps {
  shop: ShopSettings;
  change(some: Partial<ShopSettings>): void;
}

/** How lengths, weights and temperatures are written, each by itself. */
export function UnitChoices({ shop, change }: UnitChoicesProps) {
  const { lengths } = shop;
  return (
    <>
      <Choice
        label="Lengths"
        value={lengths.unit}
        options={[
          ['in', 'inches'],
          ['mm', 'millimetres'],
        ]}
        onChange={(unit) => unit !== lengths.unit && change({ lengths: UNITS[unit].lengths })}
      />
      <Choice
        label="Finest division"
        value={String(lengths.division)}
        options={DIVISIONS[lengths.unit]}
        onChange={(division) =>
          change({ lengths: { unit: lengths.unit, division: Number(division) } as LengthDisplay })
        }
      />
      <Choice
        label="Weights"
        value={shop.masses}
        options={[
          ['kg', 'kilograms'],
          ['lb', 'pounds and ounces'],
        ]}
        onChange={(masses) => change({ masses })}
      />
      <Choice
        label="Temperatures"
        value={shop.temperatures}
        options={[
          ['C', '°C'],
          ['F', '°F'],
        ]}
        onChange={(temperatures) => change({ temperatures })}
      />
    </>
  );
}
