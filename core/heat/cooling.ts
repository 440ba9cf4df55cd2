/** Stefan–Boltzmann constant, W/m²K⁴. */
const SIGMA = 5.670374419e-8;
/** Emissivity of scaled steel (handbook, heat). */
const EMISSIVITY = 0.8;
const KELVIN = 273.15;

/** A bar losing heat by radiation: its volume over its radiating surface, mm, and heat per volume, J/m³K. */
export interface Cooling {
  readonly thicknessMm: number;
  readonly heatJm3K: number;
}

/** K/s lost at a temperature, radiation alone, the bar taken as one temperature. */
export const coolingRate = ({ thicknessMm, heatJm3K }: Cooling, atC: number): number =>
  (EMISSIVITY * SIGMA * (atC + KELVIN) ** 4) / ((heatJm3K * thicknessMm) / 1000);

/** Seconds to fall from one temperature to another: t = ρcV/(3εσA) · (1/T₁³ − 1/T₀³), kelvin. 0 when it is colder already. */
export function coolingSeconds({ thicknessMm, heatJm3K }: Cooling, fromC: number, toC: number): number {
  if (toC >= fromC) return 0;
  const per = (c: number) => 1 / (c + KELVIN) ** 3;
  return (((heatJm3K * thicknessMm) / 1000) * (per(toC) - per(fromC))) / (3 * EMISSIVITY * SIGMA);
}

/** °C after so many seconds. */
export function cooledTo({ thicknessMm, heatJm3K }: Cooling, fromC: number, seconds: number): number {
  const start = 1 / (fromC + KELVIN) ** 3;
  const more = (3 * EMISSIVITY * SIGMA * seconds) / ((heatJm3K * thicknessMm) / 1000);
  return (start + more) ** (-1 / 3) - KELVIN;
}

/** Room, °C. */
const ROOM_C = 20;

/** What a hot surface loses by radiation, as a surface coefficient against the room, W/m²K. */
export const radiationWm2K = (atC: number): number =>
  (EMISSIVITY * SIGMA * ((atC + KELVIN) ** 4 - (ROOM_C + KELVIN) ** 4)) / (atC - ROOM_C);

/** Natural convection about a hot bar in still air, W/m²K: common practice, no source. */
const AIR_WM2K = 8;
const PARTS = 96;

/**
 * Seconds to fall from one temperature to another in still air, by radiation against the room and by convection, the bar taken as one
 * temperature: the integral of ρcV/A / (h (T − room)), by Simpson's rule over ln(T − room). Infinite down to the room's own.
 */
export function airCoolingSeconds({ thicknessMm, heatJm3K }: Cooling, fromC: number, toC: number): number {
  if (toC >= fromC) return 0;
  if (toC <= ROOM_C) return Infinity;
  const [low, high] = [Math.log(toC - ROOM_C), Math.log(fromC - ROOM_C)];
  const step = (high - low) / PARTS;
  let sum = 0;
  for (let i = 0; i <= PARTS; i++) {
    const weight = i === 0 || i === PARTS ? 1 : i % 2 === 1 ? 4 : 2;
    sum += weight / (radiationWm2K(ROOM_C + Math.exp(low + i * step)) + AIR_WM2K);
  }
  return ((heatJm3K * thicknessMm) / 1000) * ((sum * step) / 3);
}
