import type { GearList, RoleSource } from '../show';

/** A program as it comes in: on a channel, after a bank select. */
export interface ComingProgram {
  /** Alias of the input. */
  port: string;
  /** 1–16. */
  channel: number;
  msb: number;
  lsb: number;
  program: number;
}

/** @returns the role that has taken a program for itself: it never gets to the program map; null: none has */
export function roleTaking(
  { roles }: Pick<GearList, 'roles'>,
  { port, channel, msb, lsb, program }: ComingProgram,
): RoleSource | null {
  return (
    roles.find(
      ({ source }) =>
        source.kind === 'program' &&
        source.port === port &&
        source.number === program &&
        (source.channel === null || source.channel === channel) &&
        (source.msb === null || source.msb === msb) &&
        (source.lsb === null || source.lsb === lsb),
    ) ?? null
  );
}
