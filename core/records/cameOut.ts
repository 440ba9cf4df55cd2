import {
  type Billet,
  type Loss,
  type LossCause,
  placeAmong,
  scaled,
  sizeOf,
  volumeOf,
  writtenOn,
} from '../billet/billet.ts';
import { MappedField } from '../billet/fields/mapped.ts';
import { keepLength } from '../billet/removal.ts';
import { list } from '../instruct/said.ts';
import { type Volumes, addVolumes, massKg, subtractVolumes, totalVolume } from '../materials/volumes.ts';
import { error, heated, note, warning } from '../moves/contract/common.ts';
import type { Finding, Outcome } from '../moves/contract/move.ts';
import { UPRIGHT_DEG, leanNow, slid, slideTo, upright } from '../moves/forge/lean.ts';
import { measure } from '../moves/surface/measure.ts';
import type { Shop } from '../shop/shop.ts';
import type { Along } from '../sighting/along.ts';
import { seenAlong, seenPattern } from '../sighting/pattern.ts';
import type { Sighting } from '../sighting/sighting.ts';
import { formatLength, toDivisionMm } from '../units/length.ts';
import { formatMass } from '../units/mass.ts';
import {
  type BenchRecord,
  LOOKED_INTO,
  type LookedInto,
  type PieceCame,
  SCRAP_REASONS,
  ofTheBar,
} from './record.ts';

/** What a step made by reckoning, from which bars and with how many heats. */
export interface Made extends Outcome {
  readonly before: readonly Billet[];
  readonly heats: number;
}

/** What stands there after what was measured is laid over it. */
export interface Came {
  readonly after: readonly Billet[];
  readonly losses: readonly Loss[];
  readonly findings: readonly Finding[];
}

/** Times in the fire that the records of a step count; nothing where none does. */
function heatsCame(records: readonly BenchRecord[]): number | null {
  const counted = ofTheBar(records).flatMap((r) => r.heats ?? []);
  return counted.length > 0 ? counted.reduce((sum, n) => sum + n, 0) : null;
}

interface Piece {
  readonly name: string;
  readonly place: number;
  /** Null where it was scrapped. */
  bar: Billet | null;
  /** How many times as much steel as reckoned it was measured to be, and what of that may be an error, mm³. */
  grown: number;
  withinMm3: number;
  /** How many times as long as reckoned what is left of it came, and how much was cut off at end A, mm. */
  longer: number;
  offEndAMm: number;
}

/**
 * Lays what was measured over what was reckoned, record by record in time. Sizes within the shop's measuring error of the reckoned
 * ones, or read as the same on its rule, are the reckoned ones. What is less than reckoned is booked as unaccounted; more than
 * went in is not believed. Without a record, or with one that says what was reckoned, the very same bars come back.
 */
export function cameOut(made: Made, records: readonly BenchRecord[], shop: Shop): Came {
  const own = ofTheBar(records);
  const lost = new Map<LossCause, Volumes[]>();
  const lose = (cause: LossCause, volumes: Volumes) => lost.set(cause, [...(lost.get(cause) ?? []), volumes]);
  const findings: Finding[] = [];
  const more = (heatsCame(own) ?? 0) - made.heats;
  const hot = more > 0 ? heated(made.after, more, shop) : { after: made.after, losses: [] };
  for (const { volumes } of hot.losses) lose('scale', volumes);
  const pieces: Piece[] = hot.after.map((bar, i) => ({
    name: writtenOn(bar, i),
    place: placeAmong(bar, i),
    bar,
    grown: 1,
    withinMm3: 0,
    longer: 1,
    offEndAMm: 0,
  }));
  const scrapped: string[] = [];
  const photographed = sightingsOf(own);
  for (const came of own.flatMap((r) => r.pieces ?? [])) {
    const piece = pieces.find((p) => p.name === came.piece);
    if (!piece?.bar) {
      findings.push(notThere(came.piece, scrapped));
      continue;
    }
    if (came.scrapped) {
      lose('scrapped', piece.bar.volumes);
      scrapped.push(`${came.piece} (${SCRAP_REASONS[came.scrapped]})`);
      piece.bar = null;
      continue;
    }
    if (piece.bar.blank) {
      findings.push(blankMeasured(came.piece));
      continue;
    }
    const cut = cutBack(piece.bar, came, shop);
    if (cut.lost) lose('crop', cut.lost);
    const sized = resized(cut.bar, came, shop);
    findings.push(...cut.findings, ...sized.findings);
    if (cut.lost) piece.offEndAMm += (came.cropped?.endAMm ?? 0) / piece.longer;
    piece.longer *= sized.bar.lengthMm / cut.bar.lengthMm;
    piece.grown *= sized.grown;
    piece.withinMm3 = Math.hypot(piece.withinMm3, sized.withinMm3);
    piece.bar = shown(leaned(sized.bar, came), came, photographed.has(came.piece), shop, findings);
  }
  const faces = facesOf(own);
  for (const piece of pieces)
    if (piece.bar)
      piece.bar = asPhotographed(
        faceSeen(piece.bar, faces.get(piece.name), piece),
        photographed.get(piece.name),
      );
  if (pieces.some((p) => p.grown !== 1)) {
    const reckoned = subtractVolumes(
      addVolumes(...hot.after.map((b) => b.volumes)),
      addVolumes(...(lost.get('crop') ?? []), ...(lost.get('scrapped') ?? [])),
    );
    const { unaccounted, said } = settled(pieces, reckoned, totalLost([...made.losses, ...hot.losses]), shop);
    if (unaccounted) lose('unaccounted', unaccounted);
    findings.push(...said);
  }
  const left = pieces.filter((p) => p.bar !== null);
  if (scrapped.length > 0) findings.push(gone(scrapped, left.length));
  const after = left.map(({ bar, place }) => (scrapped.length > 0 ? withPlace(bar!, place) : bar!));
  return { after: same(after, made.after) ? made.after : after, losses: booked(made.losses, lost), findings };
}

