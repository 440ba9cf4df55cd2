import { createContext, useContext } from 'react';
import type { Units } from '../../../core/units/index.ts';

/** The units that fields and figures are written in here: those of the piece that is open, or of the screen's own shop. */
export const UnitsContext = createContext<Units>({
  lengths: { unit: 'mm', division: 0.5 },
  masses: 'kg',
  temperatures: 'C',
});

export const useUnits = (): Units => useContext(UnitsContext);
