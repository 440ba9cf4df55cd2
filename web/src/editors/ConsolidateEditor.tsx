import type { ParametersOf } from '../../../core/moves/index.ts';
import { Choice } from '../ui/fields/Choice.tsx';
import { CountField, LengthField, TemperatureField } from '../ui/fields/numberFields.tsx';
import type { EditorProps } from './editor.ts';

export function ConsolidateEditor({
  parameters: p,
  change,
  problem,
}: EditorProps<ParametersOf<'consolidate'>>) {
  return (
    <>
      <LengthField
        label="First press, end to end"
        fine
        mayBeNone
        mostMm={500}
        value={p.endMm}
        onChange={(endMm) => change({ endMm })}
        problem={problem('endMm')}
      />
      <Choice
        label="Then pressed"
        value={p.sides}
        options={[
          ['two ways', 'on all four sides in turn'],
          ['one way', 'on top and bottom only'],
        ]}
        onChange={(sides) => change({ sides })}
      />
      <LengthField
        label="At most a pass"
        fine
        mostMm={30}
        value={p.passMm}
        onChange={(passMm) => change({ passMm })}
      />
      <Choice
        label="Reckoned"
        value={p.reckoned}
        options={[
          ['by volumes', 'by volumes alone'],
          ['by flow', 'by the flow of the section'],
        ]}
        onChange={(reckoned) => change({ reckoned })}
        problem={problem('reckoned')}
      />
      <TemperatureField
        label="Welding heat"
        value={p.temperatureC}
        onChange={(temperatureC) => change({ temperatureC })}
      />
      <CountField label="Heats" value={p.heats} least={0} most={40} onChange={(heats) => change({ heats })} />
    </>
  );
}
