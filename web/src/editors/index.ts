import type { ComponentType } from 'react';
import type { MoveKind, ParametersOf } from '../../../core/steps/index.ts';
import { AssembleEditor } from './AssembleEditor.tsx';
import { CutEditor } from './CutEditor.tsx';
import { DrawEditor } from './DrawEditor.tsx';
import { GrindEditor } from './GrindEditor.tsx';
import { ResquareEditor } from './ResquareEditor.tsx';
import { StackEditor } from './StackEditor.tsx';
import { TileEditor } from './TileEditor.tsx';
import { WeldEditor } from './WeldEditor.tsx';
import type { EditorProps } from './editor.ts';

/** One editor for every move. */
const EDITORS: { [K in MoveKind]: ComponentType<EditorProps<ParametersOf<K>>> } = {
  stack: StackEditor,
  weld: WeldEditor,
  draw: DrawEditor,
  resquare: ResquareEditor,
  cut: CutEditor,
  grind: GrindEditor,
  assemble: AssembleEditor,
  tile: TileEditor,
};

/** A move's editor, its parameter type set aside: the step's kind has already matched the two. */
export const editorOf = (kind: MoveKind): ComponentType<EditorProps<unknown>> =>
  EDITORS[kind] as ComponentType<EditorProps<unknown>>;
