import type { ParametersOf } from '../../../core/steps/index.ts';
import { Choice } from '../fields/Choice.tsx';
import { AngleField, CountField, LengthField } from '../fields/numberFields.tsx';
import { ReckonedField } from './ReckonedField.tsx';
import type { EditorProps } from './editor.ts';

export function ResquareEditor({ parameters: p, change, problem }: EditorProps<ParametersOf<'resquare'>>) {
  return (
    <>
      <Choice
        label="Turn 45° to the"
        value={p.turn}
        options={[
          ['left', 'Left, seen on end B'],
          ['right', 'Right, seen on end B'],
        ]}
        onChange={(turn) => change({ turn })}
      />
      <LengthField
        label="Down to a side of"
        value={p.sideMm}
        mostMm={500}
        onChange={(sideMm) => change({ sideMm })}
        problem={problem('sideMm')}
      />
      <AngleField
        label="Off the 45° by"
        value={p.errorDeg}
        least={-20}
        most={20}
        onChange={(errorDeg) => change({ errorDeg })}
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
