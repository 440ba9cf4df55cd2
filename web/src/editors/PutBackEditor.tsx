import { namedPieces } from '../../../core/moves/lay/putBack.ts';
import { MOVES, type ParametersOf } from '../../../core/moves/index.ts';
import { quantitiesOf } from '../../../core/units/index.ts';
import { Choice } from '../ui/fields/Choice.tsx';
import { QuantityField } from '../ui/fields/QuantityField.tsx';
import type { EditorProps } from './form/editor.ts';

type P = ParametersOf<'putBack'>;

const of = quantitiesOf(MOVES.putBack.parameters);

/** Which of the pieces that lie there slid off, and how much was ground off each face. */
export function PutBackEditor({ parameters: p, change, before, problem }: EditorProps<P>) {
  const names = before.length === 1 ? namedPieces(before[0]).map((piece) => piece.name) : [];
  const options = names.includes(p.piece) ? names : [...names, p.piece];
  return (
    <>
      <Choice
        label="Piece that slid off"
        value={p.piece}
        options={options.map((name) => [name, `piece ${name}`] as const)}
        onChange={(piece) => change({ piece })}
        problem={problem('piece')}
      />
      <QuantityField
        of={of('groundMm')}
        value={p.groundMm}
        onChange={(groundMm) => change({ groundMm })}
        problem={problem('groundMm')}
      />
    </>
  );
}
