import {
  TAPES,
  changeSection,
  madeIndependent,
  madeRepeat,
  withSection,
  withSectionCues,
  withoutSection,
  type CueId,
  type Section,
  type SectionId,
  type Tape as TapeKind,
} from '@rackle/core/show';
import { useHost } from '../../state/hooks';
import { newId } from '../../state/ids';
import { Button } from '../../ui/Button';
import { Choice } from '../../ui/Choice';
import { EditableText } from '../../ui/EditableText';
import { madeNow, useNewRow } from '../../ui/newRow';
import { NumberField } from '../../ui/NumberField';
import { useTimeline } from './timelineContext';

const mint = (): CueId => newId<CueId>('cue');

/** Sections of the song in a sentence each, and another one where the playhead stands. */
export function SectionTable({ tick }: { tick: number }) {
  const { song, map, change } = useTimeline();
  const { bar } = map.positionAt(tick);
  const fromTick = map.barTick(Math.max(bar, song.map.upbeatTicks > 0 ? 0 : 1));
  const isThere = song.sections.some((section) => section.fromTick === fromTick);
  const add = (): void => {
    const id = newId<SectionId>('section');
    madeNow(id);
    const name = `Section ${song.sections.length + 1}`;
    const section: Section = { id, name, tape: 'bone', fromTick, toTick: map.endTick, repeats: null };
    change('add a section', withSection(song, section, mint));
  };
  return (
    <div>
      <h2 className="flex items-center gap-2 text-[13px] font-bold text-ink2">
        sections
        <Button look="plain" disabled={isThere} onClick={add}>
          another from bar {Math.max(1, bar)}
        </Button>
      </h2>
      <ul>
        {song.sections.map((section) => (
          <SectionRow key={section.id} section={section} />
        ))}
      </ul>
    </div>
  );
}

function SectionRow({ section }: { section: Section }) {
  const { song, map, here, change, showTick, readTick } = useTimeline();
  const host = useHost();
  const ref = useNewRow(section.id);
  const others = song.sections.filter(({ id }) => id !== section.id);
  const original = others.find(({ id }) => id === section.repeats);
  const alike = others.filter(
    (other) => other.repeats === null && other.toTick - other.fromTick === section.toTick - section.fromTick,
  );
  const isRepeated = others.some(({ repeats }) => repeats === section.id);
  const edit = (label: string, part: Partial<Section>): void => {
    const next = changeSection(song, section.id, (old) => ({ ...old, ...part }), mint);
    if (next !== null) change(label, next, `section ${section.id}`);
  };
  // Where it would lie over another one, the place is not taken.
  const readFree =
    (end: 'fromTick' | 'toTick') =>
    (text: string): number | null => {
      const to = end === 'toTick' && text.trim() === String(song.map.bars + 1) ? map.endTick : readTick(text);
      return to !== null && changeSection(song, section.id, (old) => ({ ...old, [end]: to }), mint) !== null
        ? to
        : null;
    };
  const follow = (chosen: string): void => {
    const next =
      chosen === ''
        ? madeIndependent(song, section.id, mint)
        : chosen.startsWith('copy ')
          ? withSectionCues(song, chosen.slice(5), section.id, mint)
          : madeRepeat(song, section.id, chosen as SectionId);
    if (next !== null)
      change(
        chosen === ''
          ? 'let a section go its own way'
          : chosen.startsWith('copy ')
            ? 'copy the cues of a section'
            : 'let a section repeat another',
        next,
      );
  };
  const place = (label: string, end: 'fromTick' | 'toTick') => (
    <NumberField
      label={`${label} of ${section.name}`}
      value={section[end]}
      min={0}
      max={map.endTick}
      show={(at) => (at >= map.endTick ? 'the end' : showTick(at))}
      read={readFree(end)}
      form="bar : beat + ticks, where no other section is"
      className="mono"
      onChange={(at) =>
        edit(end === 'fromTick' ? 'move where a section begins' : 'move where a section ends', { [end]: at })
      }
    />
  );
  return (
    <li ref={ref} className="flex min-h-9 flex-wrap items-center gap-x-1">
      <EditableText
        label={`name of section ${section.name}`}
        className="named text-lg"
        value={section.name}
        onChange={(name) => edit('rename a section', { name })}
      />
      , on{' '}
      <Choice
        label={`tape of ${section.name}`}
        value={section.tape}
        items={TAPES.map((tape) => ({ value: tape, label: tape }))}
        onChange={(tape) => edit('change the tape of a section', { tape: tape as TapeKind })}
      />
      , from {place('start', 'fromTick')} to {place('end', 'toTick')},
      <Choice
        label={`cues of ${section.name}`}
        value={section.repeats ?? ''}
        groups={[
          { name: '', items: [{ value: '', label: 'cues of its own' }] },
          ...(isRepeated
            ? []
            : [
                {
                  name: 'repeats',
                  items: alike.map(({ id, name }) => ({ value: id as string, label: `cues of ${name}` })),
                },
              ]),
          {
            name: 'copies, stretched to its length',
            items: others
              .filter(({ repeats }) => repeats === null)
              .map(({ id, name }) => ({ value: `copy ${id}`, label: `a copy of ${name}’s cues` })),
          },
        ]}
        onChange={follow}
      />
      {original && <span className="text-ink2">(edited together)</span>}
      {here && (
        <Button
          look="plain"
          aria-label={`jump to ${section.name} at the next bar`}
          onClick={() => host.post({ type: 'jump', toTick: section.fromTick, at: 'bar' })}
        >
          jump there
        </Button>
      )}
      {here && (
        <Button
          look="plain"
          aria-label={`loop ${section.name}`}
          onClick={() => host.post({ type: 'loop', range: { fromTick: section.fromTick, toTick: section.toTick } })}
        >
          loop
        </Button>
      )}
      <Button
        look="plain"
        aria-label={`remove section ${section.name}`}
        onClick={() => change('remove a section', withoutSection(song, section.id, mint))}
      >
        ×
      </Button>
    </li>
  );
}
