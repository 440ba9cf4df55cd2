import { type Quantity, editableQuantity, readQuantity, showQuantity } from '../../../../core/units/index.ts';
import { useUnits } from '../units.ts';
import { EntryField } from './EntryField.tsx';

interface CommonProps {
  /** What the number is, as its schema says. */
  of: Quantity;
  /** Where several of one kind stand beside one another. */
  label?: string;
  problem?: string | undefined;
  width?: number | string;
  hideLabel?: boolean;
  /** What is written over the field, where its place says the rest of its name. */
  short?: string;
}

interface QuantityFieldProps extends CommonProps {
  value: number;
  onChange(value: number): void;
}

const named = (of: Quantity, label: string | undefined): Quantity => (label ? { ...of, label } : of);

/** A number as its schema has it, typed in the shop's own way. */
export function QuantityField({ of, label, value, ...rest }: QuantityFieldProps) {
  const units = useUnits();
  const quantity = named(of, label);
  return (
    <EntryField
      {...rest}
      label={quantity.label}
      hint={quantity.hint}
      shown={showQuantity(quantity, value, units)}
      editable={editableQuantity(quantity, value, units)}
      read={(text) => readQuantity(quantity, text, units)}
    />
  );
}

/** Nothing at all, or a bare 0 with or without its unit. */
const NOTHING = /^(0+([.,]0*)?\s*[^\d\s]*)?$/;

interface OptionalFieldProps extends CommonProps {
  value: number | undefined;
  onChange(value: number | undefined): void;
  /** What stands in the field while nothing is said. */
  none?: string;
}

/** The same where nothing need be said: an empty field, or 0 where that is no value, leaves it out. */
export function OptionalField({ of, label, value, none = '', onChange, ...rest }: OptionalFieldProps) {
  const units = useUnits();
  const quantity = named(of, label);
  return (
    <EntryField<number | undefined>
      {...rest}
      label={quantity.label}
      hint={quantity.hint}
      shown={value === undefined ? none : showQuantity(quantity, value, units)}
      editable={value === undefined ? '' : editableQuantity(quantity, value, units)}
      onChange={onChange}
      read={(text) =>
        NOTHING.test(text.trim()) ? { ok: true, value: undefined } : readQuantity(quantity, text, units)
      }
    />
  );
}
