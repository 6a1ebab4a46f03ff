/** What a bank for tests is made of; samples are numbers from −1 to 1. */
export interface BankParts {
  name?: string;
  /** Each preset plays each of its samples over the keys given. */
  presets?: {
    name: string;
    bank: number;
    program: number;
    zones: { sample: number; lowKey?: number; highKey?: number; generators?: [number, number][] }[];
  }[];
  samples?: { name: string; data: number[]; rate?: number; root?: number; loop?: [number, number]; end?: number }[];
}

const text = (value: string, length: number): number[] =>
  Array.from({ length }, (_, i) => (i < Math.min(value.length, length - 1) ? value.charCodeAt(i) : 0));
const u16 = (value: number): number[] => [value & 255, (value >> 8) & 255];
const u32 = (value: number): number[] => [value & 255, (value >>> 8) & 255, (value >>> 16) & 255, (value >>> 24) & 255];
const chunk = (id: string, body: number[]): number[] => [
  ...Array.from(id, (letter) => letter.charCodeAt(0)),
  ...u32(body.length),
  ...body,
  ...(body.length % 2 === 1 ? [0] : []),
];
const sine = (hz: number, seconds: number, rate = 22_050): number[] =>
  Array.from({ length: Math.round(seconds * rate) }, (_, i) => 0.6 * Math.sin((2 * Math.PI * hz * i) / rate));

/** A small bank of two presets and some drums: steady tones that loop. */
export const SMALL_BANK: Required<BankParts> = {
  name: 'Lantern Row',
  samples: [
    { name: 'Lamp tone', data: sine(220.5, 0.2), rate: 22_050, root: 57, loop: [1000, 2000] },
    { name: 'Shutter', data: sine(1102.5, 0.05), rate: 22_050, root: 84 },
  ],
  presets: [
    { name: 'Lamp', bank: 0, program: 0, zones: [{ sample: 0, generators: [[54, 1]] }] },
    {
      name: 'Lamp, low and high',
      bank: 0,
      program: 5,
      zones: [
        { sample: 0, highKey: 59, generators: [[54, 1]] },
        { sample: 1, lowKey: 60 },
      ],
    },
    { name: 'Shutters', bank: 128, program: 0, zones: [{ sample: 1 }] },
  ],
};

/** Writes a SoundFont 2.04 bank. One instrument a preset. */
export function writeBank({
  name = SMALL_BANK.name,
  presets = SMALL_BANK.presets,
  samples = SMALL_BANK.samples,
}: BankParts = {}): Uint8Array {
  const data: number[] = [];
  const shdr = samples.flatMap((sample) => {
    const start = data.length / 2;
    for (const value of sample.data) data.push(...u16(Math.round(value * 32_767) & 0xffff));
    const end = data.length / 2;
    data.push(...new Array<number>(92).fill(0));
    const [from, to] = sample.loop ?? [0, 0];
    return [
      ...text(sample.name, 20),
      ...u32(start),
      ...u32(sample.end ?? end),
      ...u32(start + from),
      ...u32(start + to),
      ...u32(sample.rate ?? 44_100),
      sample.root ?? 60,
      0,
      ...u16(0),
      ...u16(1),
    ];
  });
  const phdr: number[] = [];
  const pbag: number[] = [];
  const pgen: number[] = [];
  const inst: number[] = [];
  const ibag: number[] = [];
  const igen: number[] = [];
  presets.forEach((preset, i) => {
    phdr.push(
      ...text(preset.name, 20),
      ...u16(preset.program),
      ...u16(preset.bank),
      ...u16(pbag.length / 4),
      ...u32(0),
      ...u32(0),
      ...u32(0),
    );
    pbag.push(...u16(pgen.length / 4), ...u16(0));
    pgen.push(...u16(41), ...u16(i));
    inst.push(...text(preset.name, 20), ...u16(ibag.length / 4));
    for (const zone of preset.zones) {
      ibag.push(...u16(igen.length / 4), ...u16(0));
      igen.push(...u16(43), zone.lowKey ?? 0, zone.highKey ?? 127);
      for (const [generator, value] of zone.generators ?? []) igen.push(...u16(generator), ...u16(value & 0xffff));
      igen.push(...u16(53), ...u16(zone.sample));
    }
  });
  phdr.push(...text('EOP', 20), ...u16(0), ...u16(0), ...u16(pbag.length / 4), ...u32(0), ...u32(0), ...u32(0));
  pbag.push(...u16(pgen.length / 4), ...u16(0));
  inst.push(...text('EOI', 20), ...u16(ibag.length / 4));
  ibag.push(...u16(igen.length / 4), ...u16(0));
  pgen.push(0, 0, 0, 0);
  igen.push(0, 0, 0, 0);
  const none = new Array<number>(10).fill(0);
  const body = [
    ...Array.from('sfbk', (letter) => letter.charCodeAt(0)),
    ...chunk('LIST', [
      ...text('INFO\0', 5).slice(0, 4),
      ...chunk('ifil', [...u16(2), ...u16(4)]),
      ...chunk('isng', [...text('EMU8000', 8)]),
      ...chunk('INAM', text(name, name.length + 1 + ((name.length + 1) % 2))),
    ]),
    ...chunk('LIST', [...text('sdta\0', 5).slice(0, 4), ...chunk('smpl', data)]),
    ...chunk('LIST', [
      ...text('pdta\0', 5).slice(0, 4),
      ...chunk('phdr', phdr),
      ...chunk('pbag', pbag),
      ...chunk('pmod', none),
      ...chunk('pgen', pgen),
      ...chunk('inst', inst),
      ...chunk('ibag', ibag),
      ...chunk('imod', none),
      ...chunk('igen', igen),
      ...chunk('shdr', [...shdr, ...text('EOS', 20), ...new Array<number>(26).fill(0)]),
    ]),
  ];
  return Uint8Array.from(chunk('RIFF', body));
}
