import type { CanPressing } from '../../../../core/canister/consolidate.ts';
import type { FaceName, Plane } from '../../../../core/billet/face.ts';
import type { View } from '../../../../core/render/palette.ts';

export interface PaintJob {
  /** Where the picture will hang; a newer job for the same slot replaces an older one. */
  slot: string;
  /** Smaller goes first. */
  urgency: number;
  /** Which of the plans made known to the worker. */
  planKey: number;
  stepId: string;
  when: 'before' | 'after';
  piece: number;
  face: FaceName;
  /** Any flat window instead of a face. */
  plane?: Plane | undefined;
  view: View;
  /** Where a cut lies, 0…1; in the middle where nothing is said. */
  cutShare?: number | undefined;
  widthPx: number;
  heightPx: number;
  rough: boolean;
  /** The ground side of the plan's blade instead of the face. */
  blade?: 'right' | 'left' | undefined;
  /** Only a part of a long one: how far along (0…1), so many times as wide as high. */
  closeUp?: { at: number; aspect: number } | undefined;
  /** Only the middle of a longer face is shown, this many times as wide as high. */
  mostAspect?: number;
  /** After so many passes between dies, 0 before the first; or as the usual map or the flow has it. */
  passes?: number | 'usual' | 'flow' | undefined;
  /** As it comes out when the move's tipping is turned off by so many degrees. */
  offDeg?: number | undefined;
  /** A loose can pressed so far (0…1) on its way to solid. */
  pressed?: { share: number; pressing: CanPressing } | undefined;
}
