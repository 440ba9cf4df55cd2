import { Box } from '@mui/material';
import { type ComponentType, useState } from 'react';
import type { z } from 'zod';
import { type Choosing, type Entry, type Quantity, entriesOf } from '../../../../core/units/index.ts';
import { useShop } from '../../document/useEvaluation.ts';
import { Choice } from '../../ui/fields/Choice.tsx';
import { OptionalField, QuantityField } from '../../ui/fields/QuantityField.tsx';
import { MaterialChoice } from './MaterialChoice.tsx';
import type { EditorProps } from './editor.ts';

type Values = Readonly<Record<string, unknown>>;

interface SchemaFormProps<P> {
  schema: z.ZodType<P>;
  values: P;
  change(some: Partial<P>): void;
  problem?(key: string): string | undefined;
  /** Which of the schema's entries, in which order; all of them where nothing is said. */
  only?: readonly (keyof P & string)[] | undefined;
  /** Entries that only count at times. */
  /** One under another, in a narrow column. */
  oneAbreast?: boolean;
  when?: Partial<Record<keyof P & string, (values: P) => boolean>> | undefined;
}

/** A form as the schema has it: two short entries beside one another, choices over the whole width. */
export function SchemaForm<P extends object>({
  schema,
  values,
  change,
  problem,
  only,
  when,
  oneAbreast,
}: SchemaFormProps<P>) {
  const said = entriesOf(schema) as (readonly [keyof P & string, Entry])[];
  const shown = said
    .filter(([key]) => (only?.includes(key) ?? true) && (when?.[key]?.(values) ?? true))
    .sort(([a], [b]) => (only ? only.indexOf(a) - only.indexOf(b) : 0));
  return (
    <Box sx={oneAbreast ? under : twoAbreast}>
      {shown.map(([key, entry]) => (
        <Box key={key} sx={{ gridColumn: isWide(entry) || oneAbreast ? '1 / -1' : 'auto' }}>
          <FormEntry
            entry={entry}
            value={(values as Values)[key]}
            onChange={(value) => change({ [key]: value } as Partial<P>)}
            problem={problem?.(key)}
          />
        </Box>
      ))}
    </Box>
  );
}

const twoAbreast = {
  display: 'grid',
  gridTemplateColumns: '1fr 1fr',
  gap: 1.5,
  alignItems: 'start',
} as const;

const under = { display: 'grid', gap: 1.5 } as const;

const isWide = (entry: Entry): boolean => entry.kind === 'choice' || entry.kind === 'material';

interface FormEntryProps {
  entry: Entry;
  value: unknown;
  onChange(value: unknown): void;
  problem: string | undefined;
}

function FormEntry({ entry, value, ...rest }: FormEntryProps) {
  switch (entry.kind) {
    case 'choice':
      return <ChosenEntry {...rest} entry={entry} value={value as string | undefined} />;
    case 'material':
      return <MaterialChoice {...rest} label={entry.label} value={value as string} />;
    default:
      return <NumberEntry {...rest} entry={entry} value={value as number | undefined} />;
  }
}

/** What may be left out is shown as the first of the choices: that is what holds then. */
const ChosenEntry = ({
  entry,
  value,
  ...rest
}: Omit<FormEntryProps, 'entry' | 'value'> & { entry: Choosing; value: string | undefined }) => (
  <Choice {...rest} label={entry.label} value={value ?? entry.options[0][0]} options={entry.options} />
);

function NumberEntry({
  entry,
  value,
  ...rest
}: Omit<FormEntryProps, 'entry' | 'value'> & { entry: Quantity; value: number | undefined }) {
  const shop = useShop() as unknown as Values;
  const held = value ?? (entry.shop ? (shop[entry.shop] as number) : undefined);
  // What may be left out stays the same field while it is typed into.
  const [mayBeNone] = useState(held === undefined);
  return mayBeNone || held === undefined ? (
    <OptionalField {...rest} of={entry} value={held} />
  ) : (
    <QuantityField {...rest} of={entry} value={held} />
  );
}

type Shown<P> = Pick<SchemaFormProps<P>, 'only' | 'when'>;

/** An editor that is a plain form: most moves need no more. */
export function formEditor<P extends object>(
  schema: z.ZodType<P>,
  shown: Shown<P> = {},
): ComponentType<EditorProps<P>> {
  return function FormEditor({ parameters, change, problem }: EditorProps<P>) {
    return <SchemaForm schema={schema} values={parameters} change={change} problem={problem} {...shown} />;
  };
}
