import type { ParametersOf } from '../../../core/steps/index.ts';
import { Choice } from '../fields/Choice.tsx';
import { CountField } from '../fields/numberFields.tsx';
import { ReckonedField } from './ReckonedField.tsx';
import type { EditorProps } from './editor.ts';

export function CornersEditor({ parameters: p, change, problem }: EditorProps<ParametersOf<'corners'>>) {
  return (
    <>
      <Choice
        label="Down to"
        value={p.shape}
        options={[
          ['octagon', 'An octagon'],
          ['round', 'A round bar'],
        ]}
        onChange={(shape) => change({ shape })}
      />
      <ReckonedField
        value={p.reckoned}
        onChange={(reckoned) => change({ reckoned })}
        problem={problem('reckoned')}
      />
      <CountField label="Heats" value={p.heats} least={0} most={40} onChange={(heats) => change({ heats })} />
    </>
  );
}