const same = (a: readonly Billet[], b: readonly Billet[]): boolean =>
  a.length === b.length && a.every((bar, i) => bar === b[i]);

const totalLost = (losses: readonly Loss[]): number =>
  losses.reduce((sum, { volumes }) => sum + totalVolume(volumes), 0);

/** The move's own losses with what came beside them, one entry to a cause. */
function booked(own: readonly Loss[], lost: ReadonlyMap<LossCause, Volumes[]>): readonly Loss[] {
  if (lost.size === 0) return own;
  const losses = own.map(({ cause, volumes }) => ({
    cause,
    volumes: addVolumes(volumes, ...(lost.get(cause) ?? [])),
  }));
  const known = new Set(own.map(({ cause }) => cause));
  const fresh = [...lost].filter(([cause]) => !known.has(cause));
  return [...losses, ...fresh.map(([cause, all]) => ({ cause, volumes: addVolumes(...all) }))];
}

const withPlace = (bar: Billet, place: number): Billet => ({
  ...bar,
  piece: { number: place, fromMm: 0, toMm: bar.lengthMm, ...bar.piece, place },
});

const notThere = (name: string, scrapped: readonly string[]): Finding =>
  warning(
    'no such piece',
    scrapped.some((s) => s.startsWith(`${name} (`))
      ? `Something was written of piece ${name} after it was scrapped: look through the records.`
      : `The records speak of a piece ${name}; there is none here. Look through the records, or bring the plan back to what was done.`,
  );

const blankMeasured = (name: string): Finding =>
  note(
    'blank measured',
    `What was measured of ${name === '1' ? 'the blank' : `blank ${name}`} stays in the log: a shape of many sizes is shown as it was planned.`,
  );

const gone = (scrapped: readonly string[], left: number): Finding =>
  left === 0
    ? error(
        'all scrapped',
        `Nothing is left of this bar: ${scrapped.join(', ')} scrapped. Begin it anew, or let another bar take its place.`,
      )
    : note('scrapped', `Scrapped: ${scrapped.join(', ')}. ${left} left.`);

function cutBack(
  bar: Billet,
  { piece, cropped }: PieceCame,
  shop: Shop,
): { bar: Billet; lost: Volumes | null; findings: Finding[] } {
  const off = cropped ? cropped.endAMm + cropped.endBMm : 0;
  if (!cropped || off <= 0) return { bar, lost: null, findings: [] };
  if (off >= bar.lengthMm)
    return {
      bar,
      lost: null,
      findings: [
        warning(
          'cut away',
          `Piece ${piece} is ${formatLength(bar.lengthMm, shop.lengths)} long: ${formatLength(off, shop.lengths)} cannot have been cut off it. Scrap it, or write less.`,
        ),
      ],
    };
  const kept = keepLength(bar, cropped.endAMm, bar.lengthMm - cropped.endBMm, shop);
  return { bar: kept.billet, lost: kept.lost, findings: [] };
}

/** What was measured where it is another size than the reckoned one: within the error of measuring, or read the same, it is that. */
const apart = (measured: number | undefined, reckoned: number, error: number, shop: Shop): number | null =>
  measured === undefined ||
  Math.abs(measured - reckoned) <= error ||
  Math.abs(measured - toDivisionMm(reckoned, shop.lengths)) < 1e-6
    ? null
    : measured;

