declare module 'pino-roll' {
  import type { SonicBoom, SonicBoomOpts } from 'sonic-boom';

  /** A stream to `<file>.<n>.log` that goes on in the next file when one is as large as `size`. */
  export default function roll(
    options: Omit<SonicBoomOpts, 'dest'> & { file: string; size: string; limit: { count: number } },
  ): Promise<SonicBoom>;
}
