import { Button } from '@mui/material';
import { PROFILES } from '../../../core/blade/index.ts';
import { type ShapeParameters, forgedAnew, shape } from '../../../core/moves/forge/shape.ts';
import { useEvaluation } from '../document/useEvaluation.ts';
import { Choice } from '../ui/fields/Choice.tsx';
import { EdgesChoice } from './EdgesChoice.tsx';
import { SchemaForm } from './form/form.tsx';
import type { EditorProps } from './form/editor.ts';

const AS_IT_IS = 'as it is';

const same = (a: ShapeParameters['outline'], b: ShapeParameters['outline']): boolean =>
  a.length === b.length && a.every(([u, v], i) => u === b[i][0] && v === b[i][1]);

/** What is forged: an outline and its sizes, taken from the blade that is laid on the bar or from a profile. */
export function ShapeEditor({ parameters: p, change, before, problem }: EditorProps<ShapeParameters>) {
  const { plan, shop } = useEvaluation();
  const { blade } = plan;
  const known = PROFILES.find((profile) => same(profile.outline, p.outline))?.name ?? AS_IT_IS;
  const options = PROFILES.map(({ name }) => [name, name] as const);
  const reshape = (name: string) => {
    const profile = PROFILES.find((one) => one.name === name);
    if (profile) change({ outline: profile.outline.map(([u, v]) => [u, v]), edges: profile.edges });
  };
  const take = () => {
    const [bar] = before;
    if (blade && bar) change(forgedAnew(p, blade, bar, shop));
  };
  return (
    <>
      <Choice
        label="Outline"
        value={known}
        options={known === AS_IT_IS ? [...options, [AS_IT_IS, blade?.name ?? 'Drawn'] as const] : options}
        onChange={reshape}
      />
      {blade && (
        <Button size="small" variant="outlined" onClick={take}>
          As the blade laid on it
        </Button>
      )}
      <SchemaForm schema={shape.parameters} values={p} change={change} problem={problem} />
      <EdgesChoice edges={p.edges} onChange={(edges) => change({ edges })} />
    </>
  );
}
