import { useOwnMaterials } from '../../document/shopApi.ts';
import { takeMaterial } from '../../document/planStore.ts';
import { useShop } from '../../document/useEvaluation.ts';
import { Choice } from '../../ui/fields/Choice.tsx';

interface MaterialChoiceProps {
  label: string;
  value: string;
  onChange(id: string): void;
  problem?: string | undefined;
  width?: number | string;
}

/** A material of the plan's table, or another of the shop's, which the plan then takes a copy of. */
export function MaterialChoice({ label, value, onChange, ...rest }: MaterialChoiceProps) {
  const { materials } = useShop();
  const { data: own = [] } = useOwnMaterials();
  const others = own.filter((o) => !materials.some((m) => m.id === o.id));
  const known = [...materials, ...others].map((m) => [m.id, m.name] as const);
  const options = known.some(([id]) => id === value)
    ? known
    : [...known, [value, `${value} (not in the table)`] as const];
  const choose = (id: string) => {
    const other = others.find((m) => m.id === id);
    if (other) takeMaterial(other);
    onChange(id);
  };
  return <Choice label={label} value={value} options={options} onChange={choose} {...rest} />;
}
