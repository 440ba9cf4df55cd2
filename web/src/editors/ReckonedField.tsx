import { Choice } from '../ui/fields/Choice.tsx';

export type Reckoned = 'ideal' | 'by flow' | 'where it shows';

interface ReckonedFieldProps {
  label?: string;
  value: Reckoned | undefined;
  onChange(value: Reckoned): void;
  problem: string | undefined;
}

/** By the ideal map, by the flow of the section, or by whichever tells more. */
export const ReckonedField = ({ label = 'Reckoned', value, onChange, problem }: ReckonedFieldProps) => (
  <Choice<Reckoned>
    label={label}
    value={value ?? 'ideal'}
    options={[
      ['ideal', 'by the ideal map'],
      ['where it shows', 'by the flow where it shows'],
      ['by flow', 'by the flow of the section'],
    ]}
    onChange={onChange}
    problem={problem}
  />
);
