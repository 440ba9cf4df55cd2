/** One minute of arc, rad: what sight of 6/6 (20/20) resolves, by the definition of visual acuity. */
const RESOLVED_RAD = Math.PI / (180 * 60);

/** Smallest gap that the eye tells apart at a distance, mm. */
export const resolvedMm = (distanceMm: number): number => distanceMm * Math.tan(RESOLVED_RAD);

/** Bands below about twice that read as grey (handbook, geometry). */
export const leastBandMm = (distanceMm: number): number => 2 * resolvedMm(distanceMm);
