import { z } from 'zod';
import { InstrumentId, PresetId } from './ids';
import { Channel, Name, SevenBit } from './values';

/** One line of a name list: a name and what has to be sent for it. A bank byte that is null is not sent. */
export const NameListEntry = z.strictObject({
  id: PresetId,
  name: Name,
  folder: z.string().max(120).default(''),
  msb: SevenBit.nullable().default(null),
  lsb: SevenBit.nullable().default(null),
  program: SevenBit,
});
export type NameListEntry = z.infer<typeof NameListEntry>;

/** Hardware, or another program behind a virtual port. */
export const OutboardInstrument = z.strictObject({
  kind: z.literal('outboard'),
  id: InstrumentId,
  name: Name,
  /** Alias of the output that leads to it. */
  port: Name,
  channel: Channel,
  /** How long it is silent or wrong after a program change, in ms. */
  switchMs: z.number().min(0).max(10_000).default(0),
  names: z.array(NameListEntry).max(4096).default([]),
});
export type OutboardInstrument = z.infer<typeof OutboardInstrument>;

/** Instruments that are stored. The built-in ones are not: they ship with the application (see `BUILT_INS`). */
export const Instrument = z.discriminatedUnion('kind', [OutboardInstrument]);
export type Instrument = z.infer<typeof Instrument>;
