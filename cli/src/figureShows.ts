import { SilentSink } from '@rackle/core/engine';
import { BUILT_INS, SHOW_VERSION, Show } from '@rackle/core/show';

/** Copies what it is given into a ring, as a port would. */
export class RingSink extends SilentSink {
  readonly ring = new Uint8Array(1 << 16);
  private at = 0;

  override send(destination: number, status: number, data1: number, data2: number): void {
    const at = (this.at = (this.at + 4) & 0xffff);
    this.ring[at] = destination;
    this.ring[at + 1] = status;
    this.ring[at + 2] = data1;
    this.ring[at + 3] = data2;
  }
}

/** Songs of so many patches and layers, each patch with its number. */
export function showOf(songs: number, patches: number, layers: number): Show {
  const preset = BUILT_INS[0].presets[0];
  const ids = Array.from({ length: layers }, (_, i) => `l${i}`);
  return Show.parse({
    format: 'rackle-show',
    version: SHOW_VERSION,
    songs: Array.from({ length: songs }, (_, s) => ({
      id: `s${s}`,
      name: `Song ${s}`,
      layers: ids.map((id) => ({
        id,
        name: id,
        tape: 'moss',
        sound: { instrumentId: BUILT_INS[0].id, presetId: preset.id },
      })),
      patches: Array.from({ length: patches }, (_, p) => ({
        id: `p${p}`,
        name: `Patch ${p}`,
        parts: ids.map((layerId, i) => ({ layerId, shift: i % 3 })),
      })),
    })),
    setlists: [
      {
        id: 'set',
        name: 'Set',
        entries: Array.from({ length: songs }, (_, s) => ({ kind: 'song', id: `e${s}`, songId: `s${s}` })),
        programs: Array.from({ length: songs * patches }, (_, i) => ({
          target: { songId: `s${Math.floor(i / patches)}`, patchId: `p${i % patches}` },
          msb: i >> 14,
          lsb: (i >> 7) & 127,
          program: i & 127,
        })),
      },
    ],
    gearLists: [{ id: 'g', name: 'G', ports: [{ direction: 'in', alias: 'Keys', device: 'Aster 73' }] }],
  });
}

/** The same with zones as uneven as players set them, so that no two songs share their tables. */
export function unevenShowOf(songs: number, patches: number, layers: number): Show {
  const even = showOf(songs, patches, layers);
  return {
    ...even,
    songs: even.songs.map((song, s) => ({
      ...song,
      patches: song.patches.map((patch, p) => ({
        ...patch,
        parts: patch.parts.map((part, i) => ({
          ...part,
          zone: { ...part.zone, lowKey: (s + p * 5 + i * 11) % 60, highKey: 70 + ((s * 3 + i) % 57) },
        })),
      })),
    })),
  };
}
