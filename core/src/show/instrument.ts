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

/** A message that such an instrument takes as “next” or “previous”. */
export const StepMessage = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('controller'), number: z.number().int().min(1).max(119), value: SevenBit }),
  z.strictObject({ kind: z.literal('program'), number: SevenBit }),
  z.strictObject({ kind: z.literal('note'), number: SevenBit }),
]);
export type StepMessage = z.infer<typeof StepMessage>;

/** How presets are chosen on an instrument that knows no numbers: counted along its name list, which wraps. */
export const CountedSteps = z.strictObject({ next: StepMessage, previous: StepMessage });
export type CountedSteps = z.infer<typeof CountedSteps>;

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
  /** null: presets are chosen by bank and program. */
  counted: CountedSteps.nullable().default(null),
});
export type OutboardInstrument = z.infer<typeof OutboardInstrument>;

/** Instruments that are stored. The built-in ones are not: they ship with the application (see `BUILT_INS`). */
export const Instrument = z.discriminatedUnion('kind', [OutboardInstrument]);
export type Instrument = z.infer<typeof Instrument>;
