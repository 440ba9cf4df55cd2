import type { ParametersOf } from '../../../core/moves/index.ts';
import { CountField, TemperatureField } from '../ui/fields/numberFields.tsx';
import type { EditorProps } from './editor.ts';

export function WeldEditor({ parameters: p, change, problem }: EditorProps<ParametersOf<'weld'>>) {
  return (
    <>
      <TemperatureField
        label="Welding heat"
        value={p.temperatureC}
        onChange={(temperatureC) => change({ temperatureC })}
        problem={problem('temperatureC')}
      />
      <CountField
        label="Heats"
        value={p.heats}
        least={0}
        most={40}
        onChange={(heats) => change({ heats })}
        problem={problem('heats')}
      />
    </>
  );
}
