declare module 'pino-roll' {
  import type { SonicBoom, SonicBoomOpts } from 'sonic-boom';

  /** As the package's own description has it; it ships no types. */
  export default function roll(
    options: Omit<SonicBoomOpts, 'dest'> & {
      file: string;
      /** MB. */
      size?: number;
      limit?: { count?: number; removeOtherLogFiles?: boolean };
    },
  ): Promise<SonicBoom>;
}
