import { Choice } from '../fields/Choice.tsx';

type Reckoned = 'ideal' | 'by flow' | 'where it shows';

interface ReckonedFieldProps {
  value: Reckoned | undefined;
  onChange(value: Reckoned): void;
  problem: string | undefined;
}

/** By the ideal map, by the flow of the section, or by whichever tells more. */
export const ReckonedField = ({ value, onChange, problem }: ReckonedFieldProps) => (
  <Choice<Reckoned>
    label="Reckoned"
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
