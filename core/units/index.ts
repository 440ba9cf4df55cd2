export * from './force.ts';
export * from './length.ts';
export * from './mass.ts';
export * from './figure.ts';
export * from './temperature.ts';
export * from './time.ts';
export type { Parsed } from './parsed.ts';
export type { Choosing, Entry, Naming, Quantity, Units } from './quantities.ts';
export {
  editableQuantity,
  entriesOf,
  entryAt,
  quantitiesOf,
  quantityOf,
  readQuantity,
  showQuantity,
} from './quantities.ts';