/** A size along the bar: Simpson's rule over the ends and the middle, their mean without the middle. */
function along(middle: number | undefined, ends: readonly (number | undefined)[]): number | undefined {
  const known = ends.filter((mm) => mm !== undefined);
  const mean = known.length > 0 ? known.reduce((a, b) => a + b, 0) / known.length : undefined;
  if (middle === undefined) return mean;
  return mean === undefined ? middle : (2 * middle + mean) / 3;
}

interface Sized {
  readonly bar: Billet;
  /** How many times as much steel it is, and how far that may be wrong, mm³. */
  readonly grown: number;
  readonly withinMm3: number;
  readonly findings: Finding[];
}

/** A piece of the sizes that were measured; its picture goes along. */
function resized(bar: Billet, came: PieceCame, shop: Shop): Sized {
  const { caliperMm, ruleMm, scaleKg } = shop.measuring;
  const { widthMm: w, heightMm: h } = sizeOf(bar);
  const width = apart(along(came.widthMm, [came.endA?.widthMm, came.endB?.widthMm]), w, caliperMm, shop);
  const height = apart(along(came.heightMm, [came.endA?.heightMm, came.endB?.heightMm]), h, caliperMm, shop);
  const length = apart(came.lengthMm, bar.lengthMm, ruleMm, shop);
  const kg = massKg(bar.volumes, shop.materials);
  const mass = came.massKg !== undefined && Math.abs(came.massKg - kg) > scaleKg ? came.massKg : null;
  const [sx, sy] = [(width ?? w) / w, (height ?? h) / h];
  const keeps = sx === 1 && sy === 1;
  const held = keeps ? bar : withoutLaid(scaled(bar, sx, sy, 1 / (sx * sy)));
  // Steel without the emptiness between a powder's grains has no length of its own.
  if ((keeps && length === null && mass === null) || kg === 0)
    return { bar: held, grown: 1, withinMm3: 0, findings: [] };
  const volume = volumeOf(bar);
  const bySizes = came.lengthMm !== undefined;
  const byScale = came.massKg === undefined ? null : (volume * (mass ?? kg)) / kg;
  const sizes = volume * sx * sy * ((length ?? bar.lengthMm) / bar.lengthMm);
  const errorOfSizes = volume * Math.hypot(caliperMm / w, caliperMm / h, ruleMm / bar.lengthMm);
  const errorOfScale = (volume * scaleKg) / kg;
  const is = bySizes ? sizes : (byScale ?? volume);
  const within = bySizes ? errorOfSizes : errorOfScale;
  const findings =
    bySizes && byScale !== null && Math.abs(sizes - byScale) > Math.hypot(errorOfSizes, errorOfScale)
      ? [unlike(came, (kg * sizes) / volume, shop)]
      : [];
  const grown = Math.abs(is - volume) <= within ? 1 : is / volume;
  return { bar: grown === 1 ? held : scaled(held, 1, 1, grown), grown, withinMm3: within, findings };
}

/** Of a stack of another height it is not known which of its pieces differs. */
const withoutLaid = (bar: Billet): Billet => (bar.laid ? { ...bar, laid: undefined } : bar);

const unlike = ({ piece, massKg: weighed }: PieceCame, kg: number, { masses }: Shop): Finding =>
  warning(
    'mass and sizes',
    `Piece ${piece} weighs ${formatMass(weighed!, masses)}, its sizes come to ${formatMass(kg, masses)}: one of them was misread. The sizes count until then.`,
  );

function leaned(bar: Billet, { leansDeg }: PieceCame): Billet {
  if (leansDeg === undefined || Math.abs(leanNow(bar) - leansDeg) < UPRIGHT_DEG) return bar;
  return slid(bar, slideTo(bar, leansDeg));
}

type Sightings = Partial<Record<LookedInto, Sighting>>;

const PLACES = Object.keys(LOOKED_INTO) as LookedInto[];

/** What photographs showed of each piece, end by end and in the middle; of two of one place the later, for each was read against what was foreseen. */
function sightingsOf(records: readonly BenchRecord[]): ReadonlyMap<string, Sightings> {
  const by = new Map<string, Sightings>();
  for (const came of records.flatMap((r) => r.pieces ?? []))
    for (const place of PLACES) {
      const sighting = came[place]?.sighting;
      if (sighting) by.set(came.piece, { ...by.get(came.piece), [place]: sighting });
    }
  return by;
}

