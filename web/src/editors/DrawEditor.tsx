import { sizeOf } from '../../../core/billet/billet.ts';
import { type DrawParameters, draw } from '../../../core/moves/forge/draw.ts';
import { Choice } from '../ui/fields/Choice.tsx';
import { SchemaForm } from './form/form.tsx';
import type { EditorProps } from './form/editor.ts';

export function DrawEditor({ parameters: p, change, before, problem }: EditorProps<DrawParameters>) {
  const reshape = (shape: DrawParameters['shape']) => {
    if (shape === p.shape) return;
    const { heats, reckoned } = p;
    const size = before[0] ? sizeOf(before[0]) : { widthMm: 30, heightMm: 30 };
    if (p.shape === 'flat')
      return replace({
        shape: 'square',
        sideMm: Math.floor(Math.sqrt(p.widthMm * p.thicknessMm)),
        heats,
        reckoned,
      });
    replace({
      shape: 'flat',
      widthMm: Math.round(Math.min(size.widthMm, p.sideMm * 1.2)),
      thicknessMm: Math.round(p.sideMm / 2),
      heats,
      reckoned,
    });
  };
  // The two shapes have different numbers: the step is replaced, never merged.
  const replace = (whole: DrawParameters) => change({ ...blank(p), ...whole } as Partial<DrawParameters>);
  return (
    <>
      <Choice
        label="Draw to a"
        value={p.shape}
        options={[
          ['square', 'Square bar'],
          ['flat', 'Flat bar'],
        ]}
        onChange={reshape}
      />
      <SchemaForm
        schema={draw.parameters}
        values={p}
        change={change}
        problem={problem}
        only={(p.shape === 'square' ? SQUARE : FLAT) as never}
      />
    </>
  );
}

const SQUARE = ['sideMm', 'reckoned', 'heats'] as const;
const FLAT = ['widthMm', 'thicknessMm', 'reckoned', 'heats'] as const;

/** Every present key as undefined, so that a merge leaves nothing of the other shape behind. */
const blank = (p: DrawParameters): Record<string, undefined> =>
  Object.fromEntries(Object.keys(p).map((key) => [key, undefined]));
