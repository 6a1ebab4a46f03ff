import { Link } from 'react-router';
import type { BuiltIn, SoundShape } from '@rackle/core/show';
import { Button } from '../../ui/Button';
import { EditableText } from '../../ui/EditableText';
import { Slide } from '../../ui/Slide';
import { EffectSeries } from '../effects';
import { PresetPicture } from './PresetPicture';
import { PresetWords } from './PresetWords';
import { useOwnPresets } from './useOwnPresets';

const CONTROLS: readonly [keyof SoundShape, string, readonly [string, string]][] = [
  ['bright', 'brightness', ['dull', 'bright']],
  ['attack', 'attack', ['at once', 'slow']],
  ['decay', 'decay', ['short', 'long']],
  ['release', 'release', ['short', 'long']],
  ['touch', 'touch', ['even', 'by velocity']],
  ['vibrato', 'vibrato', ['none', 'deep']],
  ['width', 'width', ['one', 'many']],
  ['noise', 'noise', ['clean', 'breath']],
];
const signed = (value: number): string => (value > 0 ? `+${value}` : value < 0 ? `−${-value}` : '0');

/**
 * A built-in instrument: its presets, those that the player has made of them, and the handful of controls that make
 * one.
 */
export function ShapePage({ instrument }: { instrument: BuiltIn }) {
  const made = useOwnPresets(instrument);
  const { presets, chosen, choose } = made;
  return (
    <div className="h-full overflow-y-auto px-4 py-3">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h1 className="named text-4xl">{instrument.name}</h1>
        <span className="text-ink2">
          {instrument.about} ·{' '}
          {instrument.memoryMb === 0
            ? 'made as it is played'
            : `recorded: ${instrument.memoryMb} MB at most, ${instrument.loadMs} ms to load`}{' '}
          ·{' '}
          <Link to="/sounds" className="inline-flex items-center underline decoration-dotted">
            Sounds
          </Link>
        </span>
      </div>
      <PresetWords title="its presets" presets={instrument.presets} chosen={chosen} onChoose={choose} />
      {presets.length > 0 && <PresetWords title="made by you" presets={presets} chosen={chosen} onChoose={choose} />}
      <Preset made={made} />
    </div>
  );
}

/** The preset that is looked at: its name, its controls, its effects. */
function Preset({ made }: { made: ReturnType<typeof useOwnPresets> }) {
  const { audition, mine, base, shape, uses, change, make, remove, take } = made;
  return (
    <section aria-label="the preset" className="mt-3 border-t border-ink pt-3">
      <div className="flex items-center gap-3">
        {mine ? (
          <EditableText
            label="name of the preset"
            value={mine.name}
            className="named text-3xl"
            onChange={(name) => change({ name }, 'rename a preset')}
          />
        ) : (
          <h2 className="named text-3xl">{base.name}</h2>
        )}
        <span className="text-ink2">
          {mine
            ? `made of ${base.name}`
            : 'one of Rackle’s, which stays as it is: move anything, and it goes on as yours'}
        </span>
        <span className="ml-auto flex gap-2">
          {audition && <Button onClick={take}>Take it for {audition.layer.name}</Button>}
          <Button look={mine ? 'framed' : 'filled'} onClick={() => make()}>
            {mine ? 'Make another' : 'Make it my own'}
          </Button>
        </span>
      </div>
      <p className="mt-1 text-[13px] text-ink2">
        {audition ? (
          <>
            Heard in the place of <b className="text-ink">{audition.layer.name}</b> in {audition.song.name} while you
            are here.
          </>
        ) : (
          'No song is played, so nothing can be heard yet. Recall a patch in the strip above.'
        )}
      </p>
      <div className="mt-3 grid grid-cols-2 gap-x-12">
        {CONTROLS.map(([name, label, ends]) => (
          <Slide
            key={name}
            label={label}
            ends={ends}
            min={-100}
            max={100}
            value={shape[name]}
            show={signed}
            onChange={(value) => change({ shape: { ...shape, [name]: value } }, `change the ${label}`)}
          />
        ))}
      </div>
      <PresetPicture presetId={base.id} shape={shape} />
      <h3 className="mt-4 text-[13px] font-bold text-ink2">effects that go with it</h3>
      <EffectSeries effects={mine?.effects ?? []} onChange={(effects, label) => change({ effects }, label)} />
      {mine && (
        <p className="mt-4 text-[13px]">
          {uses.length === 0 ? (
            <Button look="plain" onClick={remove}>
              remove it
            </Button>
          ) : (
            <span className="text-ink2">played in {uses.join(', ')}</span>
          )}
        </p>
      )}
    </section>
  );
}
