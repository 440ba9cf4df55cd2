import type { ComponentType } from 'react';
import type { MoveKind, ParametersOf } from '../../../core/moves/index.ts';
import { AccordionEditor } from './AccordionEditor.tsx';
import { AssembleEditor } from './AssembleEditor.tsx';
import { CanEditor } from './can/CanEditor.tsx';
import { ConsolidateEditor } from './ConsolidateEditor.tsx';
import { CornersEditor } from './CornersEditor.tsx';
import { CropEditor } from './CropEditor.tsx';
import { CutEditor } from './CutEditor.tsx';
import { DrawEditor } from './DrawEditor.tsx';
import { FlattenEditor } from './FlattenEditor.tsx';
import { GrindEditor } from './GrindEditor.tsx';
import { GroovesEditor } from './GroovesEditor.tsx';
import { JacketEditor } from './JacketEditor.tsx';
import { JoinEditor } from './JoinEditor.tsx';
import { LaminateEditor } from './LaminateEditor.tsx';
import { LeanEditor } from './LeanEditor.tsx';
import { MeasureEditor } from './MeasureEditor.tsx';
import { PeelEditor } from './PeelEditor.tsx';
import { PressEditor } from './PressEditor.tsx';
import { ResquareEditor } from './ResquareEditor.tsx';
import { RipEditor } from './RipEditor.tsx';
import { StackEditor } from './StackEditor.tsx';
import { StandEditor } from './StandEditor.tsx';
import { TileEditor } from './TileEditor.tsx';
import { TrueUpEditor } from './TrueUpEditor.tsx';
import { TwistEditor } from './TwistEditor.tsx';
import { UpsetEditor } from './UpsetEditor.tsx';
import { WedgeEditor } from './WedgeEditor.tsx';
import { WeldEditor } from './WeldEditor.tsx';
import type { EditorProps } from './editor.ts';

/** One editor for every move. */
const EDITORS: { [K in MoveKind]: ComponentType<EditorProps<ParametersOf<K>>> } = {
  stack: StackEditor,
  can: CanEditor,
  consolidate: ConsolidateEditor,
  weld: WeldEditor,
  draw: DrawEditor,
  resquare: ResquareEditor,
  press: PressEditor,
  corners: CornersEditor,
  lean: LeanEditor,
  twist: TwistEditor,
  wedge: WedgeEditor,
  upset: UpsetEditor,
  cut: CutEditor,
  crop: CropEditor,
  rip: RipEditor,
  grind: GrindEditor,
  trueUp: TrueUpEditor,
  peel: PeelEditor,
  assemble: AssembleEditor,
  laminate: LaminateEditor,
  jacket: JacketEditor,
  stand: StandEditor,
  join: JoinEditor,
  tile: TileEditor,
  accordion: AccordionEditor,
  grooves: GroovesEditor,
  flatten: FlattenEditor,
  measure: MeasureEditor,
};

/** A move's editor, its parameter type set aside: the step's kind has already matched the two. */
export const editorOf = (kind: MoveKind): ComponentType<EditorProps<unknown>> =>
  EDITORS[kind] as ComponentType<EditorProps<unknown>>;
