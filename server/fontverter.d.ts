declare module 'fontverter' {
  /** The same font in another wrapping. */
  export function convert(font: Buffer, to: 'truetype' | 'woff' | 'woff2'): Promise<Buffer>;
}
