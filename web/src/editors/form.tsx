import { Box } from '@mui/material';
import type { ComponentType } from 'react';
import { Choice, MaterialChoice } from '../ui/fields/Choice.tsx';
import { AngleField, CountField, LengthField, NumberField } from '../ui/fields/numberFields.tsx';
import { type Reckoned, ReckonedField } from './ReckonedField.tsx';
import type { EditorProps } from './editor.ts';

type Values = Record<string, unknown>;

/** One entry of a plain form: what it is called, which of the move's numbers it holds, and when it is shown. */
type Entry<P> = { label: string; key: keyof P & string; when?(p: P): boolean } & (
  | { kind: 'length'; fine?: boolean; mayBeNone?: boolean; signed?: boolean; most?: number; orElse?: number }
  | { kind: 'angle'; least: number; most: number }
  | { kind: 'number'; least: number; most: number }
  | { kind: 'count'; least: number; most: number }
  | { kind: 'reckoned' }
  | { kind: 'choice'; options: readonly (readonly [string, string])[] }
  | { kind: 'material' }
);

/** Entries that take the whole width. */
const WIDE = new Set<Entry<Values>['kind']>(['choice', 'material', 'reckoned']);

/** An editor that is a plain form: most moves need no more. Two short entries stand beside one another. */
export function formEditor<P>(entries: readonly Entry<P>[]): ComponentType<EditorProps<P>> {
  return function FormEditor({ parameters, change, problem }: EditorProps<P>) {
    return (
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1.5, alignItems: 'start' }}>
        {entries.map((entry) =>
          entry.when && !entry.when(parameters) ? null : (
            <Box key={entry.key} sx={{ gridColumn: WIDE.has(entry.kind) ? '1 / -1' : 'auto' }}>
              <FormEntry
                entry={entry as Entry<Values>}
                value={(parameters as Values)[entry.key]}
                onChange={(value) => change({ [entry.key]: value } as Partial<P>)}
                problem={problem(entry.key)}
              />
            </Box>
          ),
        )}
      </Box>
    );
  };
}

interface FormEntryProps {
  entry: Entry<Values>;
  value: unknown;
  onChange(value: unknown): void;
  problem: string | undefined;
}

function FormEntry({ entry, value, onChange, problem }: FormEntryProps) {
  const common = { label: entry.label, onChange, problem };
  switch (entry.kind) {
    case 'length':
      return (
        <LengthField
          {...common}
          fine={entry.fine}
          mayBeNone={entry.mayBeNone}
          signed={entry.signed}
          mostMm={entry.most ?? 500}
          value={(value as number | undefined) ?? entry.orElse ?? 0}
        />
      );
    case 'angle':
      return <AngleField {...common} least={entry.least} most={entry.most} value={value as number} />;
    case 'number':
      return <NumberField {...common} least={entry.least} most={entry.most} value={value as number} />;
    case 'count':
      return <CountField {...common} least={entry.least} most={entry.most} value={value as number} />;
    case 'choice':
      return <Choice {...common} value={value as string} options={entry.options} />;
    case 'reckoned':
      return <ReckonedField {...common} value={value as Reckoned | undefined} />;
    case 'material':
      return <MaterialChoice {...common} value={value as string} />;
  }
}

/** Times in the fire, for every move that heats. */
export const HEATS = { kind: 'count', label: 'Heats', key: 'heats', least: 0, most: 40 } as const;

/** By which map, for every move that can be pressed in passes. */
export const RECKONED = { kind: 'reckoned', label: 'Reckoned', key: 'reckoned' } as const;
