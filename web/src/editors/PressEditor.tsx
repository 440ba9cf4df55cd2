import { Pair } from '../ui/Group.tsx';
import { Another } from '../ui/Another.tsx';
import { mostIn, quantitiesOf } from '../../../core/units/index.ts';
import { MOVES } from '../../../core/moves/index.ts';
import { Checkbox, FormControlLabel, Typography } from '@mui/material';
import { sizeOf } from '../../../core/billet/billet.ts';
import { SEQUENCES, sequencesFor } from '../../../core/moves/forge/press/sequences.ts';
import type { ParametersOf } from '../../../core/moves/index.ts';
import { Choice } from '../ui/fields/Choice.tsx';
import { QuantityField } from '../ui/fields/QuantityField.tsx';
import { SearchPress } from './SearchPress.tsx';
import { useShop } from '../document/useEvaluation.ts';
import { PassEditor } from './PassEditor.tsx';
import type { EditorProps } from './form/editor.ts';

const of = quantitiesOf(MOVES.press.parameters);
const MOST_PASSES = mostIn(MOVES.press.parameters, 'passes');

type P = ParametersOf<'press'>;

/** Passes one by one, or a ready sequence of them. */
export function PressEditor({ parameters: p, change, before, problem }: EditorProps<P>) {
  const shop = useShop();
  const take = (name: string) => {
    const { widthMm, heightMm } = before[0] ? sizeOf(before[0]) : { widthMm: 40, heightMm: 40 };
    const { finish, passes } = SEQUENCES[name];
    change({
      finish,
      passes: passes(widthMm, heightMm).map((q) => ({ ...q, toMm: Math.round(q.toMm * 10) / 10 })),
    });
  };
  return (
    <>
      <Choice
        label="Take a ready sequence"
        value=""
        options={[['', 'as below'] as const, ...sequencesFor(before[0]).map((name) => [name, name] as const)]}
        onChange={(name) => name && take(name)}
      />
      <Typography variant="body2" color="text.secondary">
        Turns: more than 0 is counter-clockwise, seen on end B.
      </Typography>
      {p.passes.map((pass, i) => (
        <PassEditor
          key={i}
          number={i + 1}
          pass={pass}
          onChange={(other) => change({ passes: p.passes.map((q, k) => (k === i ? other : q)) })}
          onRemove={
            p.passes.length > 1 ? () => change({ passes: p.passes.filter((_, k) => k !== i) }) : undefined
          }
          problem={i === 0 ? problem('passes') : undefined}
          bites={{ friction: p.friction, biteMm: shop.biteMm }}
        />
      ))}
      <Another
        has={p.passes.length}
        most={MOST_PASSES}
        act={() =>
          change({ passes: [...p.passes, { turnDeg: 90, toMm: p.passes[p.passes.length - 1].toMm }] })
        }
      >
        Another pass
      </Another>
      {before[0] && <SearchPress bar={before[0]} parameters={p} onTake={(passes) => change({ passes })} />}
      <Choice<NonNullable<P['along']>>
        label="Along the bar the steel goes"
        value={p.along ?? 'by the bite'}
        options={[
          ['by the bite', 'by the bite, as it spreads'],
          ['held', 'nowhere: the ends are held'],
          ['free', 'freely: the whole bar is between the dies'],
        ]}
        onChange={(along) => change({ along })}
      />
      <Choice
        label="Left"
        value={p.finish}
        options={[
          ['squared', 'squared up, corners filled'],
          ['as pressed', 'as the dies leave it'],
        ]}
        onChange={(finish) => change({ finish })}
      />
      <Pair>
        <QuantityField of={of('friction')} value={p.friction} onChange={(friction) => change({ friction })} />
        <QuantityField of={of('heats')} value={p.heats} onChange={(heats) => change({ heats })} />
      </Pair>
      <FormControlLabel
        control={<Checkbox checked={p.held} onChange={(_, held) => change({ held })} />}
        label="Held, so that it does not roll"
      />
    </>
  );
}
