import { keyName } from '@rackle/core/midi';
import { foldsOnto, withFolds, type Patch, type Song } from '@rackle/core/show';
import { Button } from '../../ui/Button';
import { Stamp } from '../../ui/Stamp';

interface Props {
  song: Song;
  patch: Patch;
  keys: number;
  lowest: number;
  highest: number;
  middleC: 'C3' | 'C4';
  onChange: (label: string, next: Song) => void;
}

/** Zones of a patch that a keyboard of this size does not reach, and where they could lie on it. */
export function FoldNote({ song, patch, keys, lowest, highest, middleC, onChange }: Props) {
  const folds = foldsOnto(patch, lowest, highest);
  if (folds.length === 0) return null;
  const nameOf = (id: string): string => song.layers.find((layer) => layer.id === id)?.name ?? '';
  return (
    <div role="note" className="my-1 border-y border-rule py-1 text-[13px]">
      <Stamp>out of reach</Stamp> on {keys} keys:{' '}
      {folds.map((fold, i) => (
        <span key={fold.layerId}>
          {i > 0 && '; '}
          <b>{nameOf(fold.layerId)}</b> could lie on {keyName(fold.lowKey, middleC)}–{keyName(fold.highKey, middleC)}{' '}
          and sound as it does{fold.meets.length > 0 && `, together with ${fold.meets.map(nameOf).join(' and ')}`}
        </span>
      ))}
      .{' '}
      <Button
        look="plain"
        className="not-pointer-coarse:min-h-0!"
        onClick={() => onChange('fold zones onto a smaller keyboard', withFolds(song, patch.id, folds))}
      >
        fold {folds.length === 1 ? 'it' : 'them'}
      </Button>
    </div>
  );
}
