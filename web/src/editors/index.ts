import type { ComponentType } from 'react';
import type { z } from 'zod';
import { MOVES, type MoveKind, type ParametersOf } from '../../../core/moves/index.ts';
import { AssembleEditor } from './AssembleEditor.tsx';
import { ChooseEditor } from './ChooseEditor.tsx';
import { DrawEditor } from './DrawEditor.tsx';
import { FoundEditor } from './FoundEditor.tsx';
import { LaminateEditor } from './LaminateEditor.tsx';
import { PressEditor } from './PressEditor.tsx';
import { PutBackEditor } from './PutBackEditor.tsx';
import { ScarfEditor } from './ScarfEditor.tsx';
import { ShapeEditor } from './ShapeEditor.tsx';
import { StackEditor } from './StackEditor.tsx';
import { TileEditor } from './TileEditor.tsx';
import { TreatEditor } from './TreatEditor.tsx';
import { WeldEditor } from './WeldEditor.tsx';
import { CanEditor } from './can/CanEditor.tsx';
import type { EditorProps } from './form/editor.ts';
import { formEditor } from './form/form.tsx';

type Editors = { [K in MoveKind]?: ComponentType<EditorProps<ParametersOf<K>>> };

/** Editors of moves that are more than a list of numbers. */
const OWN: Editors = {
  stack: StackEditor,
  found: FoundEditor,
  can: CanEditor,
  choose: ChooseEditor,
  draw: DrawEditor,
  press: PressEditor,
  assemble: AssembleEditor,
  putBack: PutBackEditor,
  scarf: ScarfEditor,
  shape: ShapeEditor,
  laminate: LaminateEditor,
  tile: TileEditor,
  treat: TreatEditor,
  weld: WeldEditor,
  crop: formEditor(MOVES.crop.parameters, { when: { whyA: (p) => p.endAMm > 0, whyB: (p) => p.endBMm > 0 } }),
  wedge: formEditor(MOVES.wedge.parameters, { when: { waistMm: (p) => p.into === 'bow-tie' } }),
  grooves: formEditor(MOVES.grooves.parameters, { when: { slantDeg: (p) => p.pattern === 'diagonal' } }),
};

/** The rest are forms made from their schemas. */
const forms = new Map<MoveKind, ComponentType<EditorProps<unknown>>>();

/** A move's editor, its parameter type set aside: the step's kind has already matched the two. */
export function editorOf(kind: MoveKind): ComponentType<EditorProps<unknown>> {
  const known = (OWN[kind] as ComponentType<EditorProps<unknown>> | undefined) ?? forms.get(kind);
  if (known) return known;
  const form = formEditor(MOVES[kind].parameters as z.ZodType<object>);
  forms.set(kind, form as ComponentType<EditorProps<unknown>>);
  return form as ComponentType<EditorProps<unknown>>;
}