/** The picture as photographs of the ends and the middle showed it, laid out square: where steel lies, whatever was foreseen. */
function asPhotographed(bar: Billet, sightings: Sightings | undefined): Billet {
  if (!sightings) return bar;
  const straight = upright(bar);
  const { widthMm, heightMm } = sizeOf(straight);
  const stations = PLACES.flatMap((place) => {
    const sighting = sightings[place];
    return sighting ? [{ sighting, atMm: LOOKED_INTO[place] * bar.lengthMm }] : [];
  });
  const pattern = seenPattern(stations, widthMm / 2, heightMm / 2);
  const seen = withoutLaid({ ...straight, field: new MappedField(straight.field, pattern) });
  return straight === bar ? seen : slid(seen, slideTo(seen, leanNow(bar)));
}

/** What photographs of each piece's broad face showed; of two that overlap the later. */
function facesOf(records: readonly BenchRecord[]): ReadonlyMap<string, readonly Along[]> {
  const by = new Map<string, readonly Along[]>();
  for (const { piece, face } of records.flatMap((r) => r.pieces ?? []))
    for (const seen of face ?? []) {
      const apart = (by.get(piece) ?? []).filter((f) => f.toMm <= seen.fromMm || f.fromMm >= seen.toMm);
      by.set(piece, [...apart, seen]);
    }
  return by;
}

/** The picture along the bar as its broad face showed it: read against the bar as it was reckoned, which came longer or was cut since. */
function faceSeen(bar: Billet, seen: readonly Along[] | undefined, { longer, offEndAMm }: Piece): Billet {
  if (!seen) return bar;
  const map = seenAlong(seen, bar.lengthMm, { times: longer, lessMm: offEndAMm });
  return withoutLaid({ ...bar, field: new MappedField(bar.field, map) });
}

/** The picture turned, unless a photograph says how, and the ends spoilt as the etched ends showed. */
function shown(
  bar: Billet,
  { piece, endA, endB }: PieceCame,
  photographed: boolean,
  shop: Shop,
  findings: Finding[],
): Billet {
  const [a, b] = photographed ? [undefined, undefined] : [endA?.turnedDeg, endB?.turnedDeg];
  const turnDeg = a ?? b ?? 0;
  const zones = { zoneAMm: endA?.spoiltMm ?? 0, zoneBMm: endB?.spoiltMm ?? 0 };
  const more = (b ?? turnDeg) - turnDeg;
  if (turnDeg === 0 && more === 0 && zones.zoneAMm === 0 && zones.zoneBMm === 0) return bar;
  const parameters = { turnDeg, twistDegPerM: (1000 * more) / bar.lengthMm, ...zones };
  const wrong = measure.check([bar], parameters, shop).filter((f) => f.severity === 'error');
  if (wrong.length === 0) return measure.apply([bar], parameters, shop).after[0];
  findings.push(
    warning(
      'ends not taken',
      `What the ends of piece ${piece} showed is kept, and not reckoned with: ${wrong[0].text}`,
    ),
  );
  return bar;
}

const volumesOf = (pieces: readonly Piece[]): Volumes =>
  addVolumes(...pieces.flatMap(({ bar }) => (bar ? [bar.volumes] : [])));

/** What came less (more: less than nothing) than reckoned. Of more than can have stayed in the steel the lengths are taken back. */
function settled(
  pieces: readonly Piece[],
  reckoned: Volumes,
  lostMm3: number,
  shop: Shop,
): { unaccounted: Volumes | null; said: Finding[] } {
  const said: Finding[] = [];
  const over = totalVolume(volumesOf(pieces)) - totalVolume(reckoned) - lostMm3;
  if (over > Math.hypot(...pieces.map((p) => p.withinMm3))) {
    const grown = pieces.filter((p) => p.grown > 1);
    const names = grown.map((p) => p.name);
    for (const piece of grown) piece.bar = piece.bar && scaled(piece.bar, 1, 1, 1 / piece.grown);
    said.push(
      warning(
        'more than went in',
        `${names.length > 1 ? `Pieces ${list(names)}` : pieces.length > 1 ? `Piece ${names[0]}` : 'The bar'} would hold ${kgOf(over, reckoned, shop)} more steel than went in: measure again. Until then the length is reckoned from the section.`,
      ),
    );
  }
  const unaccounted = subtractVolumes(reckoned, volumesOf(pieces));
  const mm3 = totalVolume(unaccounted);
  if (Math.abs(mm3) < 1e-9 * totalVolume(reckoned)) return { unaccounted: null, said };
  said.push(
    note(
      'unaccounted',
      `${kgOf(Math.abs(mm3), reckoned, shop)} ${mm3 > 0 ? 'less' : 'more'} than reckoned: booked as ${mm3 > 0 ? 'unaccounted for' : 'found'}.`,
    ),
  );
  return { unaccounted, said };
}

const kgOf = (mm3: number, volumes: Volumes, { materials, masses }: Shop): string =>
  formatMass((massKg(volumes, materials) * mm3) / totalVolume(volumes), masses);
